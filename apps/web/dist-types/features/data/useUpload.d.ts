import type { ImportProgress, ImportResult, OnDuplicate } from '@zesty-sieve/contract';
export type UploadState =
  | {
      readonly kind: 'idle';
    }
  | {
      readonly kind: 'loading';
      readonly file: File;
      readonly progress: ImportProgress;
      readonly startedAt: number;
    }
  | {
      readonly kind: 'done';
      readonly file: File;
      readonly result: ImportResult;
      readonly seconds: number;
    }
  | {
      readonly kind: 'failed';
      readonly file: File;
      readonly message: string;
    };
/** One upload at a time, with its progress and its end. */
export declare function useUpload(collection: string): {
  state: UploadState;
  begin: (file: File, onDuplicate: OnDuplicate) => void;
  cancel: () => void;
  reset: () => void;
};
