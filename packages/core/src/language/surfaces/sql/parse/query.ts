import { commaSeparated } from '../../notation/reader.ts';
import { faults } from '../faults.ts';
import type { SqlReader } from '../sqlReader.ts';
import type { Clause, SqlExpression, SqlItem, SqlMember, SqlQuery, SqlSelect, SqlStatement } from '../tree.ts';
import { parseFrom } from './from.ts';
import { parseOrderKeys } from './order.ts';

const statements = ['SELECT', 'WITH', 'EXPLAIN', 'DESCRIBE', 'SHOW'];
const others: Readonly<Record<string, string>> = {
  INSERT: 'Documents are added on the Data view, or by the import.',
  UPDATE: 'Documents are changed by a change: from, where and set, in the notation.',
  DELETE: 'Documents are removed by a change: from, where and delete, in the notation.',
  CREATE: 'Collections are made on the Data view, indexes on the Indexes view; a saved pipeline is a view.',
  DROP: 'Collections are removed on the Data view, indexes on the Indexes view.',
  VALUES: 'A question reads a table: SELECT … FROM ….',
};

/** One statement and nothing after it. */
export function parseStatement(reader: SqlReader): SqlStatement {
  const statement = parseOne(reader);
  if (reader.token.kind !== 'end') refuseRest(reader);
  return statement;
}

function parseOne(reader: SqlReader): SqlStatement {
  const { token } = reader;
  if (reader.takeWord('EXPLAIN')) return { kind: 'explain', query: reader.query() };
  if (reader.takeWord('DESCRIBE')) {
    reader.want('source');
    const name = reader.name('the name of a table');
    return { kind: 'describe', name: name.text, ...reader.place(name) };
  }
  if (reader.takeWord('SHOW')) {
    if (!reader.takeWord('TABLES')) reader.failOf('TABLES', ['TABLES']);
    return { kind: 'showTables' };
  }
  if (reader.isWord('SELECT') || reader.isWord('WITH')) return { kind: 'query', query: reader.query() };
  const word = token.kind === 'name' ? token.text.toUpperCase() : '';
  if (Object.hasOwn(others, word)) reader.reject(faults.notTaken(token, word, others[word]!));
  return reader.failOf('SELECT, WITH, DESCRIBE, SHOW TABLES or EXPLAIN', statements);
}

const clauseWords = ['FROM', 'WHERE', 'GROUP BY', 'HAVING', 'ORDER BY', 'LIMIT', 'OFFSET', 'FETCH', 'JOIN', 'LEFT JOIN', 'CROSS JOIN'];

/** What stands where a question, or a subquery, has come to its end. */
function refuseRest(reader: SqlReader): never {
  const { token } = reader;
  for (const word of ['UNION', 'INTERSECT', 'EXCEPT']) {
    if (reader.isWord(word)) reader.reject(faults.notTaken(token, word, word === 'UNION' ? 'Ask for both with OR, or ask two questions.' : 'Use IN or NOT IN with a subquery.')); // prettier-ignore
  }
  if (reader.isWord('WINDOW')) reader.reject(faults.notTaken(token, 'WINDOW', 'Write what it names inside OVER (…).'));
  return reader.failOf('another clause, or the end', clauseWords);
}

/** A query: members of WITH, and one SELECT (ISO/IEC 9075-2, 7.17). */
export function parseQuery(reader: SqlReader): SqlQuery {
  const start = reader.token;
  const members: SqlMember[] = [];
  if (reader.takeWord('WITH')) {
    if (reader.isWord('RECURSIVE')) reader.reject(faults.notTaken(reader.token, 'RECURSIVE', 'Each member may read those before it.'));
    commaSeparated(reader, () => members.push(parseMember(reader)));
  }
  const body = parseSelect(reader);
  return { members, body, ...reader.placeFrom(start) };
}

