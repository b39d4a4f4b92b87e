import type { PublishedField, PublishedParameter } from '@zesty-sieve/contract';
import { useState } from 'react';
import { Choices } from './Choices.tsx';
import {
  conditionOf,
  itemsOf,
  listOf,
  retested,
  rowsOf,
  takesValue,
  testsOf,
  type ConditionRow,
  type Joined,
  type RowTest,
} from './conditionText.ts';

/** The fields of a condition, each with what is said of it. */
export const fieldsOf = ({ fields = [] }: PublishedParameter): PublishedField[] =>
  fields.map((field) => (typeof field === 'string' ? { path: field } : field));

const named = ({ path, label }: PublishedField): string => label ?? path.replace(/^@\.?/, '');

/** A condition as rows: a field, a test and a value each. */
export function ConditionRows({ parameter, text, onText }: { readonly parameter: PublishedParameter; readonly text: string; readonly onText: (text: string) => void }) {
  const fields = fieldsOf(parameter);
  const [known, setKnown] = useState(() => rowsOf(text, fields));
  const [first] = fields;
  if (known === undefined)
    return (
      <label>
        <span className="note">Written out, as it came with the address.</span>
        <textarea rows={3} value={text} onChange={(event) => onText(event.target.value)} aria-label={parameter.label ?? parameter.name} />
        <button type="button" className="plain" onClick={() => (setKnown({ rows: [], joined: 'all' }), onText(''))}>
          Begin anew with rows
        </button>
      </label>
    );
  const { rows, joined } = known;
  const write = (next: readonly ConditionRow[], how: Joined = joined) => {
    setKnown({ rows: next, joined: how });
    onText(conditionOf(next, how, fields));
  };
  const change = (at: number, changes: Partial<ConditionRow>) => write(rows.map((row, i) => (i === at ? { ...row, ...changes } : row)));
  return (
    <>
      {rows.length > 1 && (
        <select aria-label="How the conditions are joined" value={joined} onChange={(event) => write(rows, event.target.value as Joined)}>
          <option value="all">all of these hold</option>
          <option value="any">any of these holds</option>
        </select>
      )}
      {rows.map((row, at) => {
        const field = fields.find(({ path }) => path === row.path) ?? { path: row.path };
        return (
          <div className="row" key={at}>
            <div>
              <select aria-label={`Field of condition ${at + 1}`} value={row.path} onChange={(event) => change(at, { path: event.target.value, test: 'is', value: '' })}>
                {fields.map((one) => (
                  <option key={one.path} value={one.path}>{named(one)}</option>
                ))}
              </select>
              <select aria-label={`Test of condition ${at + 1}`} value={row.test} onChange={(event) => change(at, retested(row, event.target.value as RowTest))}>
                {testsOf(field).map((test) => (
                  <option key={test}>{test}</option>
                ))}
              </select>
              {takesValue(row.test) && <RowValue field={field} row={row} at={at} onValue={(value) => change(at, { value })} />}
            </div>
            <button type="button" className="plain" aria-label={`Remove condition ${at + 1}`} onClick={() => write(rows.filter((_, i) => i !== at))}>×</button>
            {field.note !== undefined && <span className="note">{field.note}</span>}
          </div>
        );
      })}
      {first !== undefined && (
        <button type="button" className="plain" onClick={() => write([...rows, { path: first.path, test: testsOf(first)[0] ?? 'is', value: '' }])}>
          + condition
        </button>
      )}
    </>
  );
} // prettier-ignore

function RowValue({ field, row, at, onValue }: { readonly field: PublishedField; readonly row: ConditionRow; readonly at: number; readonly onValue: (value: string) => void }) {
  const label = `Value of condition ${at + 1}`;
  const options = field.choices ?? (field.type === 'boolean' ? [true, false] : undefined);
  if (options !== undefined && row.test === 'one of')
    return <Choices label={label} options={options} chosen={itemsOf(row.value)} onChosen={(chosen) => onValue(listOf(chosen))} />;
  if (options !== undefined)
    return (
      <select aria-label={label} value={row.value} onChange={(event) => onValue(event.target.value)}>
        <option value="">choose</option>
        {options.map((one) => (
          <option key={String(one)}>{String(one)}</option>
        ))}
      </select>
    );
  const type = row.test === 'one of' ? 'text' : field.type === 'number' ? 'number' : field.type === 'date' ? 'date' : 'text';
  return <input aria-label={label} type={type} step="any" value={row.value} placeholder={row.test === 'one of' ? 'a, b, c' : (field.unit ?? '')} onChange={(event) => onValue(event.target.value)} />;
} // prettier-ignore
