import { compileCondition } from '../expressions/compile.ts';
import { makeContext } from '../expressions/context.ts';
import { parseConditionText } from '../language/surfaces/notation/texts.ts';
import type { Json } from '../values/json.ts';

/** How many of the rows that reach a line each condition would keep alone. */
export interface ConditionCounts {
  /** Rows that reach the line. */
  readonly rows: number;
  /** For each condition asked about, in their order; null for one that cannot be read. */
  readonly alone: readonly (number | null)[];
  /** Whether only the first documents were looked at. */
  readonly bounded: boolean;
}

/** Counts rows by several conditions, each of them for itself. */
export class ConditionCounter {
  private readonly tests: readonly (((row: Json) => boolean) | null)[];
  private readonly counts: number[];
  private rows = 0;

  constructor(conditions: readonly string[], parameters: Readonly<Record<string, Json>>, now: string) {
    const context = makeContext(parameters, now);
    this.tests = conditions.map((text) => {
      const read = parseConditionText(givenFor(text, parameters));
      if ('finding' in read) return null;
      const holds = compileCondition(read.expression);
      return (row) => holds(row, context);
    });
    this.counts = conditions.map(() => 0);
  }

  add(rows: readonly Json[]): void {
    this.rows += rows.length;
    this.tests.forEach((holds, i) => {
      if (holds === null) return;
      for (const row of rows) if (holds(row)) this.counts[i]!++;
    });
  }

  result(bounded: boolean): ConditionCounts {
    return { rows: this.rows, alone: this.counts.map((count, i) => (this.tests[i] === null ? null : count)), bounded };
  }
}

/** What stands for a parameter that is a condition: one that is not given holds. */
function givenFor(text: string, parameters: Readonly<Record<string, Json>>): string {
  const name = /^\s*:([A-Za-z_]\w*)\s*$/.exec(text)?.[1];
  if (name === undefined) return text;
  const given = parameters[name];
  return typeof given === 'string' && given.trim() !== '' ? given : 'true == true';
}
