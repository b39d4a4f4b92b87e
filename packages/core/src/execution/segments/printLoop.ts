import type { Site } from '../../expressions/context.ts';
import type { PhysicalPlan, PhysicalStep } from '../../planner/physical.ts';
import { compiledBest } from './bestEnd.ts';
import type { CompiledSegment } from './compileSegment.ts';
import { compiledGroup } from './groupEnd.ts';
import { compiledRows } from './rowsEnd.ts';
import { isEnd, segmentsOf, type Segment } from './segment.ts';
import { compiledTopN } from './topNEnd.ts';

/** One loop of a plan: the steps that it does, the lowest first, and its text. */
export interface PrintedLoop {
  readonly steps: readonly PhysicalStep[];
  /** JavaScript, a statement a line. */
  readonly text: string;
}

/**
 * The loops of a plan as they are run, in the order in which rows come through them. Steps that take all their rows in before they give
 * one stand between.
 * @param told what an operation is that notes values which it cannot use
 */
export function printedLoops(plan: PhysicalPlan, told: (site: Site) => string): PrintedLoop[] {
  return [...segmentsOf(plan, true)].reverse().map(([end, segment]) => ({
    steps: stepsOf(end, segment),
    text: printed(compiledFor(end, segment), end, told),
  }));
}

/** What each loop is called, by where its rows go. */
const names = { group: 'intoGroups', topNSort: 'intoTheFirst', rank: 'intoTheBest' } as const;

function compiledFor(end: PhysicalStep, segment: Segment): CompiledSegment<never> {
  if (!isEnd(end)) return compiledRows(end, segment, false);
  switch (end.kind) {
    case 'group':
      return compiledGroup(end, segment).compiled;
    case 'topNSort':
      return compiledTopN(end, segment);
    case 'rank':
      return compiledBest(end, segment);
  }
}

function stepsOf(end: PhysicalStep, { scan, steps }: Segment): PhysicalStep[] {
  return [...(scan === undefined ? [] : [scan]), ...steps, ...(isEnd(end) ? [end] : [])];
}

function printed({ source, data }: CompiledSegment<never>, end: PhysicalStep, told: (site: Site) => string): string {
  const name = isEnd(end) ? names[end.kind] : 'rowsOut';
  const notes = data.flatMap((value, i) => (isSite(value) ? [`// site${i}: where ${told(value)} is noted to give nothing`] : []));
  const readable = source.replace(/\bk(\d+)\b/g, (_, at: string) => shown(data[Number(at)], at));
  return [`function ${name}(rows, positions, stretch, handed, context) {`, ...indented(readable), '}', ...notes].join('\n');
}

/** What stands for a constant, for reading: in the function that runs, each comes in as data. */
function shown(value: unknown, at: string): string {
  if (typeof value === 'function') return /^\w+$/.test(value.name) ? value.name : `test${at}`;
  if (isSite(value)) return `site${at}`;
  return JSON.stringify(value) ?? 'undefined';
}

function isSite(value: unknown): value is Site {
  return typeof value === 'object' && value !== null && 'operands' in value && 'text' in value;
}

/** Statements by the depth of the blocks that they are in. */
function indented(source: string): string[] {
  let depth = 1;
  // Counters, of which there are many, are declared together.
  const together = source.replace(/(?:^let t\d+ = 0;\n)+/gm, (all) => `let ${all.match(/t\d+/g)!.join(' = 0, ')} = 0;\n`);
  return together
    .split('\n')
    .filter((line) => line.trim() !== '')
    .map((line) => {
      const closes = line.startsWith('}');
      if (closes) depth--;
      const made = '  '.repeat(depth) + line.trim();
      if (line.endsWith('{')) depth++;
      return made;
    });
}
