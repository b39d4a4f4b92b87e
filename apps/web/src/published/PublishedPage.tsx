import type { PublishedForm } from '@zesty-sieve/contract';
import { lazy, Suspense, useCallback, useEffect, useState } from 'react';
import { addressOf, askForm, keepKey, type Fault, type Refusal, type Rows } from './asking.ts';
import { Downloads } from './Downloads.tsx';
import { ParameterForm } from './ParameterForm.tsx';
import { ResultTable } from './ResultTable.tsx';
import { useRows } from './useRows.ts';

const PublishedChart = lazy(async () => ({ default: (await import('./PublishedChart.tsx')).PublishedChart }));
const queryText = (given: URLSearchParams): string => (given.size === 0 ? '' : `?${given.toString()}`);

/** The page of a publication, for people who write no conditions: what is asked, and its rows. */
export function PublishedPage({ name }: { readonly name: string }) {
  const [form, setForm] = useState<PublishedForm>();
  const [notOpen, setNotOpen] = useState<Refusal>();
  const [given, setGiven] = useState(() => new URLSearchParams(location.search));
  const [edition, setEdition] = useState(0);
  const [asked, setAsked] = useState('');
  const [trouble, setTrouble] = useState<string>();
  const answered = useRows(name);
  const { ask: askFor, rows, isAsking } = answered;
  const refusal = notOpen ?? answered.refusal;
  const ask = useCallback(
    async (query: string) => {
      setTrouble(undefined);
      setAsked(query);
      await askFor(addressOf(name, query));
    },
    [name, askFor],
  );
  const begin = useCallback(async () => {
    const told = await askForm(name);
    if ('refusal' in told) return setNotOpen(told.refusal);
    setForm(told.value);
    setNotOpen(undefined);
    document.title = told.value.title ?? told.value.name;
    const called = new URLSearchParams(location.search);
    // What is wanted is asked for first.
    const isReady = told.value.parameters.every((one) => one.kind === 'condition' || one.default !== undefined || called.has(one.name));
    if (isReady || called.size > 0) await ask(queryText(called));
  }, [name, ask]);
  useEffect(() => void begin(), [begin]);
  useEffect(() => {
    const back = (): void => {
      const called = new URLSearchParams(location.search);
      setGiven(called);
      setEdition((now) => now + 1);
      void ask(queryText(called));
    };
    addEventListener('popstate', back);
    return () => removeEventListener('popstate', back);
  }, [ask]);

  const apply = (next: URLSearchParams) => {
    const query = queryText(next);
    if (query !== location.search) history.pushState(null, '', location.pathname + query);
    void ask(query);
  };
  const clear = () => {
    const next = new URLSearchParams();
    setGiven(next);
    setEdition((now) => now + 1);
    apply(next);
  };
  if (refusal?.status === 401) return <KeyWanted name={name} detail={refusal.detail} onKey={() => void begin()} />;
  if (form === undefined) return <main>{refusal === undefined ? 'One moment…' : <p role="alert" className="fault">{refusal.detail}</p>}</main>;
  const faults: readonly Fault[] = refusal?.faults ?? [];
  const known = new Set(form.parameters.map((one) => one.name));
  const others = faults.filter(({ parameter }) => !known.has(parameter));
  return (
    <>
      <header>
        <h1>{form.title ?? form.name}</h1>
        <span className="age" role="status">{rows !== undefined && ageText(ageOf(rows))}</span>
      </header>
      <div className="sides">
        <ParameterForm parameters={form.parameters} given={given} faults={faults} isAsking={isAsking} edition={edition} onGiven={setGiven} onApply={() => apply(given)} onClear={clear} />
        <main>
          {refusal !== undefined && (others.length > 0 || faults.length === 0) && <p className="fault" role="alert">{others.length > 0 ? others.map(({ message }) => message).join(' ') : refusal.detail}</p>}
          {trouble !== undefined && <p className="fault" role="alert">{trouble}</p>}
          {rows === undefined ? (
            refusal === undefined && <p className="note">Fill in what is wanted, and apply it.</p>
          ) : (
            <>
              <div className="bar">
                <b>{rows.documents.length.toLocaleString('en')} {rows.documents.length === 1 ? 'row' : 'rows'}{rows.hasMore && ', and more'}</b>
                {rows.approximate !== undefined && <span className="approximate">{rows.approximate}</span>}
                <span className="grow" />
                {rows.next !== undefined && <button type="button" onClick={() => void askFor(rows.next!, rows)}>Show more</button>}
                <Downloads key={asked} name={name} address={addressOf(name, asked)} onTold={setTrouble} />
              </div>
              {form.chart !== null && rows.documents.length > 0 && (
                <Suspense fallback={null}>
                  <div className="chart"><PublishedChart rows={rows.documents} saved={form.chart} /></div>
                </Suspense>
              )}
              {rows.documents.length === 0 ? <p>No row is so.</p> : <ResultTable rows={rows.documents} chosen={form.columns} />}
            </>
          )}
        </main>
      </div>
    </>
  );
} // prettier-ignore

/** Of what is shown, in seconds: kept rows may be older than the answer that rests on them. */
function ageOf({ age, asOf }: Rows): number {
  return asOf === undefined ? age : Math.max(age, Math.round((Date.now() - Date.parse(asOf)) / 1_000));
}

function ageText(seconds: number): string {
  if (seconds < 1) return 'as of now';
  if (seconds < 120) return `as of ${seconds} seconds ago`;
  return seconds < 7_200 ? `as of ${Math.round(seconds / 60)} minutes ago` : `as of ${Math.round(seconds / 3_600)} hours ago`;
}

function KeyWanted({ name, detail, onKey }: { readonly name: string; readonly detail: string; readonly onKey: () => void }) {
  const [key, setKey] = useState('');
  return (
    <main>
      <h1>{name}</h1>
      <form
        style={{ maxWidth: 420, minHeight: 0, border: 0 }}
        onSubmit={(event) => {
          event.preventDefault();
          keepKey(name, key.trim());
          onKey();
        }}
      >
        <label>
          <span>Its key</span>
          <input type="password" autoComplete="off" value={key} onChange={(event) => setKey(event.target.value)} autoFocus />
          <span className="note">It is forgotten when this tab is closed.</span>
        </label>
        {detail.includes('none of those') && <span className="fault" role="alert">{detail}</span>}
        <div className="actions"><button className="main">Open</button></div>
      </form>
    </main>
  );
} // prettier-ignore
