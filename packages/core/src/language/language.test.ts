import fc from 'fast-check';
import type { FlatField } from '../shape/fieldTree.ts';
import { checkPipeline, fieldTree, functionSignatures, usualSurface, type Environment } from './index.ts';

const field = (path: string, types: object, top: unknown[] = []): FlatField => ({
  steps: path.split('.').map((name) => (name === '*' ? { element: true } : { field: name })),
  info: { types, presence: 1, top: top.map((value) => ({ value: value as string, count: 3 })) },
});
const shape = fieldTree([
  field('id', { text: 9 }),
  field('status', { text: 9 }, ['late', 'lost']),
  field('size', { number: 8, text: 1 }),
  field('paid', { boolean: 9 }),
  field('party', { object: 9 }),
  field('party.lead', { text: 9 }),
  field('nights', { array: 9 }),
  field('nights.*', { object: 9 }),
  field('nights.*.fee', { number: 9 }),
]);
const environment: Environment = { collections: ['bookings', 'huts'], shapeOf: (name) => (name === 'bookings' ? shape : undefined) };

function mended(text: string): { codes: string[]; text: string } {
  const { diagnostics } = checkPipeline(usualSurface.parse(text), environment);
  const edits = diagnostics.flatMap(({ mend }) => mend?.edits ?? []).sort((a, b) => b.from - a.from);
  return {
    codes: diagnostics.map(({ code }) => code),
    text: edits.reduce((t, { from, to, insert }) => t.slice(0, from) + insert + t.slice(to), text),
  };
}

