/*
 * Measures the constants of the planner's cost table, in units of reading and testing one document in a scan, and holds the table
 * against them. A constant that is off by more than twice makes wrong choices where two plans are near.
 */
import { Engine, readIndex } from '../../packages/core/dist/index.js';
import { costs } from '../../packages/core/dist/planner/cost.js';
import { network } from '../../demo/dist/network.js';

const count = 100_000;
const tolerated = 2;
const say = (line) => process.stdout.write(`${line}\n`);
const median = (times) => [...times].sort((a, b) => a - b)[times.length >> 1];

const host = { pause: () => new Promise((resolve) => setImmediate(resolve)), newId: () => 'run', now: () => new Date() };
const engine = new Engine(host);
const made = Object.fromEntries(network(1).map(({ name, document }) => [name, document]));
const { store } = engine.define('bookings', '@.id');
for (let i = 0; i < count; i++) store.put(i, { ...made.bookings(i), serial: (i * 7_919) % count, twenty: i % 20 });
const members = engine.define('members', '@.id');
for (let i = 0; i < count; i++) members.store.put(i, { id: `p${i}`, key: i });
for (const keys of [['@.serial'], ['@.bookedAt'], ['@.twenty', '@.serial']])
  await engine.collections.get('bookings').buildIndex(readIndex({ keys }), host.pause);
await members.buildIndex(readIndex({ keys: ['@.key'] }), host.pause);

const guards = { documentsRead: 1e9, memoryBytes: 8e9, timeMs: 1e6 };
/** Milliseconds of a question, at the median; what the plan is has to be insisted on. */
async function time(stages, more = {}) {
  const taken = [];
  for (let i = 0; i < 9; i++) {
    const answer = await engine.query({ pipeline: `from bookings\n${stages}`, pageSize: 0, guards, ...more });
    if (!answer.ok) throw new Error(`${stages}: ${answer.problem.message}`);
    if (i > 1) taken.push(answer.value.cost.timeMs);
  }
  return median(taken);
}
const scan = { ways: ['full scan'] };
const nothing = 'where @.status == "no such" && @.party.size >= 4';
const whole = 'where @.serial >= 0';
const unit = (await time(nothing, scan)) / count;
const beyond = async (stages, than, more = scan) => ((await time(stages, more)) - (await time(than, more))) / count / unit;
const doublings = Math.log2(count);
const keptBy = 'where @.serial >= 0\nlimit 1';

const measured = {
  orderedEntry: (await time('order by @.serial', { ways: ['index order'], useIndex: ['serial'] })) / count / unit,
  mergedEntry: (await time('where @.twenty in [1, 2, 3, 4, 5, 6, 7, 8, 9, 10]\norder by @.serial', { ways: ['index order'], useIndex: ['twenty_serial'] })) / (count / 2) / unit, // prettier-ignore
  keysAlone: (await time(`${whole}\nselect @.serial`, { ways: ['index only'] })) / count / unit,
  orderedKeysAlone: (await time('order by @.serial\nselect @.serial', { ways: ['index only'], useIndex: ['serial'] })) / count / unit,
  'position + fetched': (await time(whole, { ways: ['index'], useIndex: ['serial'] })) / count / unit,
  sortedRow: (await beyond(`${whole}\norder by @.bookedAt`, whole)) / doublings,
  topNRow: await beyond(`${whole}\norder by @.bookedAt\nlimit 20`, keptBy),
  filteredRow: await beyond(`${whole}\nsample 1000000 seed 1\nwhere @.twenty >= 0`, `${whole}\nsample 1000000 seed 1`),
  madeRow: await beyond(`${whole}\ncompute x = @.serial + 1`, whole),
  builtPartner: await beyond('where @.serial == 1\njoin members as m on m.key == @.serial', 'where @.serial == 1', { ways: ['full scan', 'hash join'] }), // prettier-ignore
  'probedRow + joinedRow': (await beyond(`${whole}\njoin members as m on m.key == @.serial`, whole, { ways: ['full scan', 'hash join'] })) - costs.builtPartner, // prettier-ignore
  'lookup + joinedRow': await beyond(`${whole}\njoin members as m on m.key == @.serial`, whole, { ways: ['full scan', 'index join'] }),
  groupedRow: await beyond('group by @.twenty measure n = count()', nothing),
  'groupedRow + madeGroup': await beyond('group by @.serial measure n = count()', nothing),
  sampledRow: await beyond(`${whole}\nsample 10 seed 1`, keptBy),
};
const sums = {
  'position + fetched': costs.position + costs.fetched,
  'probedRow + joinedRow': costs.probedRow + costs.joinedRow,
  'lookup + joinedRow': costs.lookup + costs.joinedRow,
  'groupedRow + madeGroup': costs.groupedRow + costs.madeGroup,
};

say(`Costs of the planner's table, in units of ${(unit * 1e6).toFixed(0)} ns: reading and testing one of ${count} documents in a scan.`);
let off = 0;
for (const [name, found] of Object.entries(measured)) {
  const told = sums[name] ?? costs[name];
  const ratio = told / Math.max(found, 0.01);
  const fits = ratio <= tolerated && ratio >= 1 / tolerated;
  if (!fits) off++;
  say(`${name.padEnd(26)} measured ${found.toFixed(2).padStart(6)}  in the table ${told.toFixed(2).padStart(6)}  ${fits ? 'fits' : `off by ${ratio.toFixed(2)}`}`); // prettier-ignore
}
say(off === 0 ? 'The table fits.' : `${off} of ${Object.keys(measured).length} are off by more than ${tolerated} times.`);
process.exitCode = off === 0 ? 0 : 1;
