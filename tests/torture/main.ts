import { spawnSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { newTally } from './asking.ts';
import { heldBy, holding } from './heap.ts';
import { kills, type KillsTold } from './kills.ts';
import { faultOf, round, type Found } from './rounds.ts';
import { cpuTaken } from './machine.ts';
import { lookups, soak } from './soak.ts';
import { story, type Told } from './story.ts';
import type { Case } from './world.ts';

const given = new Map(process.argv.slice(2).map((text) => [text.replace(/^--|=.*/g, ''), text.replace(/^[^=]*=?/, '')] as const));
const say = (line: string) => process.stdout.write(`${line}\n`);
const shortened = (text: string) => (text.length > 1_500 ? `${text.slice(0, 1_500)}…` : text);
const count = (n: number) => n.toLocaleString('en');

function tell({ seed, fault, smallest }: Found): void {
  const file = `torture-${seed}.json`;
  writeFileSync(file, JSON.stringify(smallest, null, 1));
  say(`\nFAULT (seed ${seed}): ${fault.way}`);
  say(`  documents: ${smallest.c.length} and ${smallest.d.length}; steps: ${shortened(JSON.stringify(smallest.steps))}`);
  if (smallest.c.length < 30) say(`  c: ${shortened(JSON.stringify(smallest.c))}`);
  if (smallest.d.length < 30) say(`  d: ${shortened(JSON.stringify(smallest.d))}`);
  say(`  ${['from c', ...smallest.lines].join('\n  ')}   ${JSON.stringify(smallest.parameters)}`);
  say(`  expected ${shortened(fault.expected)}`);
  say(`  found    ${shortened(fault.found)}`);
  say(`  again: npm run torture -- --replay=${file}`);
}

const replay = given.get('replay');
if (replay !== undefined) {
  const fault = await faultOf(JSON.parse(readFileSync(replay, 'utf8')) as Case);
  say(fault === undefined ? 'The same in every way.' : `${fault.way}\nexpected ${fault.expected}\nfound    ${fault.found}`);
  process.exit(fault === undefined ? 0 : 1);
}

const heap = given.get('heap');
if (heap !== undefined) {
  // Each in a process of its own, so that none finds what another left.
  const chosen = heap === '' ? undefined : holding[Number(heap)];
  if (chosen !== undefined) {
    const { told, grown } = await heldBy(chosen);
    say(JSON.stringify({ told, grown }));
    process.exit(0);
  }
  const ratios = holding.map((asked, i) => {
    const { stdout } = spawnSync(process.execPath, [...process.execArgv, process.argv[1], `--heap=${i}`], { encoding: 'utf8' });
    const { told, grown } = JSON.parse(stdout) as { told: number; grown: number };
    const mb = (bytes: number) => `${(bytes / 1e6).toFixed(2).padStart(6)} MB`;
    say(`${(told / grown).toFixed(2).padStart(6)}  ${mb(told)} told, the heap grew by ${mb(grown)}  ${asked.replaceAll('\n', ' · ')}`);
    return told / grown;
  });
  const off = ratios.filter((ratio) => ratio < 0.75 || ratio > 1.25).length;
  say(`further off than a quarter: ${off}`);
  process.exit(off === 0 ? 0 : 1);
}

const only = given.get('round');
const seed = Number(given.get('seed') ?? Date.now() % 1_000_000_000);
const minutes = Number(given.get('minutes') ?? 1);
const started = performance.now();
if (given.has('server')) {
  const told: Told = { writes: 0, restarts: 0, questions: 0 };
  let stories = 0;
  for (let i = 0; performance.now() < started + minutes * 60_000; i++) {
    const wrong = await story(only === undefined ? seed * 1_000 + i : Number(only), 60, told);
    stories++;
    if (wrong !== undefined) {
      say(`FAULT\n${wrong}\n  again: npm run torture -- --server --round=${/seed (\d+)/.exec(wrong)?.[1]}`);
      process.exit(1);
    }
    if (only !== undefined) break;
  }
  say(
    `${count(stories)} stories over HTTP, ${count(told.writes)} writes, ${count(told.restarts)} restarts, ${count(told.questions)} questions`,
  );
  say('faults 0');
  process.exit(0);
}

if (given.has('lookups')) {
  let isSlow = false;
  // As people ask who read what they find, and as programs do: the first is held to what is promised.
  for (const { each, readingMs, promisedMs } of [
    { each: 30, readingMs: 1_600, promisedMs: 50 },
    { each: 60, readingMs: 400, promisedMs: Infinity },
  ]) {
    const taken = cpuTaken();
    const { times, perSecond, groups } = await lookups(64, each, readingMs);
    const { stolen } = taken();
    const at = (share: number) => times[Math.floor((times.length - 1) * share)];
    const told = [['median', 0.5], ['95 %', 0.95], ['99 %', 0.99], ['longest', 1]].map(([name, share]) => `${name} ${at(Number(share)).toFixed(1)} ms`); // prettier-ignore
    say(`${count(times.length)} lookups by identity over 64 connections, ${perSecond.toFixed(0)} a second, while ${groups} heavy groups ran${stolen === undefined ? '' : ` and others had ${(stolen * 100).toFixed(0)} % of the machine`}: ${told.join(', ')}`); // prettier-ignore
    isSlow ||= at(0.99) >= promisedMs;
  }
  process.exit(isSlow ? 1 : 0);
}
if (given.has('soak')) {
  say(`Soak with --seed=${seed}, ${minutes} minutes`);
  const wrong = await soak(minutes, seed, say);
  say(wrong ?? 'memory stays');
  process.exit(wrong === undefined ? 0 : 1);
}
if (given.has('kills')) {
  const told: KillsTold = { kills: 0, acknowledged: 0, whole: 0, none: 0, planted: 0, ended: 0 };
  const wrong = await kills(seed, Number(given.get('kills')) || 200, told, say);
  say(
    `${told.kills} kills (--seed=${seed}), ${told.planted} faults planted, of which ${told.ended} ended the process; ${count(told.acknowledged)} writes acknowledged; ${told.whole + told.none} without an answer: ${told.whole} there whole, ${told.none} not at all`,
  );
  say(wrong === undefined ? 'faults 0' : `FAULT\n${wrong}`);
  process.exit(wrong === undefined ? 0 : 1);
}

const most = Number(given.get('faults') ?? 10);
const until = performance.now() + minutes * 60_000;
const tally = newTally();
let faults = 0;
let lastFault = 0;
let rounds = 0;
say(`Torture with --seed=${seed}, ${minutes} minute${minutes === 1 ? '' : 's'}`);
for (let i = 0; performance.now() < until && faults < most; i++) {
  // Now and then collections of thousands, as a rule of dozens.
  const found = await round(
    only === undefined ? seed * 1_000 + i : Number(only),
    { sizes: { middle: 0.15, large: 0.015 }, questions: 25 },
    tally,
  );
  rounds++;
  if (found !== undefined) {
    faults++;
    lastFault = performance.now() - started;
    tell(found);
  }
  if (only !== undefined) break;
  if (rounds % 500 === 0)
    say(
      `${((performance.now() - started) / 60_000).toFixed(1)} min: ${count(tally.questions)} questions, ${count(tally.compared)} answers compared, faults ${faults}`,
    );
}
const share = tally.questions === 0 ? 0 : Math.round((tally.refused / tally.questions) * 100);
say(
  `\nways compared: ${[...tally.ways]
    .sort()
    .map(([way, times]) => `${way} ${count(times)}`)
    .join(' · ')}`,
);
say(
  `${count(rounds)} worlds, ${count(tally.questions)} questions (${share} % of them no pipelines), asked ${count(tally.asked)} times, ${count(tally.compared)} answers compared; last fault after ${(lastFault / 60_000).toFixed(1)} minutes`,
);
say(`faults ${faults}`);
process.exit(faults === 0 ? 0 : 1);
