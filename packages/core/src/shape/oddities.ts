import type { FieldStep, FlatField } from './fieldTree.ts';

/** Something about a field that a reader should look at. */
export interface Oddity {
  readonly code: 'several-types' | 'almost-always' | 'always-null' | 'number-as-text' | 'near-name';
  readonly message: string;
}

const almost = 0.95;
const percent = (share: number) => `${(share * 100).toFixed(share > 0.99 ? 2 : 1)} %`;

/** What is odd about the fields of a collection, in the order of the fields; most have nothing. */
export function odditiesOf(fields: readonly FlatField[]): Oddity[][] {
  const siblings = new Map<string, Siblings>();
  for (const { steps } of fields) {
    const last = steps[steps.length - 1]!;
    if (!('field' in last)) continue;
    const parent = parentOf(steps);
    let known = siblings.get(parent);
    if (known === undefined) siblings.set(parent, (known = new Siblings()));
    known.add(last.field);
  }
  return fields.map(({ steps, info }) => {
    const found: Oddity[] = [];
    const kinds = Object.entries(info.types).filter(([kind, n]) => kind !== 'null' && n > 0);
    const total = Object.values(info.types).reduce((a, b) => a + b, 0);
    if (kinds.length > 1) {
      const told = kinds.sort((a, b) => b[1] - a[1]).map(([kind, n]) => `${kind} ${percent(n / total)}`);
      found.push({ code: 'several-types', message: `has several types: ${told.join(', ')}` });
    }
    const inside = steps.some((step) => 'element' in step);
    if (!inside && info.presence < 1 && info.presence >= almost)
      found.push({ code: 'almost-always', message: `is missing in ${percent(1 - info.presence)} of the documents` });
    if (kinds.length === 0 && (info.types.null ?? 0) > 0) found.push({ code: 'always-null', message: 'is null wherever it is' });
    const numeric = info.formats?.find(({ format }) => format === 'number');
    if (numeric !== undefined && (numeric.share > 0.8 || (info.types.number ?? 0) > 0))
      found.push({ code: 'number-as-text', message: 'holds numbers as text' });
    const last = steps[steps.length - 1]!;
    if ('field' in last) {
      const near = siblings.get(parentOf(steps))?.near(last.field);
      if (near !== undefined) found.push({ code: 'near-name', message: `has nearly the name of ${near}` });
    }
    return found;
  });
}

function parentOf(steps: readonly FieldStep[]): string {
  return JSON.stringify(steps.slice(0, -1));
}

/** Shorter names are like each other by chance. */
const shortest = 3;

/** The fields of one object, by what is left of their names without case and separators: there may be thousands. */
class Siblings {
  private readonly byPlain = new Map<string, { readonly name: string; readonly at: number }[]>();
  private count = 0;

  add(name: string): void {
    const plain = plainOf(name);
    const known = this.byPlain.get(plain);
    const one = { name, at: this.count++ };
    if (known === undefined) this.byPlain.set(plain, [one]);
    else known.push(one);
  }

  /** The first that is the same but for case, separators, or a plural. */
  near(name: string): string | undefined {
    const plain = plainOf(name);
    const alike = [plain, `${plain}s`, plain.endsWith('s') ? plain.slice(0, -1) : ''].filter(({ length }) => length >= shortest);
    // Of those with one plain name, the second where the first is the field itself.
    const found = alike.flatMap((one) => this.byPlain.get(one)?.find((other) => other.name !== name) ?? []);
    return found.sort((a, b) => a.at - b.at)[0]?.name;
  }
}

function plainOf(name: string): string {
  return name.toLowerCase().replace(/[\s_.-]/g, '');
}
