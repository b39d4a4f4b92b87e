import fc from 'fast-check';
import type { JsonObject } from '../values/json.ts';
import { DistinctSketch } from './distinct.ts';
import type { FlatField } from './fieldTree.ts';
import { jsonSchemaOf } from './jsonSchema.ts';
import { odditiesOf } from './oddities.ts';
import { Survey, surveyFields } from './survey.ts';

const pathOf = ({ steps }: FlatField) => steps.map((step) => ('field' in step ? step.field : '*')).join('.');
const byPath = (documents: readonly JsonObject[]) => new Map(surveyFields(documents).map((field) => [pathOf(field), field.info]));

const huts: JsonObject[] = Array.from({ length: 100 }, (_, i) => ({
  id: `h${i}`,
  bunks: i % 20 === 5 ? String(i) : i,
  fee: i / 4,
  gone: null,
  reviewed: `2026-01-${String((i % 28) + 1).padStart(2, '0')}`,
  status: i % 3 === 0 ? 'late' : 'arrived',
  list: Array.from({ length: i % 4 }, (_, k) => k),
  at: { type: 'Point', coordinates: [9, 46] },
  ...(i % 50 !== 7 && { note: 'x' }),
  ...(i === 3 && { Note: 'y' }),
}));

test('each field is told of: types, whole numbers, presence, different values, ranges, lengths, forms', () => {
  const fields = byPath(huts);
  expect(fields.get('id')).toMatchObject({ presence: 1, types: { text: 100 }, distinct: { exact: false } });
  expect(Math.abs((fields.get('id')?.distinct?.count ?? 0) - 100)).toBeLessThan(8);
  expect(fields.get('bunks')).toMatchObject({ types: { number: 95, text: 5 }, whole: 95, least: 0, greatest: 99 });
  expect(fields.get('fee')).toMatchObject({ whole: 25, histogram: { from: 0, to: 24.75, exact: true } });
  expect(fields.get('fee')?.histogram?.counts.reduce((a, b) => a + b)).toBe(100);
  expect(fields.get('status')).toMatchObject({ distinct: { count: 2, exact: true }, top: [{ value: 'arrived', count: 66 }, { value: 'late', count: 34 }] }); // prettier-ignore
  expect(fields.get('reviewed')?.formats).toEqual([{ format: 'date', share: 1 }]);
  expect(fields.get('list')).toMatchObject({ arrayLengths: { least: 0, greatest: 3, mean: 1.5 } });
  expect(fields.get('note')).toMatchObject({ presence: 0.98, textLengths: { least: 1, greatest: 1, mean: 1 } });
  expect(fields.get('at')?.formats).toEqual([{ format: 'GeoJSON Point', share: 1 }]);
});

test('vectors are told by their length and how many arrays are otherwise, and longer texts by their language', () => {
  const vector = Array.from({ length: 16 }, (_, i) => i / 3);
  const documents: JsonObject[] = Array.from({ length: 40 }, (_, i) => ({
    v: i === 3 ? vector.slice(1) : i === 4 ? [...vector.slice(1), null] : vector,
    pair: [1, 2],
    mixed: i % 2 === 0 ? vector : ['a'],
    text: 'The bridge is gone, and there is no way over the river until the water has fallen.',
    name: 'Lower Tarn',
  }));
  const fields = byPath(documents);
  // What is long is not told as empty.
  expect(fields.get('v')?.example).toEqual([...vector.slice(0, 7), '…']);
  expect(fields.get('v')?.vectors).toEqual({ dimensions: 16, count: 38, others: 2 });
  expect([fields.get('pair')?.vectors, fields.get('mixed')?.vectors]).toEqual([undefined, undefined]);
  expect([fields.get('text')?.language, fields.get('name')?.language]).toEqual(['english', undefined]);
});

test('what is odd is called out', () => {
  const fields = surveyFields(huts);
  const odd = Object.fromEntries(
    odditiesOf(fields).flatMap((found, i) => (found.length > 0 ? [[pathOf(fields[i]), found.map(({ code }) => code)]] : [])),
  );
  expect(odd).toEqual({
    bunks: ['several-types', 'number-as-text'],
    gone: ['always-null'],
    note: ['almost-always', 'near-name'],
    Note: ['near-name'],
  });
});

