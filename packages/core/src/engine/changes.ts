import type { Several } from '../values/several.ts';
import { compileChange, type ChangeDocument } from '../execution/changes/compileChange.ts';
import { compileTest } from '../expressions/compile.ts';
import type { Context } from '../expressions/context.ts';
import { checkPipeline } from '../language/checkPipeline.ts';
import type { Diagnostic } from '../language/diagnostics/diagnostic.ts';
import type { Identified } from '../language/places.ts';
import { Reading } from './reading.ts';
import { usualSurface } from '../language/surfaces/registry.ts';
import { isChangeStep, type ChangeStep, type PipelineStage } from '../language/stages/stage.ts';
import type { Expression } from '../language/tree.ts';
import type { ReadStage } from './readPipeline.ts';
import { equalValues } from '../values/equality.ts';
import { readField, writeField } from '../values/fields.ts';
import { isObject, type Json, type JsonObject, type Value } from '../values/json.ts';

/** A step of a change, with the number of its stage. */
export interface PlacedStep extends Identified {
  readonly stage: ChangeStep;
}

/** A text read as a change: what finds the documents, and what happens to each. */
export interface ReadChange {
  readonly source: string | undefined;
  readonly finding: readonly ReadStage[];
  readonly steps: readonly PlacedStep[];
  readonly diagnostics: readonly Diagnostic[];
  readonly reading: Reading;
}

/** Whether a text changes documents rather than only reading them. */
export function isChange(text: string): boolean {
  return usualSurface.parse(text).stages.some(({ stage, off }) => stage !== undefined && !off && isChangeStep(stage));
}

/** @param identityOf the identity of a collection, as field names */
export function readChange(
  text: string,
  collections: readonly string[],
  identityOf: (source: string) => readonly string[] | undefined,
): ReadChange {
  const pipeline = usualSurface.parse(text);
  const { diagnostics, source } = checkPipeline(pipeline, { purpose: 'change', collections, identityOf });
  const finding: ReadStage[] = [];
  const steps: PlacedStep[] = [];
  for (const placed of pipeline.stages) {
    if (placed.stage === undefined || placed.off) continue;
    if (isChangeStep(placed.stage)) steps.push({ stage: placed.stage, id: placed.id });
    else finding.push({ stage: placed.stage, id: placed.id });
  }
  return { source, finding, steps, diagnostics, reading: new Reading(pipeline, new Map(), usualSurface) };
}

/** A document that a change touches. `after` is undefined where it is deleted. */
export interface ChangedDocument {
  readonly position: number;
  readonly identity: string;
  readonly before: JsonObject;
  readonly after: JsonObject | undefined;
}

/** A change that cannot be made, with why. */
export class ChangeProblem extends Error {}

/** Makes what documents become, one after another, and notices what would happen if the change were made again. */
export class ChangeMaker {
  matched = 0;
  /** Documents that the same change, made again, would find again and change again. */
  repeats = 0;
  readonly changed: ChangedDocument[] = [];
  private readonly change: ChangeDocument;
  private readonly stillFound: (document: Json, context: Context) => boolean;
  private readonly identity: readonly string[];
  private readonly context: Context;

  constructor({ finding, steps }: ReadChange, identity: readonly string[], context: Context) {
    this.change = compileChange(steps.map(({ stage }) => stage));
    const conditions = finding.flatMap(({ stage }) => (isWhere(stage) ? [compileTest(stage.condition)] : []));
    this.stillFound = (document, at) => conditions.every((test) => test(document, document, at));
    this.identity = identity;
    this.context = context;
  }

  /** @throws ChangeProblem where a document would get another identity */
  add(before: JsonObject, position: number): void {
    this.matched++;
    const identity = String(this.identityOf(before));
    const after = this.made(before, identity);
    if (after !== undefined && equalValues(before, after)) return;
    this.changed.push({ position, identity, before, after });
    if (after === undefined || !this.stillFound(after, this.context)) return;
    const again = this.made(after, identity);
    if (again === undefined || !equalValues(after, again)) this.repeats++;
  }

  private made(before: JsonObject, identity: string): JsonObject | undefined {
    const after = this.change(before, this.context);
    if (after === undefined) return undefined;
    // A document keeps its identity; one that was replaced whole gets it back.
    const own = this.identityOf(after);
    if (own === undefined && isObject(after)) return withIdentity(after, this.identity, this.identityOf(before) as Json);
    if (String(own) !== identity) {
      throw new ChangeProblem(
        `The document ${JSON.stringify(identity)} would get the identity ${JSON.stringify(own) ?? 'nothing'}. A change leaves identities as they are.`,
      );
    }
    // As it comes back from its text.
    return JSON.parse(JSON.stringify(after)) as JsonObject;
  }

  private identityOf(document: Json): Value {
    return this.identity.reduce<Value>((at, name) => (at === undefined ? undefined : readField(at, name)), document);
  }
}

function isWhere(stage: PipelineStage): stage is PipelineStage & { kind: 'where'; condition: Expression } {
  return stage.kind === 'where';
}

function withIdentity(document: JsonObject, names: readonly string[], identity: Json): JsonObject {
  const [first, ...rest] = names as Several<string>;
  const below = readField(document, first);
  const inner = rest.length === 0 ? identity : withIdentity(isObject(below) ? below : {}, rest, identity);
  const copy: JsonObject = {};
  // In front, where documents have it as a rule.
  writeField(copy, first, inner);
  for (const name of Object.keys(document)) if (name !== first) writeField(copy, name, document[name]!);
  return copy;
}
