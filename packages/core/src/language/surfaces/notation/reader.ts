import { findings } from '../../diagnostics/findings.ts';
import type { Finding } from '../../diagnostics/diagnostic.ts';
import { Places, type Identified } from '../../places.ts';
import type { Span } from '../../span.ts';
import type { Cursor, Standing, Wanted } from './cursor.ts';
import { describe, type Sign, type Token } from './tokens.ts';

/** Nested deeper than this, an expression gets a diagnostic instead of a tree. */
export const depthLimit = 200;

/** The two languages that share this grammar: the notation, and RFC 9535 to the letter. */
export type Dialect = 'notation' | 'standard';

/** Thrown by the parser alone and caught where a stage or a query ends. */
export class ParseFailure extends Error {
  readonly finding: Finding;
  constructor(finding: Finding) {
    super(finding.message);
    this.finding = finding;
  }
}

/** A cursor over the tokens of one stage or query. */
export class Reader {
  readonly dialect: Dialect;
  /** The names by which join partners may be called where this text stands. */
  partners: ReadonlySet<string> = new Set();
  private readonly tokens: readonly Token[];
  private index = 0;
  private depth = 0;

  /** Where the nodes stand that are read here. */
  readonly places: Places;

  /** Is told what the parser wants at the end of the tokens, where someone asks that. */
  private readonly cursor: Cursor | undefined;

  constructor(tokens: readonly Token[], dialect: Dialect = 'notation', places = new Places(), cursor?: Cursor) {
    this.cursor = cursor;
    this.places = places;
    this.tokens = tokens.filter((token) => token.kind !== 'comment');
    this.dialect = dialect;
  }

  get token(): Token {
    return this.tokens[this.index]!;
  }
  get next(): Token {
    return this.peek(1);
  }
  /** The token `ahead` places further on. */
  peek(ahead: number): Token {
    return this.tokens[Math.min(this.index + ahead, this.tokens.length - 1)]!;
  }
  /** The token last taken; its end is where the node being built ends. */
  get previous(): Token {
    return this.tokens[Math.max(0, this.index - 1)]!;
  }

  take(): Token {
    const token = this.token;
    if (token.kind === 'broken') throw new ParseFailure(token.finding);
    if (this.index < this.tokens.length - 1) this.index++;
    return token;
  }

  isSign(sign: Sign): boolean {
    return this.token.kind === 'sign' && this.token.text === sign;
  }
  isWord(word: string): boolean {
    return this.token.kind === 'name' && this.token.text === word;
  }
  takeSign(sign: Sign): Token | undefined {
    return this.isSign(sign) ? this.take() : undefined;
  }
  takeWord(word: string): Token | undefined {
    return this.isWord(word) ? this.take() : undefined;
  }
  expectSign(sign: Sign, expected = `“${sign}”`): Token {
    return this.takeSign(sign) ?? this.fail(expected);
  }
  expectWord(word: string): Token {
    return this.takeWord(word) ?? this.fail(`“${word}”`);
  }
  expectName(expected: string): Token & { kind: 'name' } {
    const token = this.token;
    if (token.kind !== 'name') return this.fail(expected);
    this.take();
    return token;
  }
  expectEnd(expected = 'the end of the stage'): void {
    if (this.token.kind !== 'end') this.fail(expected);
  }
  /** Whether the current token follows the one before without white space. */
  get adjacent(): boolean {
    return this.previous.to === this.token.from;
  }
  /** The span from a beginning to the end of the last token taken. */
  spanFrom(start: Span): Span {
    return { from: start.from, to: Math.max(start.from, this.previous.to) };
  }

  /** Numbers a node that stretches from a beginning to the end of the last token taken. */
  placeFrom(start: Span): Identified {
    return this.places.place(this.spanFrom(start));
  }
  place(span: Span): Identified {
    return this.places.place(span);
  }
  at(node: Identified): Span {
    return this.places.of(node);
  }

  /** Parses within something. Where it fails, that is what it failed within. */
  within<T>(standing: Standing, parse: () => T): T {
    if (this.cursor === undefined) return parse();
    const leave = this.cursor.enter(standing);
    const result = parse();
    leave();
    return result;
  }
  /** Says what would be taken here, perhaps for what has been begun already. */
  want(wanted: Wanted, from = this.token.from): void {
    if (this.token.kind === 'end') this.cursor?.want(wanted, from);
  }

  /** Runs `parse` one level deeper, and refuses to go deeper than the limit. */
  nested<T>(parse: () => T): T {
    if (++this.depth > depthLimit) throw new ParseFailure(findings.tooDeep(this.token, depthLimit));
    const result = parse();
    this.depth--;
    return result;
  }

  /** Ends the parse: `expected` is not what stands here. */
  fail(expected: string): never {
    const token = this.token;
    if (token.kind === 'broken') throw new ParseFailure(token.finding);
    throw this.unexpected(token, expected);
  }
  /** What is told of a token that is not what was expected. */
  protected unexpected(token: Token, expected: string): ParseFailure {
    if (token.kind === 'sign' && token.text === '=') return new ParseFailure(findings.singleEquals(token));
    return new ParseFailure(findings.expected(token, expected, describe(token)));
  }
  reject(finding: Finding): never {
    throw new ParseFailure(finding);
  }
}

/** Items separated by commas, one at least. */
export function commaSeparated<T>(reader: Reader, item: () => T): [T, ...T[]] {
  const items: [T, ...T[]] = [item()];
  while (reader.takeSign(',')) items.push(item());
  return items;
}
