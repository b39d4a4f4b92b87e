import type { PublishedForm } from '@zesty-sieve/contract';
import { figure } from '../parts/numbers.ts';

interface Column {
  readonly names: readonly string[];
  readonly label: string;
}

const read = (row: unknown, names: readonly string[]): unknown => names.reduce<unknown>((value, name) => (typeof value === 'object' && value !== null ? (value as Record<string, unknown>)[name] : undefined), row); // prettier-ignore

/** The columns that the publisher has chosen, or those of the rows, objects taken apart. */
export function columnsOf(rows: readonly unknown[], chosen: PublishedForm['columns']): Column[] {
  if (chosen !== null) return chosen.map(({ path, label }) => ({ names: path.replace(/^@\.?/, '').split('.'), label: label ?? path.replace(/^@\.?/, '') }));
  const found = new Map<string, Column>();
  const visit = (value: unknown, names: readonly string[]): void => {
    if (typeof value === 'object' && value !== null && !Array.isArray(value) && names.length < 3) {
      for (const [name, inner] of Object.entries(value)) visit(inner, [...names, name]);
      return;
    }
    const id = JSON.stringify(names);
    if (!found.has(id)) found.set(id, { names, label: names.join('.') });
  };
  for (const row of rows) visit(row, []);
  return [...found.values()];
} // prettier-ignore

const shown = (value: unknown): string => (value === undefined || value === null ? '' : typeof value === 'string' ? value : typeof value === 'number' ? figure(value) : JSON.stringify(value)); // prettier-ignore

export function ResultTable({ rows, columns }: { readonly rows: readonly unknown[]; readonly columns: readonly Column[] }) {
  const numbers = new Set(columns.filter(({ names }) => rows.length > 0 && rows.every((row) => ['number', 'undefined'].includes(typeof read(row, names))))); // prettier-ignore
  const side = (column: Column) => (numbers.has(column) ? 'number' : undefined);
  return (
    // What scrolls is reached by the keyboard.
    // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex -- as above
    <div className="scroll" tabIndex={0} role="region" aria-label="Rows">
      <table>
        <thead>
          <tr>
            {columns.map((column, i) => (
              <th key={i} scope="col" className={side(column)}>
                {column.label}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, at) => (
            <tr key={at}>
              {columns.map((column, i) => (
                <td key={i} className={side(column)} title={shown(read(row, column.names))}>
                  {shown(read(row, column.names))}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
