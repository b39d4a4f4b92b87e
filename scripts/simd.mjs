/* Assembles the module that compares vectors: `npm run simd` after a change to its text. What comes of it is kept beside the text, and a test holds the two together. */
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import wabt from 'wabt';
import { root } from './steps.mjs';

const folder = join(root, 'packages/core/src/indexes/vector/simd');

/** @returns the module's bytes as base64 */
export async function assembled() {
  const { parseWat } = await wabt();
  const module = parseWat('distances.wat', readFileSync(join(folder, 'distances.wat'), 'utf8'), { simd: true });
  module.validate({ simd: true });
  return Buffer.from(module.toBinary({}).buffer).toString('base64');
}

if (process.argv[1] === import.meta.filename) {
  const text = `// Assembled of distances.wat by \`npm run simd\`.\nexport const distancesModule =\n  '${await assembled()}';\n`;
  writeFileSync(join(folder, 'distancesModule.ts'), text);
}