describe('diagnostics, with their mends', () => {
  test.each<[string, string[], string?]>([
    ['from bookings', []],
    ['', ['no-from']],
    ['where @.id', ['no-from']],
    ['from bokings', ['unknown-collection'], 'from bookings'],
    ['from bookings\nwere @.id == "a"', ['unknown-stage'], 'from bookings\nwhere @.id == "a"'],
    ['from bookings\norder @.id', ['unknown-stage'], 'from bookings\norder by @.id'],
    ['  from bookings', ['indented-start'], 'from bookings'],
    ['from bookings\nwhere @.id > "a"\n&& @.id < "c"', ['unindented'], 'from bookings\nwhere @.id > "a"\n  && @.id < "c"'],
    ['from bookings\ngroup by @.id\nmeasure n = count()', ['unindented'], 'from bookings\ngroup by @.id\n  measure n = count()'],
    ['from bookings\n  limit 5', ['indented-stage'], 'from bookings\nlimit 5'],
    [
      'from bookings\ngroup by @.id\n  measure n = count()\n  order by @.n',
      ['indented-stage'],
      'from bookings\ngroup by @.id\n  measure n = count()\norder by @.n',
    ],
    ['from bookings\ngroup by @.id\n  measure n = count()\n    where @.size == 1', []],
    ['from bookings\nwhere @.id == "a"\n  order', ['indented-stage']],
    ['from bookings\nwhere @.id == "a"\n  nonsense', ['expected']],
    ['off from bookings', ['from-off']],
    ['from bookings\nfrom huts', ['from-not-first']],
    ['from bookings\nwhere @.id = "a"', ['single-equals'], 'from bookings\nwhere @.id == "a"'],
    [
      'from bookings\nwhere @.id == "a" and @.status == "late"',
      ['word-for-sign'],
      'from bookings\nwhere @.id == "a" && @.status == "late"',
    ],
    ['from bookings\nwhere not (@.id == "a")', ['word-for-sign'], 'from bookings\nwhere ! (@.id == "a")'],
    ['from bookings\nwhere !@.id == "a"', ['not-before-comparison'], 'from bookings\nwhere !(@.id == "a")'],
    ['from bookings\nwhere @.size < 3 < 4', ['chained-comparison']],
    ['from bookings\nwhere status == "late"', ['bare-name'], 'from bookings\nwhere @.status == "late"'],
    ['from bookings\nwhere @.first-name == "a"', ['dashed-name'], 'from bookings\nwhere @[\'first-name\'] == "a"'],
    ['from bookings\nwhere @.id == "a', ['open-string'], 'from bookings\nwhere @.id == "a"'],
    ['from bookings\nwhere @.size == 007', ['leading-zero'], 'from bookings\nwhere @.size == 7'],
    ['from bookings\nwhere @.size == 9007199254740993', ['inexact-number']],
    ['from bookings\nwhere @.paid', ['existence-of-boolean'], 'from bookings\nwhere @.paid == true'],
    ['from bookings\nwhere @.sttaus == "late"', ['unknown-field'], 'from bookings\nwhere @.status == "late"'],
    ['from bookings\nwhere @.status == 4', ['type-never-found']],
    ['from bookings\nwhere @.size == "4" || @.size == 4', []],
    ['from bookings\nwhere @.nights[*].fee == 40', ['several-compared'], 'from bookings\nwhere @.nights[?@.fee == 40]'],
    ['from bookings\nwhere @.nights[?@.fe == 40]', ['unknown-field'], 'from bookings\nwhere @.nights[?@.fee == 40]'],
    ['from bookings\nwhere contains(@.id, "a") == true', ['condition-compared'], 'from bookings\nwhere contains(@.id, "a")'],
    ['from bookings\nwhere lower(@.id)', ['condition-wanted']],
    // The whole of a where may be given; a part of an alternative may not.
    ['from bookings\nwhere :late', []],
    ['from bookings\nwhere @.id || :late', ['condition-wanted'], 'from bookings\nwhere @.id || :late == true'],
    [
      'from bookings\ngroup by @.id measure n = count(@.id)',
      ['argument-count'],
      'from bookings\ngroup by @.id measure n = count() where @.id',
    ],
    ['from bookings\nwhere lowr(@.id) == "a"', ['unknown-function'], 'from bookings\nwhere lower(@.id) == "a"'],
    ['from bookings\nwhere contains(@.id)', ['argument-count']],
    ['from bookings\nwhere exists("a")', ['nodes-wanted']],
    ['from bookings\nwhere match(@.id, "(")', ['bad-pattern']],
    ['from bookings\nselect @.nights[0].fee', ['needs-name'], 'from bookings\nselect @.nights[0].fee as fee'],
    ['from bookings\nselect @.party, @.party.lead', ['same-name']],
    ['from bookings\nselect @.id\nwhere @.status == "late"', ['dropped-field']],
    ['from bookings\norder by @.nights[*].fee', ['several-as-key']],
    ['from bookings\nlimit 5\noffset 10', ['limit-before-offset'], 'from bookings\noffset 10\nlimit 5'],
    ['from bookings\norder by @.id\norder by @.size', ['order-lost']],
    ['from bookings\nlimit @.size', ['not-constant']],
    ['from bookings\nlimit 1.5', ['not-a-whole-number']],
    ['from bookings\nlimit (:page - 1) * 15', []],
  ])('%j', (text, codes, ...rest) => {
    const [after] = rest as unknown as [string?];
    const result = mended(text);
    expect(result.codes).toEqual(codes);
    if (after !== undefined) {
      expect(result.text).toBe(after);
      expect(checkPipeline(usualSurface.parse(after), environment).diagnostics.filter(({ code }) => codes.includes(code))).toEqual([]);
    }
  });

  const withHuts: Environment = {
    ...environment,
    shapeOf: (name) => (name === 'huts' ? fieldTree([field('id', { text: 2 }), field('name', { text: 2 })]) : shape),
  };
  const joined = 'from bookings\njoin huts as hut on hut.id == @.id\n';
  test.each([
    ['from bookings\nwhere @.id == "a"\nlimit 5\nwhere @.nme == "a"', 'No document of bookings has @.nme.'],
    ['from bookings\njoin huts as hut on hut.nme == @.id', 'No document of huts has hut.nme. Did you mean name?'],
    ['from bookings\njoin huts as hut on hut.id == @.idd', 'No document of bookings has @.idd. Did you mean id?'],
    [`${joined}where @.hut.nme == "a"`, 'No row here has @.hut.nme. Did you mean name?'],
    ['from bookings\nwhere @.id == "a"\ngroup by @.id measure n = count()\nwhere @.m > 1', 'No row here has @.m. Did you mean n?'],
  ])('what has no such field is called by its name: %j', (text, message) => {
    const found = checkPipeline(usualSurface.parse(text), withHuts).diagnostics.filter(({ code }) => code === 'unknown-field');
    expect(found.map((one) => one.message)).toEqual([message]);
  });

  test('an off stage is still checked, and changes nothing', () => {
    const text = 'from bookings\noff select @.idd\nwhere @.status == "late"';
    expect(mended(text).codes).toEqual(['unknown-field']);
  });
});

