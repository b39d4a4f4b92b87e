import fc from 'fast-check';
import { parseValueText } from '../language/surfaces/notation/texts.ts';
import { compareValues } from '../values/order.ts';
import type { Json, JsonObject, Value } from '../values/json.ts';
import { compileValue } from './compile.ts';
import { makeContext } from './context.ts';
import { fold } from '../words/fold.ts';

const context = makeContext({}, '2026-02-03T04:05:06.789Z');
const read = new Map<string, (row: Json) => Value>();

/** What an expression comes to on a row. */
function of(text: string, row: JsonObject): Value {
  let evaluate = read.get(text);
  if (evaluate === undefined) {
    const parsed = parseValueText(text);
    if (!('expression' in parsed)) throw new Error(`${text} cannot be read`);
    const compiled = compileValue(parsed.expression);
    read.set(text, (evaluate = (one) => compiled(one, context)));
  }
  return evaluate(row);
}

const text = fc.oneof(
  fc.string({ maxLength: 12, unit: 'grapheme' }),
  fc.constantFrom('', 'Ünü', '😀a😀', 'A-b-a', 'ß', 'Straße', '\u0301'),
);
const number = fc.oneof(fc.integer({ min: -1_000, max: 1_000 }), fc.double({ min: -1e6, max: 1e6, noNaN: true }));
const scalar = fc.oneof(text, fc.integer({ min: -5, max: 5 }), fc.constantFrom<Json>(null, true, false, [1], { a: 1 }));
const list = fc.array(scalar, { maxLength: 8 });
const numbers = fc.array(fc.integer({ min: -50, max: 50 }), { minLength: 1, maxLength: 9 });
const holds = <T>(arbitrary: fc.Arbitrary<T>, law: (value: T) => void, numRuns = 200) =>
  fc.assert(fc.property(arbitrary, law), { numRuns });
const points = (value: string) => Array.from(value);

describe('text, in code points', () => {
  test('length and substring take a text apart and put it together', () => {
    holds(fc.tuple(text, fc.nat(14), fc.nat(14)), ([a, from, count]) => {
      expect(of('length(@.a)', { a })).toBe(points(a).length);
      expect(of('substring(@.a, @.from, @.count)', { a, from, count })).toBe(
        points(a)
          .slice(from, from + count)
          .join(''),
      );
      expect(of('concat(substring(@.a, 0, @.from), substring(@.a, @.from))', { a, from })).toBe(a);
      expect(of('substring(@.a, -1)', { a })).toBeUndefined();
    });
  });
  test('what is split is glued together again', () => {
    holds(fc.tuple(text, fc.constantFrom('-', 'a', '😀', 'ab')), ([a, by]) => {
      expect(of('glue(split(@.a, @.by), @.by)', { a, by })).toBe(a);
      expect(of('length(split(@.a, @.by))', { a, by })).toBe(a.split(by).length);
      expect(of('replace(@.a, @.by, "")', { a, by })).toBe(a.split(by).join(''));
    });
  });
  test('a part is found where it stands', () => {
    holds(fc.tuple(text, text, text), ([a, b, c]) => {
      const row = { whole: a + b + c, a, b, c };
      expect(of('starts_with(@.whole, @.a)', row)).toBe(true);
      expect(of('ends_with(@.whole, @.c)', row)).toBe(true);
      expect(of('contains(@.whole, @.b)', row)).toBe(true);
      expect(of('starts_with(@.a, @.whole)', row)).toBe(a === row.whole);
      expect(of('contains(@.a, @.b)', row)).toBe(a.includes(b));
    });
  });
  test('folding once is folding for good, and takes case and marks away', () => {
    holds(text, (a) => {
      const folded = of('fold(@.a)', { a });
      expect(of('fold(fold(@.a))', { a })).toBe(folded);
      expect(of('fold(lower(@.a))', { a })).toBe(folded);
      expect(/\p{M}/u.test(String(folded))).toBe(false);
      expect(of('trim(trim(@.a)) == trim(@.a)', { a })).toBe(true);
    });
  });
});

test('every character of Unicode folds once for good, whatever stands beside it and in whatever case it is', () => {
  const faults: string[] = [];
  for (let point = 0; point <= 0x10ffff; point++) {
    if (point === 0xd800) point = 0xe000;
    const character = String.fromCodePoint(point);
    for (const a of [character, `A${character}`, `A${character}B`]) {
      const folded = fold(a);
      if (fold(folded) !== folded || fold(a.toLowerCase()) !== folded || /\p{M}/u.test(folded)) faults.push(point.toString(16));
    }
  }
  expect(faults).toEqual([]);
});

