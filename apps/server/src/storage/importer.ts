import { readerFor, type ImportFormat } from '../formats/readerFor.ts';
import type { ImportOptions, ImportProgress, ImportResult } from '@zesty-sieve/contract';
import { BrokenFile, type FoundRecord, type RecordReader } from '../formats/record.ts';
import { lossesOf } from '../formats/scan.ts';
import { Unpacker } from '../formats/unpacker.ts';
import { ServerProblem } from '../problem.ts';
import type { Expected } from './expectations.ts';
import type { IdentityReader } from './identity.ts';
import type { DocumentWriter } from './writer.ts';

/** A set of documents is asked about before it is written: why each cannot be, where it cannot. */
export type Refusals = (texts: readonly string[]) => Promise<readonly (string | null)[]>;

const listedRejects = 10_000;
const listedWarnings = 1_000;

/** What a file is, and how it is read. */
export interface ImportKind {
  readonly format: ImportFormat;
  readonly zipped: boolean;
  readonly options: ImportOptions;
}

/** Turns the bytes of a file into documents of a collection, as they come in. */
export class Importer {
  readonly progress: ImportProgress = { phase: 'storing', bytes: 0, documents: 0, rejected: 0 };
  private readonly rejected: ImportResult['rejected'] = [];
  private readonly warnings: ImportResult['warnings'] = [];
  private readonly decoder = new TextDecoder('utf-8', { fatal: true, ignoreBOM: true });
  private readonly reader: RecordReader;
  private readonly unpacker: Unpacker | undefined;
  private readonly identity: IdentityReader;
  private readonly writer: DocumentWriter;
  private readonly refusals: Refusals | undefined;
  private readonly expected: Expected | undefined;

  constructor(
    { format, zipped, options }: ImportKind,
    identity: IdentityReader,
    writer: DocumentWriter,
    { refusals, expected }: { readonly refusals: Refusals | undefined; readonly expected: Expected | undefined },
  ) {
    this.identity = identity;
    this.writer = writer;
    this.refusals = refusals;
    this.expected = expected;
    this.reader = readerFor(format, options);
    if (zipped) this.unpacker = new Unpacker();
  }

  reject(line: number, reason: string): undefined {
    this.progress.rejected++;
    if (this.rejected.length < listedRejects) this.rejected.push({ line, reason });
  }

  /** @throws ServerProblem where the file as a whole cannot be read */
  async push(bytes: Uint8Array): Promise<void> {
    this.progress.bytes += bytes.length;
    const pieces = this.unpacker === undefined ? [bytes] : await this.unpacker.push(bytes).catch(this.notUnpacked);
    for (const piece of pieces) await this.take(piece, false);
  }

  async end(): Promise<ImportResult> {
    const pieces = (await this.unpacker?.end().catch(this.notUnpacked)) ?? [];
    for (const piece of pieces) await this.take(piece, false);
    await this.take(new Uint8Array(), true);
    await this.writer.finish();
    const { inserted, skipped, replaced } = this.writer.written;
    this.rejected.sort((a, b) => a.line - b.line);
    return { inserted, skipped, replaced, rejected: this.rejected, rejectedCount: this.progress.rejected, warnings: this.warnings };
  }

  private readonly notUnpacked = (error: Error): never => this.broken(`The gzip data is cut off or damaged: ${error.message}.`);

  private broken(detail: string): never {
    throw new ServerProblem('/malformed', `${detail} Nothing was stored.`);
  }

  private async take(bytes: Uint8Array, last: boolean): Promise<void> {
    let records: FoundRecord[];
    try {
      const text = this.decoder.decode(bytes, { stream: !last });
      records = text === '' ? [] : await this.reader.push(text);
      if (last) records = [...records, ...(await this.reader.end())];
    } catch (error) {
      if (error instanceof BrokenFile) this.broken(error.message);
      if (error instanceof TypeError) this.broken('The file is not UTF-8.');
      throw error;
    }
    const refused = this.refusals === undefined ? undefined : await this.refusals(records.map(({ text }) => text ?? 'null'));
    for (let i = 0; i < records.length; i++) {
      const waiting = this.record(records[i]!, refused?.[i] ?? undefined);
      // Waiting for nothing takes longer than a small document does.
      if (waiting !== undefined) await waiting;
    }
  }

  /** @returns what is to be waited for before the next one, where there is anything */
  private record({ line, text, problem, warnings = [] }: FoundRecord, refused: string | undefined): Promise<void> | undefined {
    if (text === undefined) return this.reject(line, problem ?? 'it cannot be read');
    const ready = this.identity.ready(text);
    if ('problem' in ready) return this.reject(line, ready.problem);
    if (refused !== undefined) return this.reject(line, refused);
    const unexpected = this.expected === undefined ? [] : this.expected.problemsOf(ready.parsed);
    if (unexpected.length > 0 && this.expected?.mode === 'refuse') {
      return this.reject(line, `it is not as expected: ${unexpected.join('; ')}`);
    }
    if (this.warnings.length < listedWarnings) {
      for (const problem of unexpected)
        this.warnings.push({ line, path: problem.split(' ')[0]!, reason: problem.slice(problem.indexOf(' ') + 1) });
      for (const loss of lossesOf(text, ready.parsed)) this.warnings.push({ line, ...loss });
      for (const warning of warnings) this.warnings.push({ line, ...warning });
    }
    this.progress.documents++;
    return this.writer.add({ ...ready, line });
  }
}
