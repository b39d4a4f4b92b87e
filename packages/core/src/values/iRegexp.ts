/** An I-Regexp pattern (RFC 9485) read and rewritten for a matcher. */
export interface ReadPattern {
  /** The pattern in the syntax shared by ECMAScript's `u` mode and RE2, without its anchors. */
  readonly source: string;
  /**
   * Whether it begins with an unescaped `^`, and ends with an unescaped `$`: anchors, as the mappings to other dialects have
   * them (RFC 9485, 5). They are of the first and the last of its alternatives.
   */
  readonly anchored: { readonly start: boolean; readonly end: boolean };
  /** Whether a backtracking matcher is linear on it: for the whole text, and for any part of it. */
  readonly safeWhole: boolean;
  readonly safePart: boolean;
  /** What every text that fits as a whole begins with. */
  readonly prefix: string;
  /** Whether every text that begins with `prefix` fits, line ends aside: the pattern is a literal and `.*`. */
  readonly isPrefix: boolean;
}

class PatternProblem extends Error {}

const categories = /^(?:L[lmotu]?|M[cen]?|N[dlo]?|P[cdefios]?|Z[lps]?|S[ckmo]?|C[cfno]?)$/;
const singleEscapes = '()*+-.?[\\]^{|}';
const specials = '()*+.?[\\]{|}';
const quantifiers = '*+?{';
const maximalRepeat = 1_000;
/** A text that can be read in more ways than this is left to a matcher that does not go back. */
const fewChoices = 32;

interface Piece {
  source: string;
  /** The one text that it matches, where there is only one. */
  literal?: string;
  /** How often something in it is repeated at least, repetitions within repetitions multiplied. */
  repeats: number;
}

/** Reads a pattern by the grammar of RFC 9485, 3. */
class PatternReader {
  private at = 0;
  private depth = 0;
  unbounded = 0;
  repeatedGroups = 0;
  /** In how many ways a text may be read, what repeats without bound aside: alternatives, and what may be there or not. */
  choices = 1;
  readonly anchored = { start: false, end: false };
  private readonly text: string;

  constructor(text: string) {
    this.text = text;
  }

  read(): { source: string; branches: Piece[][] } {
    if (this.text.startsWith('^') && !quantifiers.includes(this.text[1] ?? ' ')) {
      this.anchored.start = true;
      this.at++;
    }
    const read = this.alternatives();
    if (this.at < this.text.length) throw new PatternProblem(`“${this.text[this.at]}” closes nothing`);
    return read;
  }

  private alternatives(): { source: string; branches: Piece[][] } {
    if (++this.depth > 100) throw new PatternProblem('brackets are nested more than 100 deep');
    const branches: Piece[][] = [[]];
    while (this.at < this.text.length && this.text[this.at] !== ')') {
      if (this.text[this.at] === '|') {
        this.at++;
        branches.push([]);
      } else if (this.depth === 1 && this.text[this.at] === '$' && this.at === this.text.length - 1) {
        this.anchored.end = true;
        this.at++;
      } else {
        branches[branches.length - 1]!.push(this.piece());
      }
    }
    this.depth--;
    this.choices *= branches.length;
    return { source: branches.map((pieces) => pieces.map((piece) => piece.source).join('')).join('|'), branches };
  }

  private piece(): Piece {
    const group = this.text[this.at] === '(';
    const atom = this.atom();
    const quantifier = this.quantifier();
    if (quantifier === undefined) return atom;
    if (group) this.repeatedGroups++;
    const repeats = atom.repeats * quantifier.least;
    if (repeats > maximalRepeat) throw new PatternProblem(`its repetitions within repetitions come to more than ${maximalRepeat}`);
    return { source: atom.source + quantifier.source, repeats };
  }

  private quantifier(): { readonly source: string; readonly least: number } | undefined {
    const sign = this.text[this.at];
    if (sign === '*' || sign === '+') this.unbounded++;
    if (sign === '?') this.choices *= 2;
    if (sign === '*' || sign === '+' || sign === '?') {
      this.at++;
      return { source: sign, least: 1 };
    }
    if (sign !== '{') return undefined;
    const found = /^\{(\d+)(?:(,)(\d*))?\}/.exec(this.text.slice(this.at));
    if (found === null) throw new PatternProblem('“{” begins no repetition such as {2}, {2,} or {2,5}');
    const [whole, least, comma, most] = found;
    if (comma !== undefined && most === '') this.unbounded++;
    const greatest = Math.max(Number(least), Number(most || 0));
    if (greatest > maximalRepeat) throw new PatternProblem(`it repeats more than ${maximalRepeat} times`);
    if (most && Number(most) < Number(least)) throw new PatternProblem(`${whole} has its bounds the wrong way round`);
    if (most) this.choices *= Number(most) - Number(least) + 1;
    this.at += whole.length;
    return { source: whole, least: Math.max(1, greatest) };
  }

  private take(): string {
    const point = this.text.codePointAt(this.at);
    if (point === undefined) throw new PatternProblem('it ends too soon');
    if (point >= 0xd800 && point <= 0xdfff) throw new PatternProblem('it holds half a surrogate pair');
    const character = String.fromCodePoint(point);
    this.at += character.length;
    return character;
  }