describe('completion', () => {
  const labels = (text: string, at = text.length) => usualSurface.complete(text, at, environment)?.options.map(({ label }) => label) ?? [];
  test.each<[string, string[], string[]]>([
    ['', ['from', 'where'], []],
    ['from ', ['bookings', 'huts'], []],
    ['from bookings\nwh', ['where'], ['from']],
    ['from bookings\noff wh', ['where'], []],
    ['from bookings\nwhere @', ['@.status', '@.party.lead'], []],
    ['from bookings\nwhere @.', ['status', 'party.lead'], []],
    ['from bookings\nwhere @.party.', ['lead'], ['status']],
    ['from bookings\nwhere @.nights[?@.', ['fee'], ['status']],
    ['from bookings\nwhere @.status == ', ['"late"'], []],
    ['from bookings\nselect @.id\nwhere @.', ['id'], ['status']],
    ['from bookings\nwhere cont', ['contains'], []],
    ['# from ', [], ['bookings']],
  ])('%j', (text, wanted, unwanted) => {
    const offered = labels(text);
    for (const label of wanted) expect(offered).toContain(label);
    for (const label of unwanted) expect(offered).not.toContain(label);
  });
});

describe('layout', () => {
  test.each<[string, string]>([
    [
      'from   bookings\n\n\n\nwhere @.a==1&&!(@.b||@.c)  # why\n  # inside\n\n',
      'from bookings\n\nwhere @.a == 1 && !(@.b || @.c)  # why\n# inside',
    ],
    ['# head\nfrom c\noff   limit 1+2', '# head\nfrom c\noff limit 1 + 2'],
    ["from c\nwhere @['a'][ 'b c' ] == 'x'\n  && @.n in [1,2 ]", 'from c\nwhere @.a[\'b c\'] == "x" && @.n in [1, 2]'],
    ['from c\norder by @.a asc nulls last , @.b desc nulls first', 'from c\norder by @.a, @.b desc nulls first'],
    ['from c\nselect {a:1,"b c":[@.x]} as v.w, @.y', 'from c\nselect {a: 1, "b c": [@.x]} as v.w, @.y'],
    ['from c\nwhere (@.a+1)*2 > -(@.b - (1 - 2))', 'from c\nwhere (@.a + 1) * 2 > -(@.b - (1 - 2))'],
  ])('%j', (text, canonical) => {
    expect(usualSurface.format(usualSurface.parse(text))).toBe(canonical);
    expect(usualSurface.format(usualSurface.parse(canonical))).toBe(canonical);
  });

  const name = fc.constantFrom('a', 'b', 'first-name', 'x y', '', '__proto__', 'é', "it's", '"', 'in', '\\', '\n');
  const literal = fc.oneof(
    fc.integer().map(String),
    fc.double({ noNaN: true, noDefaultInfinity: true, min: 0, max: 1e9 }).map(String),
    fc
      .string({ unit: 'binary' })
      .filter((s) => !/\p{Cs}/u.test(s))
      .map((s) => JSON.stringify(s)),
    fc.constantFrom('null', 'true', ':p'),
  );
  const { expression } = fc.letrec<{ path: string; value: string; condition: string; expression: string }>((tie) => ({
    path: fc
      .array(
        fc.oneof(
          name.map((n) => `['${JSON.stringify(n).slice(1, -1).replace(/\\"/g, '"').replace(/'/g, "\\'")}']`),
          fc.constantFrom('[0]', '[-1]'),
        ),
        { minLength: 1, maxLength: 3 },
      )
      .map((parts) => '@' + parts.join('')),
    value: fc.oneof(
      { depthSize: 'small', withCrossShrink: true },
      literal,
      tie('path'),
      fc.tuple(tie('value'), fc.constantFrom('+', '-', '*', '/', '%'), tie('value')).map((p) => `(${p.join(' ')})`),
      tie('value').map((v) => `-(${v})`),
      tie('value').map((v) => `lower(${v})`),
      fc.array(tie('value'), { maxLength: 2 }).map((v) => `[${v.join()}]`),
      tie('condition').map((c) => `if(${c}, 1, 2)`),
    ) as fc.Arbitrary<string>,
    condition: fc.oneof(
      { depthSize: 'small', withCrossShrink: true },
      tie('path'),
      fc.tuple(tie('value'), fc.constantFrom('==', '!=', '<', '<=', 'in'), tie('value')).map((p) => `(${p.join(' ')})`),
      fc.tuple(tie('condition'), fc.constantFrom('&&', '||'), tie('condition')).map((p) => `(${p.join(' ')})`),
      tie('condition').map((c) => `!(${c})`),
      fc.tuple(tie('path'), tie('condition')).map(([p, c]) => `${p}[?${c}]`),
    ) as fc.Arbitrary<string>,
    expression: tie('condition') as fc.Arbitrary<string>,
  }));

  test('print ∘ parse is the identity on canonical text', () => {
    fc.assert(
      fc.property(expression, (condition) => {
        const pipeline = usualSurface.parse(`from c\nwhere ${condition}\nselect ${condition} as x`);
        expect(pipeline.findings).toEqual([]);
        const once = usualSurface.format(pipeline);
        const again = usualSurface.parse(once);
        expect(again.findings).toEqual([]);
        expect(usualSurface.format(again)).toBe(once);
      }),
      { numRuns: 1_500 },
    );
  });
});

