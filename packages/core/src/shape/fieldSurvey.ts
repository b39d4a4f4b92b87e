import type { Json } from '../values/json.ts';
import { kindOf, type Kind } from '../values/kind.ts';
import { compareText } from '../values/order.ts';
import { DistinctSketch } from './distinct.ts';
import type { FieldInfo, Lengths } from './fieldTree.ts';
import { guessLanguage } from '../words/guessLanguage.ts';
import { formatOf, type TextFormat } from './formats.ts';
import { VectorSurvey } from './vectorSurvey.ts';

/** Different values counted per field before it is taken to have many. */
const distinctLimit = 64;
const topLimit = 12;
const exampleLength = 120;
/** Numbers kept for the histogram, and texts whose form is looked at; per field and part of a collection. */
const numbersKept = 256;
const textsLookedAt = 200;
const bars = 12;
/** Texts that a language is told by, and how much of each; shorter ones are names. */
const textsRead = 12;
const lettersRead = 400;
const leastRead = 20;

type Scalar = string | number | boolean;

class LengthSurvey {
  least = Infinity;
  greatest = 0;
  sum = 0;
  count = 0;

  add(length: number): void {
    if (length < this.least) this.least = length;
    if (length > this.greatest) this.greatest = length;
    this.sum += length;
    this.count++;
  }

  join(other: LengthSurvey): void {
    this.least = Math.min(this.least, other.least);
    this.greatest = Math.max(this.greatest, other.greatest);
    this.sum += other.sum;
    this.count += other.count;
  }

  info(): Lengths | undefined {
    return this.count === 0 ? undefined : { least: this.least, greatest: this.greatest, mean: this.sum / this.count };
  }
}

/** What is gathered of one field. Surveys of parts of a collection are joined to that of the whole. */
export class FieldSurvey {
  readonly fields = new Map<string, FieldSurvey>();
  element: FieldSurvey | undefined;
  documents = 0;
  private types: Partial<Record<Kind, number>> = {};
  private whole = 0;
  private least: number | string | undefined;
  private greatest: number | string | undefined;
  private values: Map<Scalar, number> | undefined = new Map();
  private sketch: DistinctSketch | undefined;
  private example: Json | undefined;
  private lastDocument = -1;
  private numbers: number[] = [];
  private numbersMet = 0;
  private readonly texts = new LengthSurvey();
  private readonly arrays = new LengthSurvey();
  private readonly vectors = new VectorSurvey();
  private read: string[] = [];
  private readonly formats = new Map<TextFormat | 'none', number>();
  private textsFormed = 0;
  private bytes = 0;
  private points = 0;

  meet(value: Json, document: number): void {
    if (this.lastDocument !== document) {
      this.lastDocument = document;
      this.documents++;
    }
    const kind = kindOf(value);
    this.types[kind] = (this.types[kind] ?? 0) + 1;
    if (value !== null && this.example === undefined) this.example = shortened(value);
    if (typeof value === 'number') {
      if (Number.isInteger(value)) this.whole++;
      this.range(value, value < Number(this.least), value > Number(this.greatest));
      this.keep(value);
      this.bytes += 6;
    } else if (typeof value === 'string') {
      this.range(value, compareText(value, String(this.least)) < 0, compareText(value, String(this.greatest)) > 0);
      this.texts.add(value.length);
      this.bytes += value.length + 2;
      if (this.read.length < textsRead && value.length >= leastRead) this.read.push(value.slice(0, lettersRead));
      if (this.textsFormed < textsLookedAt) {
        this.textsFormed++;
        const form = formatOf(value) ?? 'none';
        this.formats.set(form, (this.formats.get(form) ?? 0) + 1);
      }
    } else if (Array.isArray(value)) {
      this.arrays.add(value.length);
      this.vectors.add(value);
    } else if (typeof value === 'object' && value !== null && value.type === 'Point' && Array.isArray(value.coordinates)) {
      this.points++;
    }
    if (typeof value !== 'object') this.count(value, 1);
    else this.bytes += 4;
  }

  /** A range is kept of the type that came first; the types say where others are mixed in. */
  private range(value: number | string, below: boolean, above: boolean): void {
    if (this.least === undefined) {
      this.least = this.greatest = value;
    } else if (typeof this.least === typeof value) {
      if (below) this.least = value;
      if (above) this.greatest = value;
    }
  }

  /** A reservoir (Vitter, 1985) with a step that depends on the count alone, so that the same data gives the same bars. */
  private keep(value: number): void {
    this.numbersMet++;
    if (this.numbers.length < numbersKept) this.numbers.push(value);
    else {
      const place = (Math.imul(this.numbersMet, 0x9e3779b1) >>> 0) % this.numbersMet;
      if (place < numbersKept) this.numbers[place] = value;
    }
  }

  private count(value: Scalar, times: number): void {
    if (this.values === undefined) {
      this.sketch?.add(value);
      return;
    }
    this.values.set(value, (this.values.get(value) ?? 0) + times);
    if (this.values.size <= distinctLimit) return;
    this.sketch = new DistinctSketch();
    for (const known of this.values.keys()) this.sketch.add(known);
    this.values = undefined;
  }

