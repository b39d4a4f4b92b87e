import { type Expression, usualSurface } from '@zesty-sieve/core/language';
import type { Fields } from './reference/values.ts';
import type { Case, Step } from './world.ts';

/** Whether a case still shows a fault. */
export type IsFaulty = (one: Case) => Promise<boolean>;

/** The smallest case that can be found in some seconds that still shows a fault. */
export async function shrunk(from: Case, isFaulty: IsFaulty, seconds = 30): Promise<Case> {
  const until = performance.now() + seconds * 1_000;
  let now = from;
  const fails = async (next: Case): Promise<boolean> => {
    if (performance.now() > until || !(await isFaulty(next).catch(() => false))) return false;
    now = next;
    return true;
  };
  for (let before = ''; before !== JSON.stringify(now) && performance.now() < until;) {
    before = JSON.stringify(now);
    await fewer(now.lines, (lines) => fails({ ...now, lines }));
    await fewer(now.steps, (steps) => fails({ ...now, steps }));
    await fewer(now.d, (d) => fails({ ...now, d, steps: withoutPuts(now.steps, 'd') }));
    await fewer(now.c, (c) => fails({ ...now, c, steps: withoutPuts(now.steps, 'c') }));
    for (const side of ['c', 'd'] as const) await fewerFields(now[side], (list) => fails({ ...now, [side]: list }));
    for (let i = 0; i < now.lines.length; i++)
      for (const line of simpler(now.lines[i])) if (await fails({ ...now, lines: now.lines.with(i, line) })) break;
    for (const step of now.steps) {
      if (step.kind !== 'apply' || step.puts.length < 2) continue;
      const at = now.steps.indexOf(step);
      await fewer(step.puts, (puts) => fails({ ...now, steps: now.steps.with(at, { ...step, puts }) }));
    }
  }
  return now;
}

/** Places of documents change when some of them go, so that steps that name places are of no use. */
function withoutPuts(steps: readonly Step[], collection: 'c' | 'd'): readonly Step[] {
  return steps.filter((step) => step.kind !== 'apply' || step.collection !== collection);
}

/** Takes away stretches of a list, long ones first, as long as what is left still does it (Zeller's ddmin, 1999). */
async function fewer<T>(list: readonly T[], still: (list: readonly T[]) => Promise<boolean>): Promise<void> {
  let now = list;
  for (let size = Math.ceil(now.length / 2); size >= 1; size = size === 1 ? 0 : Math.ceil(size / 2)) {
    for (let from = 0; from < now.length;) {
      const rest = [...now.slice(0, from), ...now.slice(from + size)];
      if (await still(rest)) now = rest;
      else from += size;
    }
  }
}

async function fewerFields(list: readonly Fields[], still: (list: readonly Fields[]) => Promise<boolean>): Promise<void> {
  let now = list;
  const names = new Set(now.flatMap((one) => Object.keys(one)));
  names.delete('id');
  for (const name of names) {
    const without = (one: Fields) => Object.fromEntries(Object.entries(one).filter(([other]) => other !== name)) as Fields;
    const rest = now.map(without);
    if (await still(rest)) now = rest;
  }
  if (now.length > 12) return;
  for (let i = 0; i < now.length; i++)
    for (const name of Object.keys(now[i])) {
      if (name === 'id') continue;
      const rest = now.with(i, Object.fromEntries(Object.entries(now[i]).filter(([other]) => other !== name)) as Fields);
      if (await still(rest)) now = rest;
    }
}

/** A line with one of its joined conditions alone, or one of the things that it lists left out. */
function simpler(line: string): string[] {
  const text = `from c\n${line}`;
  const found: string[] = [];
  const { stages, places } = usualSurface.parse(text);
  const instead = (node: Expression, inner: Expression): string => {
    const [whole, part] = [places.of(node), places.of(inner)];
    return text.slice(0, whole.from) + text.slice(part.from, part.to) + text.slice(whole.to);
  };
  const visit = (value: unknown): void => {
    if (typeof value !== 'object' || value === null) return;
    const node = value as Expression;
    if (node.kind === 'and' || node.kind === 'or') for (const operand of node.operands) found.push(instead(node, operand));
    if (node.kind === 'not') found.push(instead(node, node.operand));
    for (const inner of Object.values(value)) visit(inner);
  };
  visit(stages[1]?.stage);
  const parts = line.split(', ');
  for (let i = 0; i < parts.length && parts.length > 1; i++) found.push(`from c\n${parts.filter((_, k) => k !== i).join(', ')}`);
  return found.map((one) => one.slice('from c\n'.length));
}
