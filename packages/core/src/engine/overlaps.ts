import { pathText } from '../language/surfaces/notation/print.ts';
import type { FieldStep, FlatField } from '../shape/fieldTree.ts';
import { ValueSample } from '../shape/valueSample.ts';
import type { DocumentStore } from '../storage/store.ts';
import { readField } from '../values/fields.ts';
import type { Json, Value } from '../values/json.ts';
import type { Pause } from './pause.ts';

/** Two fields whose values overlap: candidates for a join. */
export interface Overlap {
  readonly first: string;
  readonly second: string;
  /** Share of the first field's different values that the second has, 0 to 1; and the other way. */
  readonly share: number;
  readonly back: number;
  /** Different values that both have; of a sample, about so many. */
  readonly common: number;
  /** Whether each value stands in one document at most, on each side. */
  readonly unique: readonly [boolean, boolean];
}

export interface Overlaps {
  readonly pairs: readonly Overlap[];
  /** Whether the shares are of a sample, since there is more than can be held. */
  readonly sampled: boolean;
  /** Fields of either side that could be keys and were not looked at. */
  readonly passedOver: readonly [number, number];
}

/** What is kept of each field, and read of a collection in all; shares beyond are those of a sample. */
const valuesKept = 60_000;
const valuesRead = 30_000_000;
const longestKey = 80;
const fieldsLookedAt = 120;
const pairsTold = 40;
const leastShare = 0.2;

interface FieldValues {
  readonly path: string;
  readonly values: ValueSample;
  readonly kind: 'text' | 'number';
}
interface Side {
  readonly fields: readonly FieldValues[];
  readonly everyDocument: boolean;
  readonly passedOver: number;
}

/** Pairs of fields of two collections whose values overlap, the likeliest first. */
export async function overlapsOf(
  first: { readonly fields: readonly FlatField[]; readonly store: DocumentStore },
  second: { readonly fields: readonly FlatField[]; readonly store: DocumentStore },
  pause: Pause,
): Promise<Overlaps> {
  const left = await sideOf(first.fields, first.store, pause);
  const right = await sideOf(second.fields, second.store, pause);
  const pairs: Overlap[] = [];
  let sampled = !left.everyDocument || !right.everyDocument;
  for (const a of left.fields) {
    for (const b of right.fields) {
      // Numbers meet by chance; where neither side is a key they say nothing.
      if (a.kind !== b.kind || (a.kind === 'number' && !a.values.isUnique && !b.values.isUnique)) continue;
      await pause();
      const { common, share, back, exact } = a.values.with(b.values);
      if (Math.max(share, back) < leastShare || common <= 1) continue;
      if (!exact) sampled = true;
      pairs.push({ first: a.path, second: b.path, share, back, common, unique: [a.values.isUnique, b.values.isUnique] });
    }
  }
  const worth = ({ share, back, unique }: Overlap) => Math.max(unique[1] ? share : 0, unique[0] ? back : 0) + Math.max(share, back) / 10;
  pairs.sort((x, y) => worth(y) - worth(x));
  return { pairs: pairs.slice(0, pairsTold), sampled, passedOver: [left.passedOver, right.passedOver] };
}

async function sideOf(fields: readonly FlatField[], store: DocumentStore, pause: Pause): Promise<Side> {
  const all = fields.filter(isCandidate);
  const candidates = all.slice(0, fieldsLookedAt);
  const samples = candidates.map(() => new ValueSample(valuesKept));
  const { documents } = store;
  const step = Math.max(1, Math.ceil((documents.length * candidates.length) / valuesRead));
  for (let i = 0, n = 0; i < documents.length; i += step, n++) {
    if (n % 500 === 499) await pause();
    const document = documents[i];
    if (document === undefined) continue;
    candidates.forEach(({ steps }, k) => visit(document, steps, 0, (value) => samples[k]!.add(value)));
  }
  return {
    fields: candidates.flatMap(({ steps, info }, k): FieldValues[] => {
      const values = samples[k]!;
      const kind = (info.types.number ?? 0) > (info.types.text ?? 0) ? 'number' : 'text';
      return values.size < 2 ? [] : [{ path: pathOf(steps), values, kind }];
    }),
    everyDocument: step === 1,
    passedOver: all.length - candidates.length,
  };
}

/** Short texts and whole numbers can be keys; dates and measures meet by chance. */
function isCandidate({ info }: FlatField): boolean {
  const texts = info.types.text ?? 0;
  const numbers = info.types.number ?? 0;
  if (texts + numbers === 0) return false;
  if (texts >= numbers)
    return (
      (info.textLengths?.mean ?? 0) <= longestKey && !info.formats?.some(({ format, share }) => format.startsWith('date') && share > 0.5)
    );
  return info.whole === numbers;
}

function visit(value: Value, steps: readonly FieldStep[], at: number, take: (value: string | number) => void): void {
  if (value === undefined) return;
  if (at === steps.length) {
    if (typeof value === 'number' || (typeof value === 'string' && value.length <= longestKey)) take(value);
    return;
  }
  const step = steps[at]!;
  if ('field' in step) visit(readField(value, step.field), steps, at + 1, take);
  else if (Array.isArray(value)) for (const item of value as Json[]) visit(item, steps, at + 1, take);
}

function pathOf(steps: readonly FieldStep[]): string {
  return steps.reduce((path, step) => ('field' in step ? pathText([step.field], path) : `${path}[*]`), '@');
}
