import { pathText } from '../language/surfaces/notation/print.ts';
import type { FieldStep, FlatField } from '../shape/fieldTree.ts';
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
  /** Different values that both have. */
  readonly common: number;
  /** Whether each value stands in one document at most, on each side. */
  readonly unique: readonly [boolean, boolean];
}

/** Documents and values looked at per field: shares beyond are those of a sample. */
const documentsLookedAt = 100_000;
const valuesKept = 60_000;
const longestKey = 80;
const fieldsLookedAt = 120;
const leastShare = 0.2;

interface FieldValues {
  readonly path: string;
  readonly values: ReadonlySet<string | number>;
  readonly unique: boolean;
  readonly kind: 'text' | 'number';
}

/** Pairs of fields of two collections whose values overlap, the likeliest first. */
export async function overlapsOf(
  first: { readonly fields: readonly FlatField[]; readonly store: DocumentStore },
  second: { readonly fields: readonly FlatField[]; readonly store: DocumentStore },
  pause: Pause,
): Promise<Overlap[]> {
  const left = await valuesOf(first.fields, first.store, pause);
  const right = await valuesOf(second.fields, second.store, pause);
  const found: Overlap[] = [];
  for (const a of left) {
    await pause();
    for (const b of right) {
      // Numbers meet by chance; where neither side is a key they say nothing.
      if (a.kind !== b.kind || (a.kind === 'number' && !a.unique && !b.unique)) continue;
      const [small, large] = a.values.size <= b.values.size ? [a.values, b.values] : [b.values, a.values];
      let common = 0;
      for (const value of small) if (large.has(value)) common++;
      const share = common / a.values.size;
      const back = common / b.values.size;
      if (Math.max(share, back) >= leastShare && common > 1)
        found.push({ first: a.path, second: b.path, share, back, common, unique: [a.unique, b.unique] });
    }
  }
  const worth = ({ share, back, unique }: Overlap) => Math.max(unique[1] ? share : 0, unique[0] ? back : 0) + Math.max(share, back) / 10;
  return found.sort((x, y) => worth(y) - worth(x)).slice(0, 40);
}

async function valuesOf(fields: readonly FlatField[], store: DocumentStore, pause: Pause): Promise<FieldValues[]> {
  const candidates = fields.filter(isCandidate).slice(0, fieldsLookedAt);
  const sets = candidates.map(() => ({ values: new Set<string | number>(), met: 0 }));
  const { documents } = store;
  const step = Math.max(1, Math.ceil(documents.length / documentsLookedAt));
  for (let i = 0, n = 0; i < documents.length; i += step, n++) {
    if (n % 2_000 === 1_999) await pause();
    const document = documents[i];
    if (document === undefined) continue;
    candidates.forEach(({ steps }, k) => {
      const set = sets[k]!;
      if (set.values.size >= valuesKept) return;
      visit(document, steps, 0, (value) => {
        set.met++;
        set.values.add(value);
      });
    });
  }
  return candidates.flatMap(({ steps, info }, k): FieldValues[] => {
    const { values, met } = sets[k]!;
    if (values.size < 2) return [];
    return [
      {
        path: pathOf(steps),
        values,
        unique: values.size === met,
        kind: (info.types.number ?? 0) > (info.types.text ?? 0) ? 'number' : 'text',
      },
    ];
  });
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
