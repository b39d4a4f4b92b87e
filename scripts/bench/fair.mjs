/* The fair loops alone: `npm run bench -- --fair [documents] [--only=words] [--json]`. */
import { benchFair, summary, told } from './fair/fair.mjs';

const given = process.argv.slice(2);
const count = Number(given.find((one) => /^\d+$/.test(one)) ?? 500_000);
const only = given.find((one) => one.startsWith('--only='))?.slice('--only='.length);
const lines = await benchFair({ count, only });
if (lines.length === 0) throw new Error(`no line has ${only} in its title`);
if (given.includes('--json')) process.stdout.write(`${JSON.stringify({ documents: count, ...summary(lines), all: lines })}\n`);
else process.stdout.write(`\n${told(lines)}\n`);
