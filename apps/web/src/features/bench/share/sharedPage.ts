import type { PlanStep, QueryAnswer } from '@zesty-sieve/contract';
import { columnLabel, columnsOf, valueAt } from '../../../parts/documents/columns.ts';
import { count, counted, duration } from '../../../parts/numbers.ts';

/** All that a page tells which somebody is sent. */
export interface Shared {
  readonly title: string;
  readonly note: string | null;
  /** The text as it was written, in the notation or in SQL. */
  readonly text: string;
  /** Whether lines of the text are those of the result: of SQL they are not. */
  readonly isNotation: boolean;
  readonly parameters: Readonly<Record<string, unknown>>;
  readonly result: QueryAnswer;
  /** The first rows. */
  readonly rows: readonly unknown[];
  /** The chart as SVG, where one is drawn. */
  readonly chart: string | null;
  readonly at: Date;
}

const escaped = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');

const style = `
body { font: 14px/1.45 system-ui, sans-serif; color: #23242d; background: #fff; margin: 2rem auto; max-width: 1100px; padding: 0 1rem; }
h1 { font-size: 20px; margin: 0 0 .25rem; } h2 { font-size: 14px; margin: 1.75rem 0 .5rem; }
.soft { color: #6b675f; } code, td, .lines { font-family: ui-monospace, monospace; font-size: 12.5px; }
.lines { border-collapse: collapse; } .lines td { padding: 2px 10px 2px 0; white-space: pre-wrap; vertical-align: top; }
.lines .n { text-align: right; font-variant-numeric: tabular-nums; } .bar { width: 90px; } .bar i { display: block; height: 12px; margin: 3px auto 0; background: #e08a36; border-radius: 2px; }
.rows { overflow-x: auto; } .rows table { border-collapse: collapse; } .rows th { text-align: left; font-size: 12px; color: #6b675f; }
.rows th, .rows td { padding: 3px 14px 3px 0; border-bottom: 1px solid #e7e0d4; white-space: nowrap; max-width: 420px; overflow: hidden; text-overflow: ellipsis; }
.num { text-align: right; } ul { margin: .25rem 0; padding-left: 1.25rem; } svg { max-width: 100%; height: auto; }
@media print { body { margin: 0; } }`;

/** A pipeline with its result as one file that needs nothing else: text, flow, rows, chart, plan. Nothing in it runs. */
export function sharedPage(shared: Shared): string {
  const { title, note, result, rows, chart, parameters, at } = shared;
  const { cost } = result;
  const given = Object.entries(parameters).map(([name, value]) => `:${name} = ${JSON.stringify(value)}`);
  const cut = result.bounded ? ' Not everything was read: it was a run while typing.' : '';
  const told = rows.length < result.rowsReturned ? `the first ${count(rows.length)} of ${counted(result.rowsReturned, 'row')}` : counted(result.rowsReturned, 'row');
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escaped(title)}</title><style>${style}</style></head><body>
<h1>${escaped(title)}</h1>
${note === null ? '' : `<p class="soft">${escaped(note)}</p>`}
<p class="soft">As of ${escaped(at.toISOString())}. Read ${counted(cost.documentsRead, 'document')} to return ${counted(result.rowsReturned, 'row')}, in ${duration(cost.timeMs)}.${cut}</p>
${result.approximate === null ? '' : `<p><b>Approximate:</b> the best of ${counted(result.approximate.effort, 'candidate')} that were looked at.</p>`}
${given.length === 0 ? '' : `<p><code>${escaped(given.join(', '))}</code></p>`}
<h2>What was asked</h2>
${flow(shared)}
${chart === null ? '' : `<h2>Chart</h2>\n${chart}`}
<h2>Rows: ${told}</h2>
<div class="rows">${table(rows)}</div>
<h2>Plan</h2>
<ul>${step(result.plan)}</ul>
</body></html>
`;
} // prettier-ignore

/** The lines, each with how many rows come out of it, as wide as that many are. */
function flow({ text, isNotation, result }: Shared): string {
  const out = new Map(isNotation ? result.lines.map(({ line, rowsOut }) => [line, rowsOut]) : []);
  const most = Math.max(1, ...out.values());
  const lines = text.trimEnd().split('\n').map((line, i) => {
    const rows = out.get(i + 1);
    const width = rows === undefined ? 0 : rows === 0 ? 1 : Math.max(3, Math.round(90 * (Math.log1p(rows) / Math.log1p(most))));
    return `<tr><td class="bar">${rows === undefined ? '' : `<i style="width:${width}px"></i>`}</td><td class="n">${rows === undefined ? '' : count(rows)}</td><td>${escaped(line)}</td></tr>`;
  });
  return `<table class="lines">${lines.join('\n')}</table>`;
} // prettier-ignore

function table(rows: readonly unknown[]): string {
  if (rows.length === 0) return '<p>No rows.</p>';
  const columns = columnsOf(rows);
  const cell = (value: unknown): string => {
    const text = value === undefined ? '' : typeof value === 'string' ? value : JSON.stringify(value);
    return `<td${typeof value === 'number' ? ' class="num"' : ''}>${escaped(text)}</td>`;
  };
  const head = columns.map(({ names }) => `<th>${escaped(columnLabel(names))}</th>`).join('');
  const body = rows.map((row) => `<tr>${columns.map(({ names }) => cell(valueAt(row, names))).join('')}</tr>`);
  return `<table><thead><tr>${head}</tr></thead><tbody>${body.join('\n')}</tbody></table>`;
}

function step({ step: name, detail, rows, documentsRead, indexEntriesRead, timeMs, inputs }: PlanStep): string {
  const figures = [
    ...(rows === null ? [] : [counted(rows, 'row')]),
    ...(documentsRead === null || documentsRead === 0 ? [] : [`${counted(documentsRead, 'document')} read`]),
    ...(indexEntriesRead === null || indexEntriesRead === 0 ? [] : [counted(indexEntriesRead, 'index entry', 'index entries')]),
    ...(timeMs === null ? [] : [duration(timeMs)]),
  ];
  const below = inputs.length === 0 ? '' : `<ul>${inputs.map(step).join('')}</ul>`;
  return `<li><b>${escaped(name)}</b> ${escaped(detail)} <span class="soft">${figures.join(' · ')}</span>${below}</li>`;
}
