import type { PublishedParameter } from '@zesty-sieve/contract';
import type { FormEvent } from 'react';
import { Choices } from './Choices.tsx';
import { ConditionRows } from './ConditionRows.tsx';
import type { Fault } from './asking.ts';

interface ParameterFormProps {
  readonly parameters: readonly PublishedParameter[];
  readonly given: URLSearchParams;
  readonly faults: readonly Fault[];
  readonly isAsking: boolean;
  /** Tells one filled-in form from another that is begun anew. */
  readonly edition: number;
  readonly onGiven: (given: URLSearchParams) => void;
  readonly onApply: () => void;
  readonly onClear: () => void;
}

/** What a publication takes, each by its kind. */
export function ParameterForm({ parameters, given, faults, isAsking, edition, onGiven, onApply, onClear }: ParameterFormProps) {
  const change = (name: string, values: readonly string[]) => {
    const next = new URLSearchParams(given);
    next.delete(name);
    for (const value of values) if (value !== '') next.append(name, value);
    onGiven(next);
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    onApply();
  };
  return (
    <form onSubmit={submit} aria-label="What is asked">
      {parameters.map((parameter) => {
        const { name, kind, label = name, note } = parameter;
        const own = faults.filter((fault) => fault.parameter === name);
        const under = (
          <>
            {note !== undefined && <span className="note">{note}</span>}
            {own.map(({ message }) => (
              <span key={message} className="fault" role="alert">{message}</span>
            ))}
          </>
        );
        if (kind === 'condition')
          return (
            <fieldset key={`${name} ${edition}`}>
              <legend>{label}</legend>
              <ConditionRows parameter={parameter} text={given.get(name) ?? ''} onText={(text) => change(name, [text])} />
              {under}
            </fieldset>
          );
        if (kind === 'list' && parameter.choices !== undefined)
          return (
            <fieldset key={name}>
              <legend>{label}{isWanted(parameter) && <span aria-hidden> *</span>}</legend>
              <Choices options={parameter.choices} chosen={given.getAll(name)} onChosen={(chosen) => change(name, chosen)} />
              {under}
            </fieldset>
          );
        return (
          <label key={name}>
            <span>{label}{isWanted(parameter) && <span aria-hidden> *</span>}</span>
            <ParameterInput parameter={parameter} values={given.getAll(name)} onValues={(values) => change(name, values)} />
            {under}
          </label>
        );
      })}
      {parameters.length === 0 && <span className="note">It takes nothing: everything is shown.</span>}
      <div className="actions">
        <button className="main" type="submit">{isAsking ? 'Asking…' : 'Apply'}</button>
        {parameters.length > 0 && <button type="button" onClick={onClear}>Clear</button>}
      </div>
    </form>
  );
} // prettier-ignore

const isWanted = ({ kind, default: usual }: PublishedParameter): boolean => kind !== 'condition' && usual === undefined;

interface ParameterInputProps {
  readonly parameter: PublishedParameter;
  readonly values: readonly string[];
  readonly onValues: (values: readonly string[]) => void;
}

function ParameterInput({ parameter, values, onValues }: ParameterInputProps) {
  const { kind, choices, least, greatest, default: usual } = parameter;
  const value = values[0] ?? '';
  const options = choices ?? (kind === 'boolean' ? [true, false] : undefined);
  const usually = usual === undefined ? '' : `${Array.isArray(usual) ? usual.join(', ') : String(usual)}, unless said`;
  if (kind === 'list') return <textarea rows={3} defaultValue={values.join('\n')} placeholder="one on each line" onChange={(event) => onValues(event.target.value.split('\n').filter((line) => line !== ''))} />;
  if (options !== undefined)
    return (
      <select value={value} onChange={(event) => onValues([event.target.value])}>
        <option value="">{usually === '' ? 'choose' : usually}</option>
        {options.map((one) => (
          <option key={String(one)}>{String(one)}</option>
        ))}
      </select>
    );
  const bounds = { ...(least !== undefined && { min: String(least) }), ...(greatest !== undefined && { max: String(greatest) }) };
  return <input type={kind === 'number' ? 'number' : kind === 'date' ? 'date' : 'text'} step="any" {...bounds} value={value} placeholder={usually} onChange={(event) => onValues([event.target.value])} />;
} // prettier-ignore
