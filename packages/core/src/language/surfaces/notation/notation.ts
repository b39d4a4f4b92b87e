import { lineAt } from '../../diagnostics/diagnostic.ts';
import { definitionOf } from '../../stages/registry.ts';
import type { Surface } from '../surface.ts';
import { complete } from './complete.ts';
import { parsePipeline } from './parsePipeline.ts';
import { printPipeline } from './printPipeline.ts';
import { notationWords } from './words.ts';

/** Our own notation: a stage a line, paths of RFC 9535. */
export const notation: Surface = {
  name: 'notation',
  parse: parsePipeline,
  print: (stages) => stages.map((stage) => definitionOf(stage.kind).print(stage)).join('\n'),
  format: printPipeline,
  complete,
  words: notationWords,
  lineOf: ({ text, places }, id) => lineAt(text, places.of({ id }).from),
};
