import { nearest } from '../../diagnostics/nearest.ts';
import { Places } from '../../places.ts';
import { ParseFailure, Reader } from '../notation/reader.ts';
import type { Token } from '../notation/tokens.ts';
import { reserved } from './reserved.ts';
import { faults } from './faults.ts';
import { tokenizeSql } from './tokens.ts';
import type { SqlExpression, SqlQuery } from './tree.ts';

/** The rules that stand inside one another, whichever file they are in. */
interface Rules {
  readonly expression: (reader: SqlReader) => SqlExpression;
  /** An expression that holds no comparison. */
  readonly sum: (reader: SqlReader) => SqlExpression;
  readonly query: (reader: SqlReader) => SqlQuery;
}

/** The reader of the notation over the tokens of SQL: its words are those that are not quoted, in any case. */
export class SqlReader extends Reader {
  private readonly rules: Rules;
  /** Where the names begin that were read: of tables, columns, fields, parameters and what they are called. */
  readonly names = new Set<number>();

  constructor(text: string, rules: Rules, firstId?: number) {
    super(tokenizeSql(text), 'notation', new Places(firstId));
    this.rules = rules;
  }

  expression(): SqlExpression {
    return this.rules.expression(this);
  }
  sum(): SqlExpression {
    return this.rules.sum(this);
  }
  query(): SqlQuery {
    return this.rules.query(this);
  }

  override isWord(word: string): boolean {
    return isWordToken(this.token, word);
  }
  /** Whether these words stand here, one after another. */
  atWords(...words: readonly string[]): boolean {
    return words.every((word, i) => isWordToken(this.peek(i), word));
  }
  takeWords(...words: readonly string[]): boolean {
    if (!this.atWords(...words)) return false;
    for (let i = 0; i < words.length; i++) this.take();
    return true;
  }
  /** Whether a name stands here that is called, such as COUNT(. */
  atCall(name?: string): boolean {
    const { token, next } = this;
    return token.kind === 'name' && token.quoted === undefined && next.kind === 'sign' && next.text === '(' && (name === undefined || isWordToken(token, name)); // prettier-ignore
  }
  get isName(): boolean {
    const { token } = this;
    return token.kind === 'name' && (token.quoted === true || !reserved.has(token.text.toUpperCase()));
  }
  /** The name of a table, a column or an alias. */
  name(expected: string): Token & { kind: 'name' } {
    if (!this.isName) this.fail(expected);
    return this.expectName(expected);
  }
  override expectName(expected: string): Token & { kind: 'name' } {
    const token = super.expectName(expected);
    this.names.add(token.from);
    return token;
  }

  /** Ends the parse where one of several words is wanted; the nearest to what stands here is offered. */
  failOf(expected: string, words: readonly string[]): never {
    const { token } = this;
    const near = token.kind === 'name' ? nearest(token.text, words) : undefined;
    if (near === undefined) return this.fail(expected);
    throw new ParseFailure(faults.expected(token, expected, `“${token.text}”`, near));
  }
  protected override unexpected(token: Token, expected: string): ParseFailure {
    if (token.kind === 'sign' && token.text === '=' && this.previous.kind === 'sign' && this.previous.text === '=')
      return new ParseFailure(faults.doubleEquals({ from: this.previous.from, to: token.to }));
    return new ParseFailure(faults.expected(token, expected, token.kind === 'end' ? 'the end' : `“${token.text}”`));
  }
}

function isWordToken(token: Token, word: string): boolean {
  return token.kind === 'name' && token.quoted === undefined && token.text.toUpperCase() === word;
}