function parseMember(reader: SqlReader): SqlMember {
  const start = reader.token;
  const name = reader.name('a name');
  const nameId = reader.place(name).id;
  if (reader.isSign('(')) reader.reject(faults.notTaken(reader.token, 'A list of columns here', 'Name them inside with AS.'));
  reader.expectWord('AS');
  reader.expectSign('(');
  const query = reader.nested(() => reader.query());
  reader.expectSign(')', 'another clause, or “)”');
  return { name: name.text, nameId, query, ...reader.placeFrom(start) };
}

function clause<T>(reader: SqlReader, words: readonly string[], read: () => T): Clause<T> | undefined {
  const start = reader.token;
  return reader.takeWords(...words) ? { value: read(), ...reader.placeFrom(start) } : undefined;
}

function parseSelect(reader: SqlReader): SqlSelect {
  const start = reader.token;
  reader.expectWord('SELECT');
  const distinct = reader.takeWord('DISTINCT') !== undefined;
  if (distinct && reader.isWord('ON')) reader.reject(faults.notTaken(reader.token, 'DISTINCT ON', 'Rank with ROW_NUMBER() OVER (PARTITION BY …) and keep number 1.')); // prettier-ignore
  if (!distinct) reader.takeWord('ALL');
  const items = commaSeparated(reader, () => parseItem(reader));
  const select = { value: items, ...reader.placeFrom(start) };
  if (!reader.isWord('FROM') && (reader.token.kind === 'end' || reader.isSign(')'))) reader.reject(faults.noRows(reader.previous));
  const fromWord = reader.takeWord('FROM') ?? reader.failOf('FROM, or “,” and another column', clauseWords);
  const from = parseFrom(reader, fromWord);
  const where = clause(reader, ['WHERE'], () => reader.expression());
  const groupBy = clause(reader, ['GROUP', 'BY'], () => commaSeparated(reader, () => reader.expression()));
  const having = clause(reader, ['HAVING'], () => reader.expression());
  const orderBy = clause(reader, ['ORDER', 'BY'], () => parseOrderKeys(reader));
  return { distinct, select, from, where, groupBy, having, orderBy, ...parseSlice(reader) };
}

function parseItem(reader: SqlReader): SqlItem {
  const start = reader.token;
  if (reader.takeSign('*')) return { kind: 'all', of: undefined, ...reader.placeFrom(start) };
  if (reader.isName && reader.next.text === '.' && reader.peek(2).kind === 'sign' && reader.peek(2).text === '*') {
    const of = reader.expectName('the name of a table').text;
    reader.take();
    reader.take();
    return { kind: 'all', of, ...reader.placeFrom(start) };
  }
  const expression = reader.expression();
  const said = reader.takeWord('AS') !== undefined;
  const alias = said || reader.isName ? reader.name('a column’s name, after AS').text : undefined;
  return { kind: 'expression', expression, alias, ...reader.placeFrom(start) };
}

type Slice = Pick<SqlSelect, 'limit' | 'offset'>;

/** LIMIT and OFFSET, in either order, or OFFSET … ROWS FETCH FIRST … ROWS ONLY. */
function parseSlice(reader: SqlReader): Slice {
  const number = (): SqlExpression => reader.expression();
  let limit = clause(reader, ['LIMIT'], number);
  const offset = clause(reader, ['OFFSET'], () => {
    const value = number();
    if (!reader.takeWord('ROWS')) reader.takeWord('ROW');
    return value;
  });
  limit ??= clause(reader, ['LIMIT'], number);
  limit ??= clause(reader, ['FETCH'], () => {
    if (!reader.takeWord('FIRST') && !reader.takeWord('NEXT')) reader.fail('FIRST');
    const start = reader.token;
    const value: SqlExpression = reader.isWord('ROW') || reader.isWord('ROWS') ? { kind: 'literal', value: 1, ...reader.place(start) } : number(); // prettier-ignore
    if (!reader.takeWord('ROWS')) reader.expectWord('ROW');
    if (reader.isWord('WITH')) reader.reject(faults.notTaken(reader.token, 'WITH TIES', 'Rank with RANK() and keep what is small enough.'));
    reader.expectWord('ONLY');
    return value;
  });
  return { limit, offset };
}
