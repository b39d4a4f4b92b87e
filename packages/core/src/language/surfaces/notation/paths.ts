import type { Several } from '../../../values/several.ts';
import type { Expression, PathExpression, PathRoot, Segment, Selector } from '../../tree.ts';
import type { Span } from '../../span.ts';
import { parseInteger } from './literals.ts';
import { commaSeparated, type Reader } from './reader.ts';

/** Reads the condition of a filter: an expression, in which paths stand again. */
export type ReadCondition = (reader: Reader) => Expression;

/** A path from its root sign or partner name, which is the current token. */
export function readPath(reader: Reader, condition: ReadCondition): PathExpression {
  const start = reader.take();
  const root: PathRoot =
    start.text === '@' ? { kind: 'current' } : start.text === '$' ? { kind: 'whole' } : { kind: 'partner', name: start.text };
  const segments: Segment[] = [];
  reader.within({ kind: 'path', root, segments }, () => readSegments(reader, condition, segments));
  return { kind: 'path', root, segments, ...reader.placeFrom(start) };
}

function readSegments(reader: Reader, condition: ReadCondition, segments: Segment[]): void {
  // Right after its root, a path may go on with any field.
  if (reader.adjacent && segments.length === 0) reader.want('field');
  for (;;) {
    const start = reader.token;
    if (reader.takeSign('.')) {
      if (reader.adjacent) reader.want('field');
      segments.push({ descendant: false, selectors: [shorthand(reader)], ...reader.placeFrom(start) });
    } else if (reader.takeSign('..')) {
      const selectors: Several<Selector> = reader.isSign('[') && reader.adjacent ? bracketed(reader, condition) : [shorthand(reader)];
      segments.push({ descendant: true, selectors, ...reader.placeFrom(start) });
    } else if (reader.isSign('[')) {
      segments.push({ descendant: false, selectors: bracketed(reader, condition), ...reader.placeFrom(start) });
    } else {
      return;
    }
  }
}

/** What follows a dot at once: a field name or `*`. */
function shorthand(reader: Reader): Selector {
  const token = reader.token;
  if (!reader.adjacent) reader.fail('a field name right after the dot');
  if (reader.takeSign('*')) return { kind: 'wildcard', ...reader.place(token) };
  const name = reader.expectName('a field name');
  return { kind: 'name', name: name.text, ...reader.place(name) };
}

function bracketed(reader: Reader, condition: ReadCondition): Several<Selector> {
  reader.expectSign('[');
  const selectors = commaSeparated(reader, () => selector(reader, condition));
  reader.expectSign(']');
  return selectors;
}

function selector(reader: Reader, readCondition: ReadCondition): Selector {
  const start = reader.token;
  if (start.kind === 'string') {
    reader.take();
    return { kind: 'name', name: start.value, ...reader.place(start) };
  }
  if (reader.takeSign('*')) return { kind: 'wildcard', ...reader.place(start) };
  if (reader.takeSign('?')) {
    const condition = reader.within({ kind: 'filter' }, () => reader.nested(() => readCondition(reader)));
    return { kind: 'filter', condition, ...reader.placeFrom(start) };
  }
  if (reader.isSign(':')) return slice(reader, start, undefined);
  if (start.kind === 'number' || reader.isSign('-')) {
    const { value, ...span } = parseInteger(reader);
    return reader.isSign(':') ? slice(reader, start, value) : { kind: 'index', index: value, ...reader.place(span) };
  }
  return reader.fail('a quoted name, a position, a slice, * or ?');
}

function slice(reader: Reader, startToken: Span, start: number | undefined): Selector {
  const bound = () => (reader.token.kind === 'number' || reader.isSign('-') ? parseInteger(reader).value : undefined);
  reader.expectSign(':');
  const end = bound();
  const step = reader.takeSign(':') ? bound() : undefined;
  return { kind: 'slice', start, end, step: step ?? 1, ...reader.placeFrom(startToken) };
}
