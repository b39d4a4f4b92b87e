import { createGunzip, constants } from 'node:zlib';
import type { ImportOptions, ImportPreview } from '@zesty-sieve/contract';
import { odditiesOf, surveyFields, type JsonObject } from '@zesty-sieve/core';
import { readerFor, type ImportFormat } from './readerFor.ts';
import { ServerProblem } from '../problem.ts';
import { readDocument } from './readDocument.ts';
import { fieldOf } from '../told/fieldOf.ts';
import type { FoundRecord } from './record.ts';

const documentsShown = 20;
const delimiters = [',', ';', '\t', '|'];

/** The text of a file's beginning, which may be cut off anywhere. */
async function beginningOf(given: Uint8Array, zipped: boolean): Promise<{ text: string; isCut: boolean }> {
  const { bytes, isCut } = zipped ? await unzipped(given) : { bytes: given, isCut: false };
  const text = new TextDecoder('utf-8').decode(bytes);
  // The last character may be cut in two.
  return { text: text.replace(/\ufffd$/, ''), isCut };
}

/** As much of what a file unpacks to as is looked at. */
const unpackedLimit = 16 * 1024 * 1024;

/** @throws ServerProblem where the data are damaged from their beginning */
function unzipped(bytes: Uint8Array): Promise<{ bytes: Uint8Array; isCut: boolean }> {
  return new Promise((resolve, reject) => {
    const pieces: Buffer[] = [];
    let size = 0;
    const gunzip = createGunzip({ finishFlush: constants.Z_SYNC_FLUSH });
    gunzip.on('data', (piece: Buffer) => {
      pieces.push(piece);
      size += piece.length;
      if (size < unpackedLimit) return;
      resolve({ bytes: Buffer.concat(pieces), isCut: true });
      gunzip.destroy();
    });
    gunzip.on('end', () => resolve({ bytes: Buffer.concat(pieces), isCut: false }));
    gunzip.on('error', (error) => reject(new ServerProblem('/malformed', `The gzip data is cut off or damaged: ${error.message}.`)));
    gunzip.end(bytes);
  });
}

/** What the beginning of a file holds: its first documents, their shape, and what could be their identity. */
export async function previewImport(
  bytes: Uint8Array,
  isWhole: boolean,
  zipped: boolean,
  format: ImportFormat,
  options: ImportOptions,
): Promise<ImportPreview> {
  const { text, isCut } = await beginningOf(bytes, zipped);
  const isComplete = isWhole && !isCut;
  const delimiter = format === 'csv' ? likelyDelimiter(text) : undefined;
  const reader = readerFor(format, options);
  let records: FoundRecord[] = [];
  const problems: ImportPreview['problems'] = [];
  try {
    records = await reader.push(isComplete ? text : cutAtLine(text, format));
    if (isComplete || format !== 'json') records = [...records, ...(await reader.end())];
  } catch (error) {
    problems.push({ line: 1, reason: (error as Error).message });
  }
  const documents: JsonObject[] = [];
  for (const { line, text: body, problem } of records) {
    const read = body === undefined ? { problem: problem ?? 'it is no JSON object' } : readDocument(body);
    if ('parsed' in read) documents.push(read.parsed);
    else problems.push({ line, reason: read.problem });
  }
  const fields = surveyFields(documents);
  const oddities = odditiesOf(fields);
  return {
    documents: documents.slice(0, documentsShown),
    shape: fields.map((field, i) => fieldOf(field, oddities[i])),
    problems: problems.slice(0, 100),
    identities: identitiesOf(documents),
    ...(delimiter !== undefined && { delimiter }),
  };
}

/** Without the record in which a part of a file ends. */
function cutAtLine(text: string, format: ImportFormat): string {
  return format === 'json' ? text : text.slice(0, text.lastIndexOf('\n') + 1);
}

function likelyDelimiter(text: string): string {
  const [first = ''] = text.split('\n', 1);
  const counted = delimiters.map((sign) => [sign, first.split(sign).length] as const);
  return counted.reduce((best, one) => (one[1] > best[1] ? one : best))[0];
}

/** Fields at the top whose values are all there, texts or numbers, and all different. */
function identitiesOf(documents: readonly JsonObject[]): string[] {
  const [first] = documents;
  if (first === undefined) return [];
  return Object.keys(first)
    .filter((name) => /^[A-Za-z_][A-Za-z0-9_]*$/.test(name))
    .filter((name) => {
      const values = documents.map((document) => document[name]);
      return (
        values.every((value) => typeof value === 'string' || typeof value === 'number') &&
        new Set(values.map(String)).size === values.length
      );
    })
    .map((name) => `@.${name}`);
}
