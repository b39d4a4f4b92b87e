import { loadDemo } from './load.ts';

const [address, scale = '1', how] = process.argv.slice(2);
if (address === undefined) throw new Error('the address of a server is wanted');
try {
  await loadDemo({ address, scale: Number(scale), tell: (line) => void process.stdout.write(`  ${line}\n`), isPlain: how === '--plain' });
} catch (error) {
  process.stderr.write(`The demo data could not be loaded: ${(error as Error).message}\n`);
  process.exit(1);
}
