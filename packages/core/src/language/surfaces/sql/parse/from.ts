import type { Span } from '../../../span.ts';
import { commaSeparated } from '../../notation/reader.ts';
import { faults } from '../faults.ts';
import type { SqlReader } from '../sqlReader.ts';
import type { SqlExpression, SqlFrom, SqlRows, SqlSource, SqlTableColumn } from '../tree.ts';
import { parseType } from './calls.ts';
import { parseJsonPath } from './jsonPaths.ts';

type Join = 'first' | 'inner' | 'left' | 'cross';

/** FROM, after its word: tables and what is joined to them, in the order in which they are written. */
export function parseFrom(reader: SqlReader, word: Span): SqlFrom[] {
  const items = [parseItem(reader, 'first', word)];
  for (;;) {
    const start = reader.token;
    const join = parseJoinWords(reader);
    if (join === undefined) return items;
    items.push(parseItem(reader, join, start));
  }
}

function parseJoinWords(reader: SqlReader): Join | undefined {
  for (const word of ['RIGHT', 'FULL', 'NATURAL']) {
    if (!reader.isWord(word)) continue;
    const instead =
      word === 'NATURAL' ? 'Say what is equal: JOIN … USING (column).' : 'LEFT JOIN is: begin with the table whose rows all stay.';
    reader.reject(faults.notTaken(reader.token, `${word} JOIN`, instead));
  }
  if (reader.takeSign(',')) return 'cross';
  if (reader.takeWords('CROSS', 'JOIN')) return 'cross';
  if (reader.takeWords('LEFT', 'OUTER', 'JOIN') || reader.takeWords('LEFT', 'JOIN')) return 'left';
  return reader.takeWords('INNER', 'JOIN') || reader.takeWords('JOIN') ? 'inner' : undefined;
}

function parseItem(reader: SqlReader, join: Join, start: Span): SqlFrom {
  reader.takeWord('LATERAL');
  if (reader.atCall('UNNEST')) return parseUnnest(reader, join, start);
  if (reader.atCall('JSON_TABLE')) return parseJsonTable(reader, join, start);
  const source = parseSource(reader);
  const alias = parseAlias(reader, source.kind === 'name' ? source.name : undefined);
  const { on, using } = parseOn(reader, join);
  return { kind: 'table', source, ...alias, join, on, using, ...reader.placeFrom(start) };
}

function parseSource(reader: SqlReader): SqlSource {
  const start = reader.token;
  if (reader.takeSign('(')) {
    if (!reader.isWord('SELECT') && !reader.isWord('WITH')) reader.fail('a subquery, beginning with SELECT');
    const query = reader.nested(() => reader.query());
    reader.expectSign(')');
    return { kind: 'query', query, ...reader.placeFrom(start) };
  }
  reader.want('source');
  const name = reader.name('the name of a table');
  return { kind: 'name', name: name.text, ...reader.place(name) };
}

/** The name of what stands in FROM; what is no table by name needs one. */
function parseAlias(reader: SqlReader, own: string | undefined): { alias: string; aliasId: SqlFrom['id'] } {
  const said = reader.takeWord('AS') !== undefined;
  if (said || reader.isName || own === undefined) {
    const name = reader.name('a name, after AS');
    return { alias: name.text, aliasId: reader.place(name).id };
  }
  return { alias: own, aliasId: reader.place(reader.previous).id };
}

function parseOn(reader: SqlReader, join: Join): { on: SqlExpression | undefined; using: readonly string[] } {
  if (join === 'first' || join === 'cross') return { on: undefined, using: [] };
  if (reader.takeWord('ON')) return { on: reader.expression(), using: [] };
  if (!reader.takeWord('USING')) return reader.fail('ON and what is equal, or USING');
  reader.expectSign('(');
  const using = commaSeparated(reader, () => reader.name('a column').text);
  reader.expectSign(')');
  return { on: undefined, using };
}

