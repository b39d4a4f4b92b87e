import { compileValue } from '../../expressions/compile.ts';
import type { Best, Ranking } from '../../planner/physical.ts';
import type { Json, Value } from '../../values/json.ts';
import { stillWorking } from '../batch.ts';
import { ownedBytes } from '../ownership.ts';
import { fused } from '../fusing.ts';
import { placeAt } from '../placing.ts';
import type { StepMeter } from '../meter.ts';
import { pulled, type Operator, type Runtime } from '../runtime.ts';
import { scoredBy } from '../scoring.ts';

/** What a candidate is itself: an object with its place and score, and a reference to it. */
const heldPerCandidate = 90;

interface Candidate {
  readonly row: Json;
  readonly position: number;
  /** Its place among the rows that came. */
  readonly arrival: number;
  readonly bytes: number;
}
interface Scored {
  readonly candidate: Candidate;
  readonly score: number;
}

/** Highest first; ties by insertion order. */
const bestFirst = (a: Scored, b: Scored): number =>
  b.score - a.score || a.candidate.position - b.candidate.position || a.candidate.arrival - b.candidate.arrival;

/** The first of one ranking: gathered up to twice as many, then cut. */
class RankedFirst {
  held = 0;
  private kept: Scored[] = [];
  private readonly most: number;
  /** Below it nothing is kept any more. */
  private least = -Infinity;

  constructor(most: number) {
    this.most = most;
  }

  take(candidate: Candidate, score: Value): void {
    if (typeof score !== 'number' || score < this.least || this.most === 0) return;
    this.kept.push({ candidate, score });
    this.held += heldPerCandidate + candidate.bytes;
    if (this.kept.length >= Math.max(2 * this.most, this.most + 512)) this.cut();
  }

  private cut(): void {
    this.kept.sort(bestFirst);
    this.kept.length = Math.min(this.kept.length, this.most);
    this.held = this.kept.reduce((sum, { candidate }) => sum + heldPerCandidate + candidate.bytes, 0);
    if (this.most > 0 && this.kept.length === this.most) this.least = this.kept[this.most - 1]!.score;
  }
  get inOrder(): readonly Scored[] {
    this.cut();
    return this.kept;
  }
}

type ScoreOf = (row: Json, position: number) => Value;

/** A row's score: from the index that knows it, or worked out. */
function scoreOf({ expression, index }: Ranking, { collection }: Best, runtime: Runtime, meter: StepMeter): ScoreOf {
  if (index === undefined) {
    const evaluate = compileValue(expression);
    return (row) => evaluate(row, runtime.context);
  }
  const scored = scoredBy({ collection, index }, expression, runtime);
  meter.indexEntriesRead += scored.entries;
  return (_row, position) => scored.at(position);
}

function fusedBest(lists: readonly (readonly Scored[])[], rankings: Best['rankings']): Scored[] {
  const keyed = lists.map((list) => list.map(({ candidate }) => [candidate.arrival, candidate] as const));
  return fused(keyed, rankings).map(([candidate, score]) => ({ candidate, score })).sort(bestFirst);
} // prettier-ignore

export const best: Operator<Best> = function* (step, runtime, meter) {
  const { count, rankings, depth, target, input } = step;
  const { meter: runMeter, watch } = runtime;
  const isFused = rankings.length > 1;
  const lists = rankings.map(() => new RankedFirst(isFused ? depth : count));
  const scores = rankings.map((ranking) => scoreOf(ranking, step, runtime, meter));
  const bytesOf = ownedBytes(input);
  let arrival = 0;
  for (const { rows, positions } of pulled(input, runtime, meter)) {
    for (let i = 0; i < rows.length; i++) {
      const row = rows[i]!;
      const candidate = { row, position: positions[i]!, arrival: arrival++, bytes: bytesOf(row) };
      for (let r = 0; r < lists.length; r++) lists[r]!.take(candidate, scores[r]!(row, candidate.position));
    }
    runMeter.hold(meter, lists.reduce((sum, { held }) => sum + held, 0) - meter.held); // prettier-ignore
    watch.look(step);
    yield stillWorking;
  }
  const inOrder = lists.map((list) => list.inOrder);
  const chosen = isFused ? fusedBest(inOrder, rankings) : inOrder[0]!;
  const place = target === undefined ? undefined : placeAt(target);
  const rows = chosen.slice(0, count).map(({ candidate, score }) => ({ row: place === undefined ? candidate.row : place(candidate.row, score), position: candidate.position })); // prettier-ignore
  for (let from = 0; from < rows.length; from += runtime.batchRows) {
    const part = rows.slice(from, from + runtime.batchRows);
    yield { rows: part.map(({ row }) => row), positions: part.map(({ position }) => position) };
  }
  runMeter.hold(meter, -meter.held);
};
