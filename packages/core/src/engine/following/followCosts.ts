import { milliseconds } from '../../values/clock.ts';
import { plan } from '../../planner/plan.ts';
import type { PlannedStage } from '../../planner/logical.ts';
import type { JsonObject } from '../../values/json.ts';
import type { Pause } from '../pause.ts';
import { AnyMisfits, runOnDocuments, type Reading } from './documentUnits.ts';
import { followed, isJoinStage, type Followed } from './followed.ts';
import { RunningMeasures } from './runningMeasures.ts';
import { runPausing, someOf, type Find } from './runStages.ts';

/** What it takes to follow one changed document of a collection: the median of some that are there. */
export interface FollowCost {
  readonly collection: string;
  /** Microseconds of work in the engine; storing the rows that have changed comes on top. */
  readonly us: number;
}

const ownTries = 9;
const partnerTries = 3;
/** Milliseconds of work after which no further document is tried. */
const enoughMs = 40;
/** Documents of a group that are looked at at most; what more of them take is as much for each. */
const mostMembers = 1_000;

/**
 * Measures what following each change would take, by working out what the change of a document that is there would change.
 * To be called while none of the collections changes.
 * @returns nothing of what cannot follow
 */
export async function followCosts(stages: readonly PlannedStage[], find: Find, pause: Pause): Promise<FollowCost[]> {
  const parts = followed(stages);
  if (typeof parts === 'string') return [];
  const began = milliseconds();
  const isEnough = () => milliseconds() - began > enoughMs;
  const reading = { find, misfits: new AnyMisfits() };
  const costs: FollowCost[] = [];
  const own = await timed(documentsOf(find, parts.from.stage.source, ownTries), isEnough, (document) =>
    followOwn(parts, reading, document),
  );
  if (own !== undefined) costs.push({ collection: parts.from.stage.source, us: own });
  for (const [at, join] of parts.rowWise.entries()) {
    if (!isJoinStage(join) || costs.some(({ collection }) => collection === join.stage.source)) continue;
    const partner = await timed(documentsOf(find, join.stage.source, partnerTries), isEnough, async (document) => {
      const partners = someOf('#changed', [document]);
      const met = { ...join, stage: { ...join.stage, kind: 'join', source: '#changed' } } as PlannedStage;
      let paused = 0;
      const resting = async () => {
        const from = milliseconds();
        await pause();
        paused += milliseconds() - from;
      };
      const { positions } = await runPausing([...parts.rowWise.slice(0, at), met], (name) => (name === '#changed' ? partners : find(name)), resting, () => false); // prettier-ignore
      const { documents } = find(parts.from.stage.source).store;
      const rows = [...new Set(positions)].slice(0, mostMembers).map((position) => documents[position]!);
      runOnDocuments(rows, { ...parts, group: undefined }, reading);
      if (parts.group !== undefined) runOnDocuments(rows, parts, reading);
      return paused;
    });
    if (partner !== undefined) costs.push({ collection: join.stage.source, us: partner });
  }
  return costs;
}

/** As it was and as it is; where the group cannot go on from what is kept, its members too. */
function followOwn(parts: Followed, reading: Reading, document: JsonObject): number {
  const rowWise = { ...parts, group: undefined };
  runOnDocuments([document], rowWise, reading);
  runOnDocuments([document], rowWise, reading);
  if (parts.group !== undefined && RunningMeasures.of(parts.group.stage) === undefined)
    runOnDocuments(membersOf(parts, reading.find), parts, reading);
  return 0;
}

/** As many documents as a group has, about. */
function membersOf({ from, rowWise, group }: Followed, find: Find): JsonObject[] {
  const { source } = from.stage;
  const planned = plan([...rowWise, group!], (name) => ({ kind: 'collection', source: find(name).planned() }), { parameters: {}, now: '' });
  const members = find(source).store.count / Math.max(1, planned.physical.root.estimatedRows);
  return documentsOf(find, source, Math.min(mostMembers, Math.ceil(members)));
}

/** Some documents from everywhere in a collection. */
function documentsOf(find: Find, collection: string, wanted: number): JsonObject[] {
  const { documents } = find(collection).store;
  const places = Array.from({ length: wanted }, (_, n) => Math.floor((n * documents.length) / wanted));
  // Where documents have gone, the next one that is there.
  const next = places.map((place) => documents.find((document, at) => at >= place && document !== undefined));
  return [...new Set(next)].filter((document) => document !== undefined);
}

/**
 * The median of what some take, in microseconds.
 * @param work returns milliseconds that are not to be counted
 */
async function timed(
  documents: readonly JsonObject[],
  isEnough: () => boolean,
  work: (document: JsonObject) => number | Promise<number>,
): Promise<number | undefined> {
  const taken: number[] = [];
  for (const document of documents) {
    if (taken.length > 0 && isEnough()) break;
    const began = milliseconds();
    const rested = await work(document);
    taken.push((milliseconds() - began - rested) * 1_000);
  }
  taken.sort((a, b) => a - b);
  const median = taken[taken.length >> 1];
  return median === undefined ? undefined : Math.round(median);
}