/** What must follow a LEFT JOIN of elements, since it keeps rows without any: ON TRUE. */
function parseElementsOn(reader: SqlReader, join: Join): { keepEmpty: boolean; on: SqlExpression | undefined } {
  if (join === 'first') reader.reject(faults.onlyTables(reader.previous));
  if (join === 'cross') return { keepEmpty: false, on: undefined };
  const { on } = reader.isWord('ON') ? parseOn(reader, join) : reader.fail('ON TRUE');
  const isTrue = on?.kind === 'literal' && on.value === true;
  if (join === 'left' && !isTrue)
    reader.reject(faults.notTaken(on === undefined ? reader.token : reader.at(on), 'A condition on a LEFT JOIN of elements', 'Write ON TRUE, and the condition in WHERE or in a CASE.', 'TRUE')); // prettier-ignore
  return { keepEmpty: join === 'left', on: isTrue ? undefined : on };
}

function parseUnnest(reader: SqlReader, join: Join, start: Span): SqlFrom {
  reader.take();
  reader.expectSign('(');
  const array = reader.expression();
  reader.expectSign(')');
  const ordinality = reader.takeWords('WITH', 'ORDINALITY');
  reader.takeWord('AS');
  let alias = reader.name('a name for each element, after AS').text;
  let ordinal: string | undefined;
  if (reader.takeSign('(')) {
    alias = reader.name('a name for each element').text;
    if (reader.takeSign(',')) ordinal = reader.name('a name for its place').text;
    reader.expectSign(')');
  }
  if (ordinality && ordinal === undefined) reader.reject(faults.expected(reader.previous, 'names for the element and its place: AS a(e, n)', `“${reader.previous.text}”`)); // prettier-ignore
  if (!ordinality && ordinal !== undefined) reader.reject(faults.expected(reader.previous, 'WITH ORDINALITY before AS, since a place is named', '“)”')); // prettier-ignore
  return { kind: 'unnest', array, alias, ordinal, ...parseElementsOn(reader, join), ...reader.placeFrom(start) };
}

function parseJsonTable(reader: SqlReader, join: Join, start: Span): SqlFrom {
  reader.take();
  reader.expectSign('(');
  const argument = reader.expression();
  reader.expectSign(',', '“,” and a path');
  const rows = parseRows(reader);
  reader.expectSign(')');
  reader.takeWord('AS');
  const alias = reader.name('a name, after AS').text;
  return { kind: 'jsonTable', argument, rows, alias, ...parseElementsOn(reader, join), ...reader.placeFrom(start) };
}

function parseRows(reader: SqlReader): SqlRows {
  const start = reader.token;
  const path = parseJsonPath(reader);
  reader.expectWord('COLUMNS');
  reader.expectSign('(');
  const columns: SqlTableColumn[] = [];
  let nested: SqlRows | undefined;
  commaSeparated(reader, () => {
    if (!reader.isWord('NESTED')) return void columns.push(parseTableColumn(reader));
    if (nested !== undefined) reader.reject(faults.notTaken(reader.token, 'A second NESTED PATH beside the first', 'Nest it inside the first, or ask two questions.')); // prettier-ignore
    reader.take();
    reader.takeWord('PATH');
    nested = reader.nested(() => parseRows(reader));
  });
  reader.expectSign(')', '“,” or “)”');
  return { path, columns, nested, ...reader.placeFrom(start) };
}

function parseTableColumn(reader: SqlReader): SqlTableColumn {
  const start = reader.token;
  const name = reader.name('a column’s name').text;
  if (reader.takeWords('FOR', 'ORDINALITY')) return { kind: 'ordinal', name, ...reader.placeFrom(start) };
  const type = parseType(reader);
  const path = reader.takeWord('PATH')
    ? parseJsonPath(reader)
    : [{ descendant: false, selectors: [{ kind: 'name', name, ...reader.place(start) }] as const, ...reader.place(start) }];
  return { kind: 'value', name, type, path, ...reader.placeFrom(start) };
}
