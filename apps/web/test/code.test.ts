import fc from 'fast-check';
import { fieldLife, usualSurface } from '@zesty-sieve/core/language';
import { curlCode, fetchCode, pipelineIn } from '../src/features/bench/codeOut.ts';

test('a pipeline that was copied out as code is pasted back as it was', () => {
  const text = fc
    .array(fc.constantFrom('from c', "where @.a == 'it''s'", 'limit :n', '"', '\\', '})', 'é', '\n'))
    .map((parts) => parts.join('\n'));
  fc.assert(
    fc.property(text, fc.dictionary(fc.constantFrom('n', 'm'), fc.jsonValue() as fc.Arbitrary<never>), (pipeline, parameters) => {
      const expected = {
        pipeline,
        ...(Object.keys(parameters).length > 0 && { parameters: JSON.parse(JSON.stringify(parameters)) as object }),
      };
      expect(pipelineIn(fetchCode('http://here', { pipeline }, parameters))).toEqual(expected);
      expect(pipelineIn(curlCode('http://here', { pipeline }, parameters))).toEqual(expected);
    }),
  );
  expect(pipelineIn(curlCode('http://here', { sql: "SELECT 'a' FROM c" }, {}))).toEqual({ sql: "SELECT 'a' FROM c" });
  expect(pipelineIn('from c\nlimit 3')).toBeUndefined();
});

test('a field is followed back to where it comes from', () => {
  const { stages } = usualSurface.parse(
    'from bookings\nleft join huts as hut on hut.id == @.hutId\nunnest @.nights as night\ncompute fee = @.night.fee * @.party.size\ngroup by @.hut.name as hut\n  measure fees = sum(@.fee), n = count()\norder by @.fees desc',
  );
  const fees = fieldLife(stages, ['fees']);
  expect(fees.steps.map(({ line, field, from }) => [line, field, from])).toEqual([
    [5, '@.fees', ['@.fee']],
    [4, '@.fee', ['@.night.fee', '@.party.size']],
    [3, '@.night.fee', ['@.nights']],
  ]);
  expect(fees.sources).toEqual(['bookings @.nights', 'bookings @.party.size']);
  expect(fieldLife(stages, ['hut']).sources).toEqual(['huts @.name']);
  expect(fieldLife(stages, ['n']).sources).toEqual([]);
});
