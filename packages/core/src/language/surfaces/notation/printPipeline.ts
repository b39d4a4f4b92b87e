import { isNamedSource, isPlaced, type NamedSource, type Pipeline, type PlacedStage } from '../../pipeline.ts';
import { definitionOf } from '../../stages/registry.ts';

/**
 * The one canonical layout: a stage a line, one space between words, comments where they stood, no more than
 * one empty line in a row. A stage that could not be read keeps its text.
 */
export function printPipeline(pipeline: Pipeline): string {
  const lines: string[] = [];
  for (const item of pipeline.items) {
    if (isPlaced(item)) lines.push(...printPlaced(item, pipeline.text));
    else if (isNamedSource(item)) lines.push(...printSource(item, pipeline));
    else if (item.text !== '' || (lines.length > 0 && lines[lines.length - 1] !== '')) lines.push(item.text);
  }
  while (lines[lines.length - 1] === '') lines.pop();
  return lines.join('\n');
}

function printSource({ name, stages, from, to }: NamedSource, { text, findings }: Pipeline): string[] {
  // What could not be read stays as it was.
  if (findings.some((finding) => finding.from >= from && finding.to <= to)) return [text.slice(from, to)];
  return [`with ${name}`, ...stages.flatMap((stage) => printPlaced(stage, text)).map(indented)];
}

const indented = (lines: string): string => lines.replace(/^/gm, '  ');

/** A source by its name: the texts of its stages stand indented under it. */
export function namedText(name: string, stages: readonly string[]): string {
  return `with ${name}\n${indented(stages.join('\n'))}`;
}

function printPlaced({ stage, off, comments, from, to }: PlacedStage, text: string): string[] {
  if (stage === undefined) return [text.slice(from, to)];
  const above = comments.filter((comment) => !comment.trailing).map((comment) => comment.text);
  const trailing = comments.filter((comment) => comment.trailing).map((comment) => '  ' + comment.text);
  return [
    ...above,
    (off ? 'off ' : '') + definitionOf(stage.kind).print(stage) + trailing.slice(0, 1).join(''),
    ...trailing.slice(1).map((comment) => comment.trimStart()),
  ];
}
