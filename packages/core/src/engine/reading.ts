import { withConditions } from '../language/conditionParameters.ts';
import { surfaceNamed } from '../language/surfaces/registry.ts';
import type { Surface } from '../language/surfaces/surface.ts';
import type { NamedSource, Pipeline } from '../language/pipeline.ts';
import { nowhere, type Identified, type NodeId, type Places } from '../language/places.ts';
import type { View, Views } from '../language/sources.ts';
import type { Span } from '../language/span.ts';
import { isChangeStep, type PipelineStage } from '../language/stages/stage.ts';
import type { Expression } from '../language/tree.ts';
import type { Wording } from '../language/wording.ts';
import type { Naming } from '../planner/layers/layer.ts';
import type { PlannedStage } from '../planner/logical.ts';
import type { Json } from '../values/json.ts';

/** A text that was read: the one that was asked, or that of a view where one names it. */
interface ReadText {
  readonly surface: Surface;
  readonly text: string;
  readonly places: Places;
  readonly sources: Pipeline['sources'];
  /** The values that were saved with it. */
  readonly parameters: View['parameters'];
  readonly view?: { readonly name: string; readonly named: Naming };
}

/** Where a node stands. */
export interface Place extends Span {
  /** 1-based, of its own text. */
  readonly line: number;
  /** The view whose text it stands in; undefined for the text that was asked. */
  readonly view: string | undefined;
}

/**
 * Everything that was read for one question: its own text, and those of the views that it names, each with the numbers of its
 * nodes. A view that is named twice is read twice, so that a number tells where it is used, too.
 */
export class Reading implements Wording {
  private readonly views: Views;
  private readonly surface: Surface;
  private readonly texts: ReadText[];
  /** Lines that were asked for: a question that is asked again counts them no more. */
  private readonly lines = new Map<NodeId, number>();
  private readonly embedded = new Map<NodeId, readonly PlannedStage<PipelineStage>[]>();

  constructor({ text, places, sources }: Pick<Pipeline, 'text' | 'places' | 'sources'>, views: Views, surface: Surface) {
    this.views = views;
    this.surface = surface;
    this.texts = [{ text, places, sources, surface, parameters: undefined }];
  }

  get expression(): Wording['expression'] {
    return this.surface.words.expression;
  }
  get orderKey(): Wording['orderKey'] {
    return this.surface.words.orderKey;
  }
  get measure(): Wording['measure'] {
    return this.surface.words.measure;
  }
  get name(): Wording['name'] {
    return this.surface.words.name;
  }
  get field(): Wording['field'] {
    return this.surface.words.field;
  }

  /** The text that was asked. */
  get asked(): Pick<Pipeline, 'text' | 'places' | 'sources'> {
    return this.texts[0]!;
  }

  /** The source of its own that a pipeline has by a name. */
  ownSource(name: string): NamedSource | undefined {
    return this.texts[0]!.sources?.find((source) => source.name === name);
  }

  /** The stages of a view, or of a source that the text brings itself; undefined for what is neither. */
  stagesOf(name: string, named: Naming): readonly PlannedStage<PipelineStage>[] | undefined {
    const known = this.embedded.get(named.source);
    if (known !== undefined) return known;
    const asking = this.textOf({ id: named.source });
    const isOwn = asking.sources?.some((source) => source.name === name) === true;
    const view = this.views.get(name);
    if (!isOwn && view === undefined) return undefined;
    const stages = isOwn
      ? this.embed(asking.surface, asking.text, asking.parameters, { name, named }, name)
      : this.embed(surfaceNamed(view!.surface), view!.pipeline, view!.parameters, { name, named });
    this.embedded.set(named.source, stages);
    return stages;
  }

  /** Reads a text, or one of its sources, once more for the place that names it. */
  private embed(
    surface: Surface,
    text: string,
    parameters: View['parameters'],
    view: ReadText['view'],
    own?: string,
  ): readonly PlannedStage<PipelineStage>[] {
    const { stages: all, places, sources } = surface.parse(text, this.texts[this.texts.length - 1]!.places.next);
    this.texts.push({ surface, text, places, sources, parameters, view });
    const stages = own === undefined ? all : (sources?.find(({ name }) => name === own)?.stages ?? []);
    return stages.flatMap(({ stage, off, id }) =>
      stage === undefined || off || isChangeStep(stage)
        ? []
        : [{ stage: bound(withConditions(stage, parameters ?? {}), parameters ?? {}), id }],
    );
  }

  /** Where a node stands in its own text. */
  placeOf(node: Identified): Place {
    const own = this.textOf(node);
    return { ...own.places.of(node), line: own.surface.lineOf(own, node.id), view: own.view?.name };
  }
  /** Where it stands in the text that was asked: what is of a view stands at its name. */
  askedPlaceOf(node: Identified): Place {
    const { view } = this.textOf(node);
    return view === undefined ? this.placeOf(node) : this.askedPlaceOf({ id: view.named.source });
  }
  /** The stage of the text that was asked that another works for. */
  askedStageOf(id: NodeId): NodeId {
    const { view } = this.textOf({ id });
    return view === undefined ? id : this.askedStageOf(view.named.stage);
  }
  /** The 1-based line of the asked text on which a stage begins, or the one that names its view. */
  lineOf(id: NodeId): number {
    let line = this.lines.get(id);
    if (line === undefined) this.lines.set(id, (line = this.placeOf({ id: this.askedStageOf(id) }).line));
    return line;
  }
  /** Different lines of stages, in their order. */
  linesOf(ids: readonly NodeId[]): number[] {
    return [...new Set(ids.map((id) => this.lineOf(id)))].sort((a, b) => a - b);
  }
  /** The source of a node, as it is written. */
  writtenAt(node: Identified): string {
    const { text, places } = this.textOf(node);
    const { from, to } = places.of(node);
    return text.slice(from, to);
  }
  readonly stages = (ids: readonly NodeId[]): string => this.surface.words.places(this.linesOf(ids));

  private textOf(node: Identified): ReadText {
    return this.texts.find(({ places }) => places.has(node)) ?? this.texts[0]!;
  }
}

/** A view's stage with the values that were saved with it in the places of its parameters. */
function bound(stage: PipelineStage, parameters: Readonly<Record<string, unknown>>): PipelineStage {
  const visit = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(visit);
    if (typeof value !== 'object' || value === null) return value;
    const node = value as { kind?: string; name?: string; id?: NodeId };
    if (node.kind === 'parameter' && node.name !== undefined && Object.hasOwn(parameters, node.name))
      return literalOf(parameters[node.name] as Json, node.id ?? nowhere);
    return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, visit(inner)]));
  };
  return visit(stage) as PipelineStage;
}

function literalOf(value: Json, id: NodeId): Expression {
  if (Array.isArray(value)) return { kind: 'array', items: value.map((item) => literalOf(item, id)), id };
  if (typeof value === 'object' && value !== null)
    return { kind: 'object', entries: Object.entries(value).map(([name, inner]) => ({ name, value: literalOf(inner, id) })), id };
  return { kind: 'literal', value, id };
}
