import { compileValue, type Evaluate } from '../../expressions/compile.ts';
import { makeContext, type Context } from '../../expressions/context.ts';
import { compileCondition } from '../../expressions/compile.ts';
import { keyOf } from '../../values/keys.ts';
import type { Json, JsonObject, Value } from '../../values/json.ts';
import type { IndexDefinition } from '../definition.ts';

/** The values of an index's keys for one document; `undefined` where a key is missing. */
export type KeyTuple = readonly Value[];

/** Takes the entries of a document: one tuple as a rule, one for each different element of an array key. */
export class KeyReader {
  private readonly evaluators: readonly Evaluate[];
  private readonly covers: (document: Json, context: Context) => boolean;
  private readonly several: number;
  private readonly context = makeContext({});

  constructor({ keys, where }: IndexDefinition) {
    this.evaluators = keys.map((key) => compileValue(key.expression));
    this.covers = where === undefined ? () => true : compileCondition(where);
    this.several = keys.findIndex((key) => key.several);
  }

  /** No entry where the document is outside the index's condition, or has none of the keys. */
  tuplesOf(document: JsonObject): KeyTuple[] {
    if (!this.covers(document, this.context)) return [];
    const tuple = this.evaluators.map((evaluate) => evaluate(document, this.context));
    if (this.several < 0) return tuple.every((value) => value === undefined) ? [] : [tuple];
    const elements = tuple[this.several] as Json[];
    // An array without elements still has its place by the other keys.
    if (elements.length === 0)
      return tuple.every((value, i) => i === this.several || value === undefined) ? [] : [without(tuple, this.several)];
    const different = new Map(elements.map((element) => [keyOf(element), element]));
    return [...different.values()].map((element) => tuple.map((value, i) => (i === this.several ? element : value)));
  }

  /**
   * The same without a tuple of its own for each document: puts the keys at the ends of columns. Not for keys of array elements.
   * @returns whether the document has an entry
   */
  putInto(columns: readonly Value[][], document: JsonObject): boolean {
    if (!this.covers(document, this.context)) return false;
    const { evaluators } = this;
    let isThere = false;
    for (let k = 0; k < evaluators.length; k++) {
      const value = evaluators[k]!(document, this.context);
      isThere ||= value !== undefined;
      columns[k]!.push(value);
    }
    if (!isThere) for (const column of columns) column.pop();
    return isThere;
  }

  get hasSeveral(): boolean {
    return this.several >= 0;
  }

  isCovered(document: JsonObject): boolean {
    return this.covers(document, this.context);
  }
}

function without(tuple: KeyTuple, at: number): KeyTuple {
  return tuple.map((value, i) => (i === at ? undefined : value));
}
