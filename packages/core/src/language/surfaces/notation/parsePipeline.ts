import { findings } from '../../diagnostics/findings.ts';
import type { Finding } from '../../diagnostics/diagnostic.ts';
import { nearest } from '../../diagnostics/nearest.ts';
import { ParseFailure, Reader } from './reader.ts';
import { isNamedSource, isPlaced, type Between, type NamedSource, type Pipeline, type PlacedStage } from '../../pipeline.ts';
import { Places } from '../../places.ts';
import type { Span } from '../../span.ts';
import { continuingWords } from '../../stages/reserved.ts';
import { definitionOf, stageKinds, stageWords } from '../../stages/registry.ts';
import type { Stage, StageKind } from '../../stages/stage.ts';
import { parseSourceName } from './names.ts';
import { tokenize, type Token } from './tokens.ts';

interface Block extends Span {
  readonly indented: boolean;
  /** The 1-based line on which it begins. */
  readonly line: number;
}

/**
 * Reads a text as a pipeline. Never throws: what cannot be read becomes a finding, and the other stages are
 * read all the same.
 * @param firstId the number of its first node, where it is read beside other texts
 */
export function parsePipeline(text: string, firstId = 1): Pipeline {
  const places = new Places(firstId);
  const found: Finding[] = [];
  const items = blocksOf(text).map((block) => ('text' in block ? block : placeBlock(text, block, places, found)));
  const stages = items.filter(isPlaced);
  const sources = items.filter(isNamedSource);
  const first = stages[0];
  if (first === undefined || (first.stage !== undefined && first.stage.kind !== 'from')) {
    found.push(findings.noFrom(first === undefined ? { from: 0, to: 0 } : first));
  }
  if (first?.stage?.kind === 'from' && first.off) found.push(findings.fromOff(first));
  for (const { stage, from, to } of stages.slice(1)) {
    if (stage?.kind === 'from') found.push(findings.fromNotFirst({ from, to }));
  }
  return { text, places, stages, ...(sources.length > 0 && { sources }), items, findings: found };
}

/** Cuts the text into stages: each begins at the start of a line, indented lines go on with it. */
function blocksOf(text: string): (Block | Between)[] {
  const blocks: (Block | Between)[] = [];
  let current: { from: number; to: number; indented: boolean; line: number } | undefined;
  let pending: Between[] = [];
  for (const { content, from, to, indentation, line } of linesOf(text, 0, text.length, 1)) {
    if (content === '' || content.startsWith('#')) {
      pending.push({ text: content });
    } else if (indentation > 0 && current !== undefined) {
      // A comment or an empty line between the lines of one stage belongs to it.
      pending = [];
      current.to = to;
    } else {
      blocks.push(...pending);
      pending = [];
      current = { from, to, indented: indentation > 0, line };
      blocks.push(current);
    }
  }
  return [...blocks, ...pending];
}

interface Line extends Span {
  /** Without white space at its ends; `from` and `to` are its. */
  readonly content: string;
  readonly indentation: number;
  /** 1-based. */
  readonly line: number;
}

function linesOf(text: string, begin: number, end: number, first: number): Line[] {
  let at = begin;
  return text
    .slice(begin, end)
    .split('\n')
    .map((raw, i): Line => {
      const line = raw.replace(/\s+$/, '');
      const content = line.trimStart();
      const indentation = line.length - content.length;
      const from = at + indentation;
      at += raw.length + 1;
      return { content, indentation, from, to: from + content.length, line: first + i };
    });
}

function placeBlock(text: string, block: Block, places: Places, found: Finding[]): PlacedStage | NamedSource {
  return /^with\b/.test(text.slice(block.from, block.to))
    ? placeSource(text, block, places, found)
    : placeStage(text, block, places, found);
}

/** `with NAME`, and its stages under it, each at the indentation of the first. */
function placeSource(text: string, block: Block, places: Places, found: Finding[]): NamedSource {
  const { from, to } = block;
  const [head, ...rest] = linesOf(text, from, to, block.line);
  const lines = rest.filter(({ content }) => content !== '' && !content.startsWith('#'));
  const reader = new Reader(tokenize(text, from, head!.to), 'notation', places);
  reader.take();
  let named = { name: '', id: places.place(head!).id };
  try {
    named = parseSourceName(reader);
    reader.expectEnd('the end of the line, and its stages indented below');
  } catch (error) {
    if (!(error instanceof ParseFailure)) throw error;
    found.push(error.finding);
  }
  const blocks: { from: number; to: number; indented: false; line: number }[] = [];
  for (const line of lines) {
    const last = blocks[blocks.length - 1];
    if (last !== undefined && line.indentation > lines[0]!.indentation) last.to = line.to;
    else blocks.push({ from: line.from, to: line.to, indented: false, line: line.line });
  }
  const stages = blocks.map((one) => placeStage(text, one, places, found));
  const begins = stages[0]?.stage?.kind;
  if (begins !== 'from' && (stages.length === 0 || begins !== undefined)) found.push(findings.noFrom(stages[0] ?? head!));
  for (const stage of stages.slice(1)) if (stage.stage?.kind === 'from') found.push(findings.fromNotFirst(stage));
  return { name: named.name, nameId: named.id, stages, ...places.place(block), from, to };
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
    reader.expectEnd();
  } catch (error) {
    if (!(error instanceof ParseFailure)) throw error;
    found.push(indentedStage(text, block, reader, error.finding) ?? error.finding);
  }
  const { id } = places.place(block);
  return { id, stage, off, line: block.line, from, to, wordFrom, comments };
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

/** Signs with which a value begins: what they begin is no rest of another. */
const beginsValue: ReadonlySet<string> = new Set(['@', '$', ':', '(', '[', '{', '!', '-']);

/** @throws ParseFailure */
export function readStage(reader: Reader): Stage {
  const first = reader.token;
  const kind = stageAt(reader);
  if (kind === undefined) {
    const word = first.kind === 'name' ? first.text : '';
    // Between two words or values, or with a word that comes later in a stage: the stage above was meant to go on.
    const goesOn = continuingWords.has(word) || (first.kind === 'sign' && !beginsValue.has(first.text));
    if (first.from > 0 && goesOn) return reader.reject(findings.unindented(first, first.text));
    if (word === '') reader.fail('the word of a stage, such as where or order by');
    return reader.reject(findings.unknownStage(first, word, nearest(word, stageKinds.map(stageWords)) ?? firstWordOf(word)));
  }
  const definition = definitionOf(kind);
  for (const word of definition.words) reader.expectWord(word);
  return definition.parse(reader);
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
