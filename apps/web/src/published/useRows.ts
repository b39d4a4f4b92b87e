import { useCallback, useRef, useState } from 'react';
import { askRows, type Refusal, type Rows } from './asking.ts';

interface State {
  readonly rows?: Rows;
  readonly refusal?: Refusal;
  readonly isAsking: boolean;
}

/** The rows of the last question. What an earlier one answers late is nobody's any more, and where one is refused no other's rows stand there. */
export function useRows(name: string) {
  const [state, setState] = useState<State>({ isAsking: false });
  const last = useRef<AbortController>(undefined);
  const ask = useCallback(
    /** @param before rows that the answer goes on from */
    async (address: string, before?: Rows) => {
      last.current?.abort();
      const own = new AbortController();
      last.current = own;
      setState((now) => ({ ...now, isAsking: true }));
      const told = await askRows(name, address, own.signal);
      if (last.current !== own) return;
      if ('refusal' in told) setState({ isAsking: false, refusal: told.refusal, ...(before !== undefined && { rows: before }) });
      else setState({ isAsking: false, rows: { ...told.value, documents: [...(before?.documents ?? []), ...told.value.documents] } });
    },
    [name],
  );
  return { ...state, ask };
}