  /** Takes over what another part of the collection showed of the same field. */
  join(other: FieldSurvey): void {
    this.documents += other.documents;
    for (const [kind, n] of Object.entries(other.types) as [Kind, number][]) this.types[kind] = (this.types[kind] ?? 0) + n;
    this.whole += other.whole;
    this.bytes += other.bytes;
    this.points += other.points;
    this.example ??= other.example;
    if (other.least !== undefined && other.greatest !== undefined) {
      const isBelow = (a: number | string, b: number | string | undefined) =>
        typeof a === 'number' ? a < Number(b) : compareText(a, String(b)) < 0;
      this.range(other.least, isBelow(other.least, this.least), false);
      this.range(other.greatest, false, this.greatest !== undefined && isBelow(this.greatest, other.greatest));
    }
    this.numbers.push(...other.numbers);
    this.numbersMet += other.numbersMet;
    this.texts.join(other.texts);
    this.arrays.join(other.arrays);
    this.vectors.join(other.vectors);
    this.read = [...this.read, ...other.read].slice(0, textsRead);
    for (const [form, n] of other.formats) this.formats.set(form, (this.formats.get(form) ?? 0) + n);
    if (other.values !== undefined) for (const [value, times] of other.values) this.count(value, times);
    else if (other.sketch !== undefined) {
      if (this.sketch === undefined) {
        this.sketch = new DistinctSketch();
        for (const known of this.values?.keys() ?? []) this.sketch.add(known);
        this.values = undefined;
      }
      this.sketch.join(other.sketch);
    }
    for (const [name, field] of other.fields) {
      let own = this.fields.get(name);
      if (own === undefined) this.fields.set(name, (own = new FieldSurvey()));
      own.join(field);
    }
    if (other.element) (this.element ??= new FieldSurvey()).join(other.element);
  }

  info(documents: number): FieldInfo {
    const top = [...(this.values ?? [])]
      .sort((a, b) => b[1] - a[1])
      .slice(0, topLimit)
      .map(([value, count]) => ({ value: typeof value === 'string' ? value.slice(0, exampleLength) : value, count }));
    const { types } = this;
    const textLengths = this.texts.info();
    const arrayLengths = this.arrays.info();
    const formats = this.formatShares();
    const vectors = this.vectors.info();
    const language = guessLanguage(this.read);
    return {
      types,
      presence: documents === 0 ? 0 : this.documents / documents,
      ...(types.number !== undefined && { whole: this.whole }),
      ...(this.least !== undefined && { least: this.least, greatest: this.greatest }),
      top,
      distinct: this.sketch === undefined ? { count: this.values?.size ?? 0, exact: true } : { count: this.sketch.estimate, exact: false },
      ...(this.histogram() ?? {}),
      ...(textLengths && { textLengths }),
      ...(arrayLengths && { arrayLengths }),
      ...(vectors && { vectors }),
      ...(language && { language }),
      ...(formats.length > 0 && { formats }),
      bytes: this.bytes,
      ...(this.example !== undefined && { example: this.example }),
    };
  }

  private formatShares(): { format: string; share: number }[] {
    const looked = [...this.formats.values()].reduce((a, b) => a + b, 0);
    const shares = [...this.formats]
      .filter(([format, n]) => format !== 'none' && n / looked >= 0.02)
      .map(([format, n]): { format: string; share: number } => ({ format, share: n / looked }))
      .sort((a, b) => b.share - a.share);
    const objects = this.types.object ?? 0;
    return this.points > 0 ? [{ format: 'GeoJSON Point', share: this.points / objects }, ...shares] : shares;
  }

  private histogram(): Pick<FieldInfo, 'histogram'> | undefined {
    if (this.numbers.length < 8) return undefined;
    const low = this.numbers.reduce((a, b) => Math.min(a, b));
    const high = this.numbers.reduce((a, b) => Math.max(a, b));
    if (low === high) return undefined;
    const counts = new Array<number>(bars).fill(0);
    for (const value of this.numbers) counts[Math.min(bars - 1, Math.floor(((value - low) / (high - low)) * bars))]!++;
    const scale = this.numbersMet / this.numbers.length;
    return { histogram: { from: low, to: high, counts: counts.map((n) => Math.round(n * scale)), exact: scale === 1 } };
  }
}

/** A value as an example: what is long ends with an ellipsis in the place of the rest, since nothing in it would say that it is empty. */
function shortened(value: Json): Json {
  if (typeof value === 'string') return value.slice(0, exampleLength);
  if (typeof value !== 'object' || value === null || JSON.stringify(value).length <= exampleLength) return value;
  const entries: [string, Json][] = [];
  let length = 0;
  for (const entry of Object.entries(value)) {
    length += JSON.stringify(entry).length;
    if (length > exampleLength) break;
    entries.push(entry);
  }
  return Array.isArray(value) ? [...entries.map(([, one]) => one), '…'] : { ...Object.fromEntries(entries), '…': '…' };
}
