import { useSnackbar } from 'notistack';
import type { QueryAnswer } from '@zesty-sieve/contract';
import { apiUrl } from '../../../api/apiUrl.ts';
import { useAppStore } from '../../../app/store.ts';
import { saveAs } from '../../../parts/saveAs.ts';
import { parametersFor } from '../../../state/bench/parameters.ts';
import { writtenIn } from '../../../state/bench/tabTurns.ts';

/** More rows than these nobody reads in a page that was sent. */
const mostRows = 1_000;

async function rowsOf({ runId, documents }: QueryAnswer): Promise<readonly unknown[]> {
  const response = await fetch(`${apiUrl('runs', runId, 'rows')}?offset=0&size=${mostRows}`).catch(() => undefined);
  // The rows of the run are kept for a while; the first page of them is here.
  return response?.ok === true ? ((await response.json()) as { documents: unknown[] }).documents : documents;
}

/** Saves the pipeline in front with its result as one HTML file. */
export function useShare(): () => Promise<void> {
  const store = useAppStore();
  const { enqueueSnackbar } = useSnackbar();
  return async () => {
    const { bench } = store.getState();
    const { answer } = bench.whole;
    if (answer === null || answer.asked.text !== bench.text) {
      enqueueSnackbar('There is no result of this text yet. Run it first.');
      return;
    }
    const [{ sharedPage }, { svgText }] = await Promise.all([import('./sharedPage.ts'), import('../output/chart/exportChart.ts')]);
    const title = bench.name ?? 'A pipeline';
    const svg = bench.view === 'chart' ? document.querySelector('svg.recharts-surface') : null;
    const page = sharedPage({
      title,
      note: bench.note,
      text: writtenIn(bench),
      isNotation: bench.sql === null,
      parameters: parametersFor(bench.parameters),
      result: answer.result,
      rows: await rowsOf(answer.result),
      chart: svg === null ? null : svgText(svg),
      at: new Date(),
    });
    saveAs(`${title}.html`, 'text/html', page);
  };
}
