import { useEffect, useRef, useState } from 'react';
import { stringify, type CopyFormat } from '../parts/documents/rowsAsText.ts';
import { fetchAllRows, saveText } from './download.ts';

const formats: readonly CopyFormat[] = ['csv', 'json', 'ndjson'];

interface DownloadsProps {
  readonly name: string;
  /** Of what is shown, whatever has been filled in since. */
  readonly address: string;
  readonly onTold: (words: string | undefined) => void;
}

/** All rows of what is shown as a file, however many parts they come in; it can be stopped. */
export function Downloads({ name, address, onTold }: DownloadsProps) {
  const [fetched, setFetched] = useState<number>();
  const under = useRef<AbortController>(undefined);
  useEffect(() => () => under.current?.abort(), []);
  const fetchAs = async (format: CopyFormat) => {
    const own = new AbortController();
    under.current = own;
    setFetched(0);
    onTold(undefined);
    const told = await fetchAllRows(name, address, setFetched, own.signal);
    setFetched(undefined);
    if (own.signal.aborted) onTold('It was stopped, and nothing was saved.');
    else if ('refusal' in told) onTold(`It could not be fetched: ${told.refusal.detail}`);
    else {
      saveText(stringify(told.documents, format), `${name}.${format}`);
      onTold(told.note);
    }
  };
  if (fetched !== undefined)
    return (
      <>
        <span className="note" role="status">{fetched.toLocaleString('en')} rows fetched…</span>
        <button type="button" onClick={() => under.current?.abort()}>Stop</button>
      </>
    );
  return formats.map((format) => (
    <button key={format} type="button" onClick={() => void fetchAs(format)}>
      Download {format.toUpperCase()}
    </button>
  ));
} // prettier-ignore
