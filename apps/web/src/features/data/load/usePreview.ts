import { apiUrl } from '../../../api/apiUrl.ts';
import type { ImportPreview } from '@zesty-sieve/contract';
import { useState } from 'react';
import { useAskedLater } from '../../../parts/asking/useAskedLater.ts';
import { problemText } from '../../../api/problems.ts';
import { contentTypes, isZipped, type FileFormat } from './fileKind.ts';

/** Bytes of a file's beginning that are looked at before it is loaded. */
const beginningBytes = 1024 * 1024;

export interface LoadOptions {
  readonly format: FileFormat;
  readonly delimiter: string;
  readonly header: 'yes' | 'no';
  /** Types of CSV columns that were chosen, by their names. */
  readonly columns: Readonly<Record<string, string>>;
}

export function optionsText({ format, delimiter, header, columns }: LoadOptions): Record<string, string> {
  if (format !== 'csv') return {};
  const chosen = Object.entries(columns).map(([name, type]) => `${name}:${type}`);
  return { delimiter, header, ...(chosen.length > 0 && { columns: chosen.join(',') }) };
}

/** What the beginning of a file holds, asked again as the choices change. */
export function usePreview(file: File, options: LoadOptions): { preview: ImportPreview | undefined; problem: string | undefined } {
  const [preview, setPreview] = useState<ImportPreview>();
  const [problem, setProblem] = useState<string>();
  const key = JSON.stringify(options);
  useAskedLater(
    `${file.name} ${file.size} ${file.lastModified}\n${key}`,
    async (_, signal) => {
      const query = new URLSearchParams({ ...optionsText(options), ...(file.size > beginningBytes && { part: 'beginning' }) });
      try {
        const response = await fetch(`${apiUrl('imports', 'preview')}?${query}`, {
          method: 'POST',
          headers: { 'content-type': contentTypes[options.format], ...(isZipped(file) && { 'content-encoding': 'gzip' }) },
          body: file.slice(0, beginningBytes),
          signal,
        });
        const data = (await response.json()) as ImportPreview;
        setPreview(response.ok ? data : undefined);
        setProblem(response.ok ? undefined : problemText({ data }));
      } catch (error) {
        if (!signal.aborted) setProblem((error as Error).message);
      }
    },
    0,
  );
  return { preview, problem };
}