describe('arrays', () => {
  test('sorted as an order by would, with nothing lost', () => {
    holds(list, (a) => {
      const sorted = of('sorted_of(@.a)', { a }) as Json[];
      expect(sorted).toHaveLength(a.length);
      const present = sorted.filter((item) => item !== null);
      for (let i = 1; i < present.length; i++) expect(compareValues(present[i - 1], present[i])).toBeLessThanOrEqual(0);
      expect(sorted.slice(present.length).every((item) => item === null)).toBe(true);
    });
  });
  test('different values in the order in which they come first', () => {
    holds(list, (a) => {
      const different = of('distinct_of(@.a)', { a }) as Json[];
      const texts = a.map((item) => JSON.stringify(item));
      expect(different.map((item) => JSON.stringify(item))).toEqual([...new Set(texts)]);
      for (const item of a) expect(of('includes(@.d, @.item)', { d: different, item })).toBe(true);
      expect(of('includes_all(@.a, @.d)', { a, d: different })).toBe(true);
    });
  });
  test('sum, mean, least, greatest and median go by numbers alone', () => {
    holds(fc.tuple(numbers, fc.array(fc.constantFrom<Json>('x', null, true), { maxLength: 3 })), ([some, others]) => {
      const a = [...others, ...some];
      const sorted = [...some].sort((x, y) => x - y);
      const sum = some.reduce((x, y) => x + y, 0);
      const [low, high] = [sorted[(sorted.length - 1) >> 1], sorted[sorted.length >> 1]];
      expect(of('sum_of(@.a)', { a })).toBe(sum);
      expect(of('avg_of(@.a)', { a })).toBeCloseTo(sum / some.length, 9);
      expect(of('median_of(@.a)', { a })).toBe((low + high) / 2);
      expect(of('min_of(@.some)', { some })).toBe(sorted[0]);
      expect(of('max_of(@.some)', { some })).toBe(sorted[sorted.length - 1]);
    });
    for (const name of ['sum_of', 'avg_of', 'median_of', 'min_of', 'max_of', 'first_of', 'last_of']) {
      expect(of(`${name}(@.a)`, { a: [] })).toBeUndefined();
      expect(of(`${name}(@.a)`, { a: 'text' })).toBeUndefined();
    }
  });
  test('any and every are each other’s opposite; each leaves nothings out', () => {
    holds(list, (a) => {
      expect(of('any(@.a, @ == 1)', { a })).toBe(a.includes(1));
      expect(of('every(@.a, @ != 1)', { a })).toBe(!a.includes(1));
      expect(of('each(@.a, @ + 1)', { a })).toEqual(a.filter((item) => typeof item === 'number').map((item) => (item as number) + 1));
      expect(of('first_of(@.a)', { a })).toEqual(a[0]);
      expect(of('last_of(@.a)', { a })).toEqual(a[a.length - 1]);
    });
  });
});

describe('numbers', () => {
  test('rounding takes halves away from zero, at the digits that are asked for', () => {
    holds(fc.tuple(fc.integer({ min: -100_000, max: 100_000 }), fc.constantFrom(0, 1, 2, 3)), ([whole, digits]) => {
      const x = whole / 1_000;
      const rounded = of('round(@.x, @.digits)', { x, digits }) as number;
      const unit = 1 / 10 ** digits;
      expect(Math.abs(rounded - x)).toBeLessThanOrEqual(unit / 2 + 1e-9);
      expect(of('round(-@.x, @.digits) == -round(@.x, @.digits)', { x, digits })).toBe(true);
      const half = (Math.abs(whole) * 10 + 5) / 10;
      expect(of('round(@.half)', { half })).toBe(Math.floor(half) + 1);
    });
  });
  test('floor and ceil bracket; the remainder has the dividend’s sign; what has no value is nothing', () => {
    holds(fc.tuple(number, number), ([x, y]) => {
      expect(of('floor(@.x) <= @.x && @.x <= ceil(@.x)', { x })).toBe(true);
      const rest = of('@.x % @.y', { x, y });
      if (y === 0) expect(rest).toBeUndefined();
      else expect(Math.sign(rest as number) * Math.sign(x)).toBeGreaterThanOrEqual(0);
      expect(of('abs(@.x)', { x })).toBe(Math.abs(x));
    });
    for (const nothing of ['sqrt(-1)', 'ln(0)', 'ln(-1)', '1 / 0', '0 % 0', 'pow(0, -1)', 'exp(1000)', 'pow(-1, 0.5)'])
      expect([nothing, of(nothing, {})]).toEqual([nothing, undefined]);
  });
});