describe('whatever is typed', () => {
  const pieces = fc.constantFrom(
    ...Object.keys(functionSignatures),
    'from c',
    '\nwhere ',
    '\n',
    '\n  ',
    '@',
    '$',
    '.',
    '..',
    '[',
    ']',
    '[?',
    '(',
    ')',
    '{',
    '}',
    '"',
    "'",
    ',',
    ':',
    '*',
    '&&',
    '||',
    '!',
    '==',
    '=',
    '<',
    '-',
    '1',
    '1e999',
    '00',
    '\\u',
    'off ',
    '#',
    'order by ',
    'select ',
    'limit ',
    ' as ',
    ' in ',
    'null',
    '\u{1f600}',
    '\ud800',
    '\u0000',
  );

  test('nothing but a diagnostic comes of it', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.array(pieces, { maxLength: 40 }).map((parts) => parts.join('')),
          fc.string({ unit: 'binary', maxLength: 60 }),
        ),
        fc.nat(80),
        (text, at) => {
          const checked = checkPipeline(usualSurface.parse(text), environment);
          for (const { from, to, line } of checked.diagnostics) {
            expect(from).toBeLessThanOrEqual(to);
            expect(to).toBeLessThanOrEqual(text.length);
            expect(line).toBeGreaterThanOrEqual(1);
          }
          usualSurface.format(checked.pipeline);
          usualSurface.complete(text, Math.min(at, text.length), environment);
        },
      ),
      { numRuns: 3_000 },
    );
  });

  test.each(['(', '[', '!(', '-', '@[?', 'lower(', '{a:', '@.a + ', '@.a || '])('10,000 times %j', (part) => {
    const { diagnostics } = checkPipeline(usualSurface.parse('from c\nwhere ' + part.repeat(10_000)), environment);
    expect(diagnostics.length).toBeGreaterThan(0);
  });
});
