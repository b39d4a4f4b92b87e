import { check, checkChange, type Fault, type Tally } from './asking.ts';
import { newTally } from './asking.ts';
import { collections, type Sizes } from './data.ts';
import { focusOf } from './focus.ts';
import { history } from './histories.ts';
import { change, question } from './questions.ts';
import { Random } from './random.ts';
import { aboutIndexes, aboutJoins, aboutRows, type Theme } from './themes.ts';
import { shrunk } from './shrinking.ts';
import { World, type Case } from './world.ts';

/** A fault, with the smallest case of it that was found. */
export interface Found {
  readonly seed: number;
  readonly fault: Fault;
  readonly smallest: Case;
}

export interface RoundOptions {
  readonly sizes: Sizes;
  /** Questions that are asked of the same collections. */
  readonly questions: number;
  readonly shrinkSeconds?: number;
}

/** One world, and questions about it; the first fault ends it. A seed is all that it takes to have it again. */
export async function round(seed: number, options: RoundOptions, tally: Tally): Promise<Found | undefined> {
  const random = new Random(seed);
  const theme = random.weighed<() => Theme | undefined>([
    [3, () => () => undefined],
    [2, () => () => aboutIndexes(random)],
    [2, () => () => aboutJoins(random)],
    [2, () => () => aboutRows(random)],
  ])();
  const documents = theme ?? collections(random, options.sizes);
  const focus = theme?.focus ?? focusOf(random, documents.c);
  const steps = [...(theme?.steps ?? []), ...history(random, focus, documents)];
  const made = { c: documents.c, d: documents.d, steps };
  let world: World;
  try {
    world = await World.of(made);
  } catch (error) {
    const fault = failure(error);
    const smallest = await shrunk(
      { ...made, lines: [], parameters: {} },
      async (one) => (await faultOf(one)) !== undefined,
      options.shrinkSeconds,
    );
    return { seed, fault, smallest };
  }
  // Fewer of many documents, so that no world takes long.
  const questions =
    documents.c.length > 1_500 ? options.questions / 5 : documents.c.length > 300 ? options.questions / 2 : options.questions;
  for (let i = 0; i < questions; i++) {
    const isChange = random.chance(0.1) && world.data.c.length < 1_100;
    const asked = isChange ? change(random, world.data.c, focus) : (theme?.ask() ?? question(random, world.data.c, focus));
    let fault: Fault | undefined;
    try {
      fault = isChange ? await checkChange(world, asked, tally) : await check(world, asked, tally, random, theme === undefined ? 1 : 2);
    } catch (error) {
      fault = failure(error);
    }
    if (fault === undefined) continue;
    const smallest = await shrunk({ ...made, ...asked }, async (one) => (await faultOf(one)) !== undefined, options.shrinkSeconds);
    return { seed, fault: (await faultOf(smallest)) ?? fault, smallest };
  }
  return undefined;
}

const failure = (error: unknown): Fault => ({ way: 'failed', expected: 'an answer', found: String((error as Error).stack ?? error) });

/** Asks a case in every way, in a world of its own. */
export async function faultOf(one: Case): Promise<Fault | undefined> {
  try {
    const world = await World.of(one);
    const isChange = one.lines.some((line) => /^(set|remove|append|take|replace|delete)\b/.test(line));
    return isChange ? await checkChange(world, one, newTally()) : await check(world, one, newTally());
  } catch (error) {
    return failure(error);
  }
}
