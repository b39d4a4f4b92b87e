import { useCallback, useRef, useState } from 'react';
import type { ImportProgress, ImportResult, OnDuplicate } from '@zesty-sieve/contract';
import { api } from '../../../api/base.ts';
import { useAppDispatch } from '../../../app/store.ts';
import { leaveUpload, upload, type Given } from './upload.ts';
import type { LoadOptions } from './usePreview.ts';

/** The file, and the collection that it goes into. */
interface Upload {
  readonly file: File;
  readonly into: string;
}

export type UploadState =
  | { readonly kind: 'idle' }
  | ({ readonly kind: 'loading'; readonly progress: ImportProgress; readonly startedAt: number } & Upload)
  | ({ readonly kind: 'done'; readonly result: ImportResult; readonly seconds: number } & Upload)
  | ({ readonly kind: 'failed'; readonly message: string } & Upload);

/** One upload at a time, with its progress and its end. */
export function useUpload(): {
  state: UploadState;
  begin: (upload: Upload, onDuplicate: OnDuplicate, options: LoadOptions) => void;
  cancel: () => void;
  reset: () => void;
} {
  const [state, setState] = useState<UploadState>({ kind: 'idle' });
  const underWay = useRef<{ readonly track: string; readonly abort: AbortController } | null>(null);
  const dispatch = useAppDispatch();

  const begin = useCallback(
    ({ file, into }: Upload, onDuplicate: OnDuplicate, options: LoadOptions) => {
      const abort = new AbortController();
      const track = Math.random().toString(36).slice(2);
      underWay.current = { track, abort };
      const startedAt = performance.now();
      // An answer about the progress may arrive after the end.
      const loading = (progress: ImportProgress) => setState((now) => (now.kind === 'loading' ? { ...now, progress } : now));
      setState({ kind: 'loading', file, into, startedAt, progress: { phase: 'receiving', bytes: 0, documents: 0, rejected: 0 } });
      upload({ collection: into, file, onDuplicate, options, onProgress: loading, signal: abort.signal, track })
        .then(
          (result) => setState({ kind: 'done', file, into, result, seconds: (performance.now() - startedAt) / 1000 }),
          (error: Error) =>
            setState({
              kind: 'failed',
              file,
              into,
              message: abort.signal.reason === ('cancelled' satisfies Given) ? 'Loading was cancelled. Nothing was stored.' : error.message,
            }),
        )
        .finally(() => {
          underWay.current = null;
          dispatch(
            api.util.invalidateTags([
              'Collections',
              { type: 'Shape', id: into },
              { type: 'Documents', id: into },
              { type: 'Indexes', id: into },
            ]),
          );
        });
    },
    [dispatch],
  );

  const cancel = () => {
    const now = underWay.current;
    if (now !== null) void leaveUpload(now.track, now.abort, () => underWay.current === now);
  };
  return { state, begin, cancel, reset: () => setState({ kind: 'idle' }) };
}
