import { useBench } from '../../../state/bench/useBench.ts';
import { useEffect, useRef } from 'react';
import { useSearchParams } from 'react-router';
import { useCollectionsQuery } from '../../../api/collections.ts';
import { useAppDispatch } from '../../../app/store.ts';
import { begunWith, movedTo, opened, tabChosen, viewed } from '../../../state/bench/benchSlice.ts';
import { useStillHere } from '../../../parts/useStillHere.ts';
import type { View } from '../../../state/bench/benchState.ts';

const views: readonly View[] = ['table', 'documents', 'shape', 'chart', 'plan'];

/** The address holds the text, the line and the view, so that reload and share work. */
export function useAddress(): void {
  const [parameters, setParameters] = useSearchParams();
  const { text, sql, cursorLine, view, loaded, tabs, tab, isRestored } = useBench('text', 'sql', 'cursorLine', 'view', 'loaded', 'tabs', 'tab', 'isRestored'); // prettier-ignore
  const { data: collections } = useCollectionsQuery();
  const dispatch = useAppDispatch();
  const begun = useRef(loaded > 0);
  const isStillHere = useStillHere();

  useEffect(() => {
    if (begun.current || !isRestored) return;
    const question = parameters.get('sql');
    const given = question ?? parameters.get('text');
    const line = Number(parameters.get('line')) || undefined;
    const wanted = views.find((one) => one === parameters.get('view'));
    const same =
      given === null
        ? tabs.find(({ id }) => id === tab)
        : tabs.find(({ draft }) => (question === null ? draft.sql === null && draft.text === given : draft.sql === question));
    if (same !== undefined) {
      begun.current = true;
      dispatch(tabChosen(same.id));
      if (line) dispatch(movedTo(line));
      if (wanted) dispatch(viewed(wanted));
    } else if (given !== null) {
      begun.current = true;
      // The tab that was in front is brought back, so that the new one stands beside it.
      if (tabs.length > 0) dispatch(tabChosen(tab));
      dispatch(opened({ text: question === null ? given : '', sql: question, ...(line && { line }), ...(wanted && { view: wanted }) }));
    } else if (collections !== undefined) {
      begun.current = true;
      const largest = [...collections].sort((a, b) => b.count - a.count)[0];
      dispatch(
        begunWith({
          // Where there is nothing to read from yet, a line that cannot be read would be the first that one sees.
          text: largest === undefined ? '' : `from ${collections.find(({ name }) => name === 'bookings')?.name ?? largest.name}\n`,
          ...(wanted && { view: wanted }),
        }),
      );
    }
  }, [parameters, collections, dispatch, tabs, tab, isRestored]);

  useEffect(() => {
    if (!begun.current) return undefined;
    const timer = setTimeout(() => {
      if (isStillHere()) setParameters({ ...(sql === null ? { text } : { sql }), line: String(cursorLine), view }, { replace: true });
    }, 300);
    return () => clearTimeout(timer);
  }, [text, sql, cursorLine, view, setParameters, isStillHere]);
}
