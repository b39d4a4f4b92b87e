import fc from 'fast-check';
import { compileCondition } from '../expressions/compile.ts';
import { makeContext } from '../expressions/context.ts';
import { parseConditionText } from '../language/surfaces/notation/texts.ts';
import type { NodeId } from '../language/places.ts';
import type { Json, JsonObject } from '../values/json.ts';
import { conjunctsOf, type Conjunct } from './conjuncts.ts';
import { Selectivity, type PlannedSource } from './source.ts';
import { takeSample } from './statistics.ts';

const parameters: Readonly<Record<string, Json>> = { most: 3 };

function conjunct(text: string, stage: number): Conjunct {
  const read = parseConditionText(text);
  if ('finding' in read) throw new Error(read.finding.message);
  return conjunctsOf(read.expression, stage as NodeId)[0]!;
}

function selectivityOver(documents: readonly JsonObject[]): Selectivity {
  const sample = takeSample({ documents, count: documents.length, version: 0 });
  return new Selectivity({ sample: () => sample } as PlannedSource, parameters);
}

const document = fc.record({ a: fc.nat(5), b: fc.constantFrom('x', 'y', null) }, { requiredKeys: [] }) as fc.Arbitrary<JsonObject>;
const condition = fc.constantFrom('@.a > 2', '@.a < :most', '@.b == "x"', '@.b != "y"', '@.a', '!@.b', '@.a == 9', '@.a in [1, 2, 3]');

test('the share that conditions leave is that which is counted, together and one after another', () => {
  fc.assert(
    fc.property(fc.array(document, { minLength: 1, maxLength: 80 }), fc.array(condition, { maxLength: 6 }), (documents, texts) => {
      const conjuncts = texts.map(conjunct);
      const context = makeContext(parameters);
      const counted = (upTo: number) =>
        documents.filter((row) => conjuncts.slice(0, upTo).every(({ expression }) => compileCondition(expression)(row, context))).length /
        documents.length;
      const selectivity = selectivityOver(documents);
      expect(selectivity.of(conjuncts)).toBe(counted(conjuncts.length));
      expect(selectivity.along(conjuncts.map((one) => [one]))).toEqual(conjuncts.map((_, i) => counted(i + 1)));
      expect(selectivity.along([conjuncts, []])).toEqual([counted(conjuncts.length), counted(conjuncts.length)]);
    }),
    { numRuns: 400 },
  );
});

test('what holds for nothing in a part of the documents may still hold for some of the whole', () => {
  const many = Array.from({ length: 12_000 }, (_, i): JsonObject => ({ a: i % 2 }));
  const selectivity = selectivityOver(many);
  const share = selectivity.of([conjunct('@.a == 9', 1)]);
  expect(share).toBeGreaterThan(0);
  expect(share).toBeLessThan(0.001);
  expect(selectivity.of([])).toBe(1);
});

test('over no documents at all nothing is known to be kept from', () => {
  expect(selectivityOver([]).of([conjunct('@.a == 9', 1)])).toBe(1);
});
