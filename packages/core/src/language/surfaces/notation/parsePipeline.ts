import { findings } from '../../diagnostics/findings.ts';
import { lineAt, type Finding } from '../../diagnostics/diagnostic.ts';
import { nearest } from '../../diagnostics/nearest.ts';
import { ParseFailure, Reader } from './reader.ts';
import { isPlaced, type Between, type Pipeline, type PlacedStage } from '../../pipeline.ts';
import { Places } from '../../places.ts';
import type { Span } from '../../span.ts';
import { definitionOf, stageKinds, stageWords } from '../../stages/registry.ts';
import type { Stage, StageKind } from '../../stages/stage.ts';
import { tokenize, type Token } from './tokens.ts';

interface Block extends Span {
  readonly indented: boolean;
}

/**
 * Reads a text as a pipeline. Never throws: what cannot be read becomes a finding, and the other stages are
 * read all the same.
 * @param firstId the number of its first node, where it is read beside other texts
 */
export function parsePipeline(text: string, firstId = 1): Pipeline {
  const places = new Places(firstId);
  const found: Finding[] = [];
  const items = blocksOf(text).map((block): PlacedStage | Between => ('text' in block ? block : placeStage(text, block, places, found)));
  const stages = items.filter(isPlaced);
  const first = stages[0];
  if (first === undefined || (first.stage !== undefined && first.stage.kind !== 'from')) {
    found.push(findings.noFrom(first === undefined ? { from: 0, to: 0 } : first));
  }
  if (first?.stage?.kind === 'from' && first.off) found.push(findings.fromOff(first));
  for (const { stage, from, to } of stages.slice(1)) {
    if (stage?.kind === 'from') found.push(findings.fromNotFirst({ from, to }));
  }
  return { text, places, stages, items, findings: found };
}

/** Cuts the text into stages: each begins at the start of a line, indented lines go on with it. */
function blocksOf(text: string): (Block | Between)[] {
  const blocks: (Block | Between)[] = [];
  let current: { from: number; to: number; indented: boolean } | undefined;
  let pending: Between[] = [];
  let at = 0;
  for (const raw of text.split('\n')) {
    const line = raw.replace(/\s+$/, '');
    const content = line.trimStart();
    const indented = content.length < line.length;
    if (content === '' || content.startsWith('#')) {
      pending.push({ text: content });
    } else if (indented && current !== undefined) {
      // A comment or an empty line between the lines of one stage belongs to it.
      pending = [];
      current.to = at + line.length;
    } else {
      blocks.push(...pending);
      pending = [];
      current = { from: at + (line.length - content.length), to: at + line.length, indented };
      blocks.push(current);
    }
    at += raw.length + 1;
  }
  return [...blocks, ...pending];
}

function placeStage(text: string, block: Block, places: Places, found: Finding[]): PlacedStage {
  const { from, to } = block;
  if (block.indented) found.push(findings.indentedStart({ from: text.lastIndexOf('\n', from) + 1, to: from }));
  const tokens = tokenize(text, from, to);
  const content = tokens.filter((token) => token.kind !== 'comment');
  const lastEnd = content[content.length - 2]?.to ?? from;
  const comments = tokens
    .filter((token) => token.kind === 'comment')
    .map((comment) => ({ text: comment.text.trimEnd(), trailing: comment.from >= lastEnd }));
  const reader = new Reader(tokens, 'notation', places);
  const off = reader.isWord('off') && reader.next.kind === 'name';
  if (off) reader.take();
  const wordFrom = reader.token.from;
  let stage: Stage | undefined;
  try {
    stage = readStage(reader);
  } catch (error) {
    if (!(error instanceof ParseFailure)) throw error;
    found.push(indentedStage(text, block, reader, error.finding) ?? error.finding);
  }
  return { ...places.place(block), stage, off, line: lineAt(text, from), from, to, wordFrom, comments };
}

/** What is wrong where an indented line goes on with a stage that has come to its end, and its words begin another. */
function indentedStage(text: string, block: Block, reader: Reader, finding: Finding): Finding | undefined {
  const { token } = reader;
  const lineStart = text.lastIndexOf('\n', token.from - 1) + 1;
  if (token.kind !== 'name' || finding.from !== token.from || lineStart <= block.from || text.slice(lineStart, token.from).trim() !== '')
    return undefined;
  const kind = stageAt(reader);
  const words = kind ? stageWords(kind) : firstWordOf(token.text);
  return words === undefined ? undefined : findings.indentedStage(token, words, { from: lineStart, to: token.from });
}

/** @throws ParseFailure */
export function readStage(reader: Reader): Stage {
  const first = reader.token;
  const kind = stageAt(reader);
  if (kind === undefined) {
    const word = first.kind === 'name' ? first.text : '';
    if (word === '') reader.fail('the word of a stage, such as where or order by');
    return reader.reject(findings.unknownStage(first, word, nearest(word, stageKinds.map(stageWords)) ?? firstWordOf(word)));
  }
  const definition = definitionOf(kind);
  for (const word of definition.words) reader.expectWord(word);
  const stage = definition.parse(reader);
  reader.expectEnd();
  return stage;
}

/** The stage whose words stand here; the longest where one is the beginning of another. */
function stageAt(reader: Reader): StageKind | undefined {
  return stageKinds
    .filter((kind) => definitionOf(kind).words.every((word, i) => isName(reader.peek(i), word)))
    .sort((a, b) => definitionOf(b).words.length - definitionOf(a).words.length)[0];
}

function isName(token: Token, word: string): boolean {
  return token.kind === 'name' && token.text === word;
}

/** `order` alone means `order by`. */
function firstWordOf(word: string): string | undefined {
  const kind = stageKinds.find((candidate) => definitionOf(candidate).words[0] === word);
  return kind && stageWords(kind);
}
