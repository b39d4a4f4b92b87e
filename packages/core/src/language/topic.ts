import { expressionsOf } from './checkPipeline.ts';
import { isJoin, isRank, type Stage, type StageKind } from './stages/stage.ts';
import { usualSurface } from './surfaces/registry.ts';
import { walk, type Expression } from './tree.ts';

/** What a pipeline is about, in the order in which the job is learnt. */
export const topics = ['look', 'ask', 'arrays', 'shape', 'order and page', 'join', 'group', 'search'] as const;
export type Topic = (typeof topics)[number];

const ofStages: Partial<Record<StageKind, Topic>> = {
  where: 'ask',
  compute: 'shape',
  unnest: 'arrays',
  offset: 'order and page',
  sample: 'order and page',
  group: 'group',
  groupAll: 'group',
  best: 'search',
};
const ofFunctions: readonly (readonly [RegExp, Topic])[] = [
  [/^(mentions_|relevance$|excerpt$|vector_of$|cosine_similarity$|dot_product$|euclidean_distance$)/, 'search'],
  [/^(includes|includes_all|includes_any|length|(sum|avg|min|max|count)_of)$/, 'arrays'],
];
const advancement = new Map(topics.map((topic, i) => [topic, i]));

/**
 * The topic that is learnt last of all that a pipeline uses. An order, a limit or a choice of fields is how rows are looked at. Lines that
 * cannot be read, and those that are off, do not count.
 */
export function topicOf(pipeline: string): Topic {
  const { stages } = usualSurface.parse(pipeline);
  return last(stages.flatMap(({ stage, off }) => (stage === undefined || off ? [] : topicsOf(stage)))) ?? 'look';
}

function last(used: readonly Topic[]): Topic | undefined {
  return used.reduce<Topic | undefined>((found, topic) => (found === undefined || advancement.get(topic)! > advancement.get(found)! ? topic : found), undefined); // prettier-ignore
}

function topicsOf(stage: Stage): Topic[] {
  const own = isJoin(stage) ? 'join' : isRank(stage) ? 'group' : ofStages[stage.kind];
  const functions = expressionsOf(stage).flatMap((expression) => [...callsIn(expression)].flatMap((name) => ofFunctions.flatMap(([pattern, topic]) => (pattern.test(name) ? [topic] : [])))); // prettier-ignore
  const filters = expressionsOf(stage).some(hasFilter) ? (['arrays'] as const) : [];
  return [...(own === undefined ? [] : [own]), ...functions, ...filters];
}

function callsIn(expression: Expression): Set<string> {
  const names = new Set<string>();
  walk(expression, (node) => void (node.kind === 'call' && names.add(node.name)));
  return names;
}

/** Whether it looks into elements: `[?…]` or `[*]`. */
function hasFilter(expression: Expression): boolean {
  let found = false;
  walk(expression, (node) => {
    if (node.kind === 'path' && node.segments.some(({ selectors }) => selectors.some(({ kind }) => kind !== 'name'))) found = true;
  });
  return found;
}
