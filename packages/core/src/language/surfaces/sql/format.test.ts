import { translateSql } from '../../index.ts';
import { formatSql } from './format.ts';

/** What a text means: the pipeline that it becomes, or what is wrong with it, wherever that stands. */
const meaning = (sql: string) => {
  const { pipeline, diagnostics } = translateSql(sql);
  return pipeline ?? diagnostics.map(({ code, message }) => `${code} ${message}`);
};

/** Words that begin or belong to a clause where the grammar wants them, and are names anywhere else. */
const words =
  'rows row only first next last nulls partition filter within ordinality columns path nested unknown key value absent returning for tables describe show explain recursive date timestamp count sum max coalesce substring year month array exclude over_'.split(' '); // prettier-ignore

describe.each(words)('a field or a table called %s stays what it is called', (word) => {
  test.each([
    `select ${word} from t where ${word} > 3 and t.${word} is null order by ${word} desc, a nulls last`,
    `select ${word} + 1 as x, t.${word}.${word} as y from t where a = 1 or ${word} like 'a%'`,
    `select a as ${word} from ${word} where ${word}.a between ${word} and 9`,
    `select ${word}, count(*) as n from t group by ${word} having max(${word}) > 2`,
    `with ${word} as (select a from t) select ${word}.a from ${word} join u as x on x.id = ${word}.a`,
    `select case when ${word} > 3 then ${word} else b end as v from t where not ${word} = 1`,
    `select e.a from t cross join unnest(t.list) as e where e.${word} in (select ${word} from u where ${word} is not null)`,
    `select ${word}.* from t as ${word} where :${word} = a offset 2 rows fetch next 3 rows only`,
  ])('%s', (sql) => {
    const laid = formatSql(sql);
    expect(meaning(laid)).toEqual(meaning(sql));
    expect(formatSql(laid)).toBe(laid);
  });
});

test.each([
  ['select a from t', 'SELECT a\nFROM t'],
  ['Select A From T Where aNd_ = 1', 'SELECT A\nFROM T\nWHERE aNd_ = 1'],
  ['select - -1 as x from t', 'SELECT - -1 AS x\nFROM t'],
  ['select a - -b from t', 'SELECT a - -b\nFROM t'],
  ['select a from t where a!=1', 'SELECT a\nFROM t\nWHERE a <> 1'],
  ['select a from t where a in(1,2)', 'SELECT a\nFROM t\nWHERE a IN (1, 2)'],
  ['select a from t where "select" = \'from  x\'', 'SELECT a\nFROM t\nWHERE "select" = \'from  x\''],
  ['select a -- why\nfrom t /* as it is */ limit 3', 'SELECT a -- why\nFROM t /* as it is */\nLIMIT 3'],
  ['select row_number() over(partition by a order by b) as n from t', 'SELECT ROW_NUMBER() OVER (PARTITION BY a ORDER BY b) AS n\nFROM t'],
  ["select count(*) filter(where a='x') as n from t", "SELECT COUNT(*) FILTER (WHERE a = 'x') AS n\nFROM t"],
  ['select t.nights[0].fee from t where :least<=a', 'SELECT t.nights[0].fee\nFROM t\nWHERE :least <= a'],
  ['select a from t order by a offset 2 rows fetch next 3 rows only', 'SELECT a\nFROM t\nORDER BY a\nOFFSET 2 ROWS\nFETCH NEXT 3 ROWS ONLY'],
  ['select a from t where a is distinct from b', 'SELECT a\nFROM t\nWHERE a IS DISTINCT FROM b'],
  ['show tables', 'SHOW TABLES'],
])('%s is laid out', (sql, laid) => {
  expect(formatSql(sql)).toBe(laid);
  expect(meaning(laid)).toEqual(meaning(sql));
}); // prettier-ignore

test.each([
  ['select a from t where value > and last = 3', 'SELECT a\nFROM t\nWHERE value > AND last = 3'],
  ['select value from', 'SELECT value\nFROM'],
  ['selec a from t', 'selec a\nFROM t'],
  ["select 'open", "select 'open"],
  ['', ''],
])('%j, which cannot be read, keeps its names', (sql, laid) => expect(formatSql(sql)).toBe(laid));
