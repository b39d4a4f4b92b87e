import { RE2JS } from 're2js';
import { Ajv2020, type ErrorObject, type ValidateFunction } from 'ajv/dist/2020.js';
import addFormats from 'ajv-formats';
import type { Expectation, ExpectationCheck } from '@zesty-sieve/contract';
import { ServerProblem } from '../problem.ts';

const toldProblems = 5;
const examples = 50;

/**
 * A pattern of a schema, matched in time that grows with the text alone: a native one could take for ever, and all that is stored
 * with it. @throws Error where the pattern looks around or back, which cannot be done so
 */
function linearPattern(pattern: string): { test: (text: string) => boolean; toString: () => string } {
  let compiled: RE2JS;
  try {
    compiled = RE2JS.compile(pattern);
  } catch {
    throw new Error(`the pattern ${JSON.stringify(pattern)} is none, or looks around or back, which is not supported`);
  }
  return { test: (text) => compiled.matcher(text).find(), toString: () => pattern };
}
// Ajv writes this into the code that it makes; it is bound where that is run.
linearPattern.code = 'linearPattern';

/** What documents of a collection are expected to be like: a JSON Schema (draft 2020-12), compiled. */
export class Expected {
  readonly mode: Expectation['mode'];
  private readonly validate: ValidateFunction;

  /** @throws ServerProblem where the schema is none */
  constructor({ schema, mode }: Expectation) {
    this.mode = mode;
    try {
      const ajv = new Ajv2020({ allErrors: true, strict: false, code: { regExp: linearPattern } });
      addFormats.default(ajv);
      this.validate = ajv.compile(schema as object);
    } catch (error) {
      throw new ServerProblem('/request', `This is no JSON Schema: ${(error as Error).message}`);
    }
  }

  /** What is not as expected of a document; empty where all is. */
  problemsOf(document: unknown): string[] {
    if (this.validate(document)) return [];
    return (this.validate.errors ?? []).slice(0, toldProblems).map(told);
  }

  /** @throws ServerProblem where documents that are not as expected are refused */
  refuse(document: unknown, identity: string): void {
    if (this.mode !== 'refuse') return;
    const problems = this.problemsOf(document);
    if (problems.length > 0)
      throw new ServerProblem(
        '/schema',
        `The document ${JSON.stringify(identity)} is not as expected: ${problems.join('; ')}. Nothing was stored.`,
        { identity, problems },
      );
  }
}

function told({ instancePath, message, params, keyword }: ErrorObject): string {
  const path = `@${instancePath.replaceAll('/', '.')}`;
  const more =
    keyword === 'additionalProperties' ? ` (${JSON.stringify((params as { additionalProperty: string }).additionalProperty)})` : '';
  return `${path} ${message ?? 'does not fit'}${more}`;
}

/** Gathers how many documents are not as expected, with the first of them. */
export class ExpectationCounter {
  readonly result: ExpectationCheck = { checked: 0, failing: 0, examples: [] };
  private readonly expected: Expected;

  constructor(expected: Expected) {
    this.expected = expected;
  }

  add(identity: string, document: unknown): void {
    this.result.checked++;
    const problems = this.expected.problemsOf(document);
    if (problems.length === 0) return;
    this.result.failing++;
    if (this.result.examples.length < examples) this.result.examples.push({ identity, problems });
  }
}