test('a shape as a JSON Schema', () => {
  const schema = jsonSchemaOf('huts', surveyFields(huts)) as { properties: Record<string, unknown>; required: string[] };
  expect(schema.properties.bunks).toEqual({ type: ['integer', 'string'] });
  expect(schema.properties.reviewed).toEqual({ type: 'string', format: 'date' });
  expect(schema.properties.status).toEqual({ type: 'string', enum: ['arrived', 'late'] });
  expect(schema.properties.list).toEqual({ type: 'array', items: { type: 'integer' } });
  expect(schema.properties.at).toMatchObject({ type: 'object', required: ['type', 'coordinates'] });
  expect(schema.required).not.toContain('note');
});

test('parts joined give what the whole gives', () => {
  const scalar = fc.oneof(fc.integer({ min: -5, max: 500 }), fc.constantFrom('a', 'b', '2026-02-03'), fc.constant(null), fc.boolean());
  const document = fc.record(
    { a: scalar, b: fc.record({ c: fc.array(scalar, { maxLength: 3 }) }) },
    { requiredKeys: [] },
  ) as fc.Arbitrary<JsonObject>;
  fc.assert(
    fc.property(fc.array(document, { maxLength: 60 }), fc.array(document, { maxLength: 60 }), (first, second) => {
      const joined = new Survey();
      for (const part of [first, second]) {
        const survey = new Survey();
        for (const one of part) survey.add(one);
        joined.join(survey);
      }
      const plain = ({ info, steps }: FlatField) => ({
        steps,
        ...info,
        top: [...info.top].sort((x, y) => y.count - x.count || (String(x.value) < String(y.value) ? -1 : 1)),
      });
      const sorted = (fields: readonly FlatField[]) =>
        fields.map(plain).sort((x, y) => (JSON.stringify(x.steps) < JSON.stringify(y.steps) ? -1 : 1));
      const told = (fields: readonly FlatField[]) =>
        sorted(fields).map(({ types, presence, distinct, whole, arrayLengths, steps, top }) => ({
          types,
          presence,
          distinct,
          whole,
          arrayLengths,
          steps,
          top,
        }));
      expect(told(joined.fields())).toEqual(told(surveyFields([...first, ...second])));
    }),
  );
});

test.each([1_000, 20_000, 200_000])('%i different values are estimated within eight per cent', (count) => {
  const sketch = new DistinctSketch();
  const other = new DistinctSketch();
  for (let i = 0; i < count; i++) (i % 2 === 0 ? sketch : other).add(`value ${i * 7}`);
  sketch.join(other);
  expect(Math.abs(sketch.estimate / count - 1)).toBeLessThan(0.08);
});

describe('names that are nearly the same', () => {
  const nearIn = (names: readonly string[]) => {
    const { info } = surveyFields([{ a: 1 }])[0]!;
    const fields = names.map((field): FlatField => ({ steps: [{ field }], info }));
    return odditiesOf(fields).map((found) => found.find(({ code }) => code === 'near-name')?.message);
  };
  const plain = (name: string) => name.toLowerCase().replace(/[\s_.-]/g, '');
  const isNear = (x: string, y: string) => x.length > 2 && (x === y || `${x}s` === y || `${y}s` === x);

  test('are those that differ by case, separators or a plural: of each, the first', () => {
    const name = fc.string({ unit: fc.constantFrom('a', 'S', 's', '_', 'b'), minLength: 1, maxLength: 5 });
    fc.assert(
      fc.property(fc.uniqueArray(name, { maxLength: 12 }), (names) => {
        const expected = names.map((own) => names.find((other) => other !== own && isNear(plain(other), plain(own))));
        expect(nearIn(names)).toEqual(expected.map((near) => near && `has nearly the name of ${near}`));
      }),
      { numRuns: 400 },
    );
  });

  test('are found among tens of thousands', () => {
    const many = Array.from({ length: 40_000 }, (_, at) => `field_${at}_of_a_kind`);
    expect(nearIn([...many, 'Field-7-of-a-kind']).filter((near) => near !== undefined)).toEqual([
      'has nearly the name of Field-7-of-a-kind',
      'has nearly the name of field_7_of_a_kind',
    ]);
  });
});