describe('dates', () => {
  const instant = fc.integer({ min: Date.UTC(1990, 0, 1), max: Date.UTC(2060, 0, 1) });
  const day = instant.map((ms) => new Date(ms).toISOString().slice(0, 10));
  const offset = fc.constantFrom('Z', '+02:00', '-11:30', '+05:45');
  /** The same moment as it is written in an offset. */
  const written = fc.tuple(instant, offset).map(([ms, zone]) => {
    const minutes = zone === 'Z' ? 0 : (zone.startsWith('-') ? -1 : 1) * (Number(zone.slice(1, 3)) * 60 + Number(zone.slice(4)));
    return {
      ms: Math.floor(ms / 1_000) * 1_000,
      d: new Date(Math.floor(ms / 1_000) * 1_000 + minutes * 60_000).toISOString().slice(0, 19) + zone,
    };
  });
  const unit = fc.constantFrom('year', 'month', 'week', 'day', 'hour', 'minute', 'second');

  test('an instant is the same in every offset', () => {
    holds(written, ({ ms, d }) => expect(of('instant(@.d)', { d })).toBe(ms));
  });
  test('adding is undone by taking away, but where a month is shorter', () => {
    holds(fc.tuple(written, fc.integer({ min: -40, max: 40 }), unit), ([{ d }, n, u]) => {
      const there = of('date_add(@.d, @.n, @.u)', { d, n, u });
      expect(typeof there).toBe('string');
      const back = of('date_add(@.there, -@.n, @.u)', { there: there as string, n, u });
      if (u === 'month' || u === 'year') {
        const [a, b] = [of('instant(@.d)', { d }), of('instant(@.back)', { back: back as string })] as [number, number];
        expect(Math.abs(a - b)).toBeLessThanOrEqual(3 * 86_400_000);
      } else expect(back).toBe(d);
      // The offset of the text stays.
      expect(String(there).slice(19)).toBe(d.slice(19));
    });
  });
  test('the difference is whole units towards zero, and fits between', () => {
    holds(fc.tuple(day, day, fc.constantFrom('year', 'month', 'week', 'day')), ([a, b, u]) => {
      const n = of('date_diff(@.u, @.a, @.b)', { a, b, u }) as number;
      expect(Number.isInteger(n)).toBe(true);
      expect(of('date_diff(@.u, @.a, @.b) == -date_diff(@.u, @.b, @.a)', { a, b, u }) === true || u === 'month' || u === 'year').toBe(true);
      const [from, to] = a <= b ? [a, b] : [b, a];
      const count = Math.abs(n);
      expect(String(of('date_add(@.from, @.count, @.u)', { from, count, u })) <= to || a > b).toBe(true);
      if (a <= b) expect(String(of('date_add(@.from, @.count, @.u)', { from, count: count + 1, u })) > to).toBe(true);
    });
  });
  test('a beginning is no later than the date, and is its own beginning', () => {
    holds(fc.tuple(written, unit), ([{ d }, u]) => {
      const start = of('date_trunc(@.u, @.d)', { d, u }) as string;
      expect(of('date_trunc(@.u, @.start)', { start, u })).toBe(start);
      expect(of('instant(@.start) <= instant(@.d)', { start, d })).toBe(true);
      expect(of('date_diff(@.u, @.start, @.d)', { start, d, u })).toBe(0);
    });
  });
  test('parts are those of the text’s own offset', () => {
    holds(written, ({ d }) => {
      const parts = ['year', 'month', 'day', 'hour', 'minute', 'second'].map((u) => of('date_part(@.u, @.d)', { u, d }));
      expect(parts).toEqual(/^(\d+)-(\d+)-(\d+)T(\d+):(\d+):(\d+)/.exec(d)?.slice(1).map(Number));
      const weekday = new Date(`${d.slice(0, 10)}T00:00:00Z`).getUTCDay();
      expect(of('date_part("weekday", @.d)', { d })).toBe(weekday === 0 ? 7 : weekday);
    });
  });
  test.each(['2026-02-30', '2026-13-01', '2026-1-1', 'yesterday', '2026-01-01T25:00:00Z', '2026-01-01T10:00', '', 7, null])(
    '%p is none',
    (d) => {
      for (const asked of [
        'instant(@.d)',
        'date_trunc("day", @.d)',
        'date_add(@.d, 1, "day")',
        'date_part("day", @.d)',
        'date_diff("day", @.d, "2026-01-01")',
      ])
        expect([asked, of(asked, { d })]).toEqual([asked, undefined]);
    },
  );
});

test('conversions give what can be read back, and nothing for what cannot', () => {
  holds(fc.oneof(number, fc.boolean()), (x) => {
    expect(of(typeof x === 'number' ? 'number(text(@.x))' : 'boolean(text(@.x))', { x })).toBe(Object.is(x, -0) ? 0 : x);
  });
  holds(
    fc.jsonValue().map((value) => JSON.parse(JSON.stringify(value)) as Json),
    (x) => {
      const type = of('type_of(@.x)', { x });
      expect(['null', 'boolean', 'number', 'text', 'array', 'object']).toContain(type);
      expect(of('coalesce(@.x, "other")', { x })).toEqual(x ?? 'other');
    },
  );
  expect(['yes', '', '1', 'TRUE'].map((x) => of('boolean(@.x)', { x }))).toEqual([undefined, undefined, undefined, undefined]);
  expect(['', '1e5', '0x10', '1,5', 'Infinity'].map((x) => of('number(@.x)', { x }))).toMatchObject([
    undefined,
    100_000,
    undefined,
    undefined,
    undefined,
  ]);
});
