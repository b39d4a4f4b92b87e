import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { root, say } from './steps.mjs';

/**
 * Plants faults one after another, each as a slip of the pen would make it, and sees whether the minute of torture in
 * `npm test` finds it. `--check` says whether each can be planted still. The files are put back, whatever happens. `--only=joins` plants those alone that are about joins.
 */
const core = 'packages/core/src/';
const faults = [
  [
    'comparator: texts by UTF-16 unit',
    'values/order.ts',
    'if (x >= 0xd800 && y >= 0xd800) return codePointRank(x) - codePointRank(y);',
    '',
  ],
  [
    'comparator: a shorter array first whatever it holds',
    'values/order.ts',
    '    const order = compareValues(a[i], b[i]);\n    if (order !== 0) return order;\n  }\n  return a.length - b.length;',
    '    const order = compareValues(a[i], b[i]);\n    if (order !== 0 && a.length === b.length) return order;\n  }\n  return a.length - b.length;',
  ],
  [
    'comparator: null before values though it is wanted last',
    'values/order.ts',
    "emptyA === (nulls === 'first') ? -1 : 1",
    "emptyA === (nulls === 'last') ? -1 : 1",
  ],
  [
    'sort: texts that end with a packed stretch',
    'values/textOrder.ts',
    'goesOn ||= texts[rows[i]!]!.length > place;',
    'if (i === first) goesOn = texts[rows[i]!]!.length > place;',
  ],
  ['keys: two texts glued together', 'values/keys.ts', 'return `"${value.length}:${value}`;', 'return `"${value}`;'],
  [
    'bounds: the end of a prefix',
    'indexes/ordered/cuts.ts',
    'return value.startsWith(cut.prefix) ? -1 : compareText(value, cut.prefix);',
    'return compareText(value, cut.prefix);',
  ],
  ['bounds: <= for <', 'indexes/ordered/cuts.ts', "side: inclusive ? 'after' : 'before' } };", "side: 'after' } };"],
  [
    'bounds: an entry after its keys',
    'indexes/ordered/entryBlocks.ts',
    'if (compare(block.keys, middle, block.positions) < 0) from = middle + 1;',
    'if (compare(block.keys, middle, block.positions) <= 0) from = middle + 1;',
  ],
  [
    'upkeep: an entry of a replaced document stays',
    'indexes/ordered/orderedIndex.ts',
    'if (before !== undefined) this.removeAll(position, this.reader.tuplesOf(before));',
    'if (before !== undefined && after === undefined) this.removeAll(position, this.reader.tuplesOf(before));',
  ],
  [
    'union: a document that two alternatives find comes twice',
    'execution/operators/indexSetScan.ts',
    'return differentPositions(all.sort());',
    'return all.sort();',
  ],
  [
    'intersection: the last of a list is left out',
    'execution/operators/indexSetScan.ts',
    'for (let i = 0, j = 0; i < a.length && j < b.length;) {',
    'for (let i = 0, j = 0; i < a.length - 1 && j < b.length;) {',
  ],
  [
    'intersection: a walk that leaves null and missing for later',
    'planner/paths/matchIndex.ts',
    'return match.inOrderAlone ? undefined : { ...match, ordered: undefined };',
    'return { ...match, ordered: undefined };',
  ],
  [
    'joins: null meets null',
    'execution/segments/joinTable.ts',
    'for (const value of values) if (value == null) return;',
    'for (const value of values) if (value === undefined) return;',
  ],
  [
    'segments: a left join forgets who met none',
    'execution/segments/steps/hashJoin.ts',
    'emitter.line(`else if (${met} !== 0) break; else ${met} = -1;`);',
    'emitter.line(`else break;`);',
  ],
  [
    'segments: a field that is taken away is read from below',
    'expressions/slots.ts',
    'if (written !== undefined) return { held: written.value };',
    "if (written !== undefined && written.value !== 'undefined') return { held: written.value };",
  ],
  [
    'joins: partners in the order of the elements',
    'execution/segments/joinTable.ts',
    'return [...found].sort((a, b) => a - b).map((number) => this.partners[number]!);',
    'return [...found].map((number) => this.partners[number]!);',
  ],
  [
    'joins by index: the other equalities are not tested',
    'planner/layers/joinIndex.ts',
    'const tested = equalities.filter((_, i) => i !== at || match.rightIsList);',
    'const tested: Expression[] = [];',
  ],
  ['groups: missing is null', 'execution/numbering/valueNumbers.ts', 'const key = keyOf(value);', 'const key = keyOf(value ?? null);'],
  [
    'groups: a sum that depends on the order',
    'execution/groups/sums.ts',
    'this.sums.add(group, value as number);',
    'this.sums.add(group, Math.fround(value as number));',
  ],
  ['ranks: ties count on', 'execution/ranking.ts', "return ranking === 'rank' ? place : before + 1;", 'return before + 1;'],
  [
    'top-N: the one that ties with the last is let go',
    'execution/segments/bound.ts',
    "const after = direction === 'desc' ? '<' : '>';",
    "const after = direction === 'desc' ? '<=' : '>=';",
  ],
  [
    'ranks: as many as are wanted are too many',
    'execution/operators/rankBest.ts',
    'partition.candidates = inOrder.filter((one) => one.rank <= step.atMost);',
    'partition.candidates = inOrder.filter((one) => one.rank < step.atMost);',
  ],
  [
    'paging: an offset before a limit is not counted',
    'planner/demand.ts',
    "if (planned.stage.kind === 'limit') return skipped + countOf(planned);",
    "if (planned.stage.kind === 'limit') return countOf(planned);",
  ],
];

const only = process.argv.find((argument) => argument.startsWith('--only='))?.slice('--only='.length) ?? '';
const planted = faults.filter(([name]) => name.includes(only));
// A file that has moved, or that says it otherwise now, would be found out an hour late.
const lost = planted.filter(
  ([, path, from]) => !existsSync(join(root, core, path)) || !readFileSync(join(root, core, path), 'utf8').includes(from),
);
for (const [name, path] of lost) say(`${name}: ${path} does not say what is to be changed`);
if (lost.length > 0 || process.argv.includes('--check')) process.exit(lost.length === 0 ? 0 : 1);
let caught = 0;
for (const [name, path, from, to] of planted) {
  const file = join(root, core, path);
  const text = readFileSync(file, 'utf8');
  const started = performance.now();
  let found;
  try {
    writeFileSync(file, text.replace(from, to));
    const jest = ['node_modules/jest/bin/jest.js', '--selectProjects', 'torture', '--bail', '--silent', '-t', 'the same in every way'];
    found =
      spawnSync(process.execPath, jest, { cwd: root, stdio: 'ignore', env: { ...process.env, ZESTY_SIEVE_SHRINK: '0' } }).status !== 0;
  } finally {
    writeFileSync(file, text);
  }
  if (found) caught++;
  say(`${found ? 'found ' : 'MISSED'}  ${((performance.now() - started) / 1_000).toFixed(0).padStart(4)} s  ${name}`);
}
say(`${caught} of ${planted.length} found`);
process.exit(caught >= planted.length - 1 ? 0 : 1);