  private atom(): Piece {
    const first = this.take();
    if (first === '(') {
      const { source, branches } = this.alternatives();
      if (this.text[this.at] !== ')') throw new PatternProblem('“(” is not closed');
      this.at++;
      return { source: `(?:${source})`, repeats: Math.max(1, ...branches.flat().map(({ repeats }) => repeats)) };
    }
    if (first === '.') return { source: '[^\\n\\r]', repeats: 1 };
    if (first === '\\') return this.escape();
    if (first === '[') return { source: this.characterClass(), repeats: 1 };
    if (specials.includes(first)) throw new PatternProblem(`“${first}” needs something before it, or a backslash`);
    return { source: literalSource(first), literal: first, repeats: 1 };
  }

  private escape(): Piece {
    const letter = this.take();
    if (letter === 'n' || letter === 'r' || letter === 't') {
      return { source: '\\' + letter, literal: { n: '\n', r: '\r', t: '\t' }[letter], repeats: 1 };
    }
    if (letter === 'p' || letter === 'P') return { source: this.category(letter), repeats: 1 };
    if (!singleEscapes.includes(letter)) throw new PatternProblem(`\\${letter} is no escape of I-Regexp`);
    return { source: literalSource(letter), literal: letter, repeats: 1 };
  }

  private category(letter: string): string {
    const found = /^\{([A-Za-z]{1,2})\}/.exec(this.text.slice(this.at));
    if (found === null || !categories.test(found[1]!)) throw new PatternProblem(`\\${letter} needs a category such as {L} or {Nd}`);
    this.at += found[0].length;
    return `\\${letter}${found[0]}`;
  }

  private characterClass(): string {
    let source = '[';
    if (this.text[this.at] === '^') {
      this.at++;
      source += '^';
    }
    for (let first = true; ; first = false) {
      const sign = this.text[this.at];
      if (sign === undefined) throw new PatternProblem('“[” is not closed');
      if (sign === ']') {
        if (first) throw new PatternProblem('[] holds nothing');
        this.at++;
        return source + ']';
      }
      if (sign === '-') {
        if (!first && this.text[this.at + 1] !== ']') throw new PatternProblem('“-” stands between two characters, first or last');
        this.at++;
        source += '\\-';
        continue;
      }
      source += this.classItem();
    }
  }

  private classItem(): string {
    const low = this.classCharacter();
    if (low.literal === undefined || this.text[this.at] !== '-' || this.text[this.at + 1] === ']') return low.source;
    this.at++;
    const high = this.classCharacter();
    if (high.literal === undefined || (high.literal.codePointAt(0) ?? 0) < (low.literal.codePointAt(0) ?? 0)) {
      throw new PatternProblem('a range goes from a lower to a higher character');
    }
    return `${low.source}-${high.source}`;
  }

  private classCharacter(): { source: string; literal?: string } {
    const character = this.take();
    if (character === '\\') {
      const { source, literal } = this.escape();
      return literal === undefined ? { source } : { source: classSource(literal), literal };
    }
    if (character === '[' || character === '-') throw new PatternProblem(`“${character}” needs a backslash inside [ ]`);
    return { source: classSource(character), literal: character };
  }
}

function literalSource(character: string): string {
  return '^$/\\.*+?()[]{}|'.includes(character) ? '\\' + character : character;
}

function classSource(character: string): string {
  if (character === '\n') return '\\n';
  return '\\]^-['.includes(character) ? '\\' + character : character;
}

/**
 * Reads an I-Regexp.
 * @returns the pattern for a matcher, or a clause that says why it is none
 */
export function readPattern(text: string): ReadPattern | { readonly problem: string } {
  const reader = new PatternReader(text);
  try {
    const { source, branches } = reader.read();
    const [pieces = []] = branches;
    const plain = branches.length === 1 ? pieces.findIndex((piece) => piece.literal === undefined) : 0;
    const literal = plain < 0 ? pieces : pieces.slice(0, plain);
    const rest =
      plain < 0
        ? ''
        : pieces
            .slice(plain)
            .map((piece) => piece.source)
            .join('');
    const repeats = branches.flat().reduce((most, piece) => Math.max(most, piece.repeats), 1);
    const simple = reader.repeatedGroups === 0 && repeats <= 64 && reader.choices <= fewChoices;
    return {
      source,
      anchored: reader.anchored,
      safeWhole: simple && reader.unbounded <= 1,
      safePart: simple && reader.unbounded === 0,
      prefix: branches.length === 1 ? literal.map((piece) => piece.literal).join('') : '',
      isPrefix: branches.length === 1 && rest === '[^\\n\\r]*',
    };
  } catch (error) {
    if (error instanceof PatternProblem) return { problem: error.message };
    throw error;
  }
}

/** Why a text is no I-Regexp, or undefined where it is one. */
export function patternProblem(text: string): string | undefined {
  const read = readPattern(text);
  return 'problem' in read ? read.problem : undefined;
}
