import { callersConditionProblem } from './callersCondition.ts';

const fields = ['@.region', '@.bunks', '@.warden.name', "@['odd name']"];

test.each([
  '@.region == "north"',
  '@.bunks > 20 && (@.region == "north" || !(@.bunks <= 4))',
  '20 < @.bunks',
  '@.bunks >= -3',
  '@.region in ["north", "south"]',
  'contains(@.warden.name, "Ann") || starts_with(@.region, "n")',
  'exists(@.warden.name) && @.region',
  "@['region'] == 'north' && @['odd name'] != 1",
  Array.from({ length: 50 }, (_, n) => `@.bunks == ${n}`).join(' || '),
])('%s may be asked', (text) => expect(callersConditionProblem(text, fields)).toBeUndefined());

test.each<[string, string]>([
  ['@.fee > 3', "it may ask about @.region, @.bunks, @.warden.name, @['odd name']"],
  ['@.warden == 1', 'it may ask about'],
  ['@.region[?@.fee > 3]', 'it may ask about'],
  ['$.region == null', 'it may ask about'],
  ['@..region == "north"', 'it cannot be read'],
  ['@.*', 'it may ask about'],
  ['@.bunks == @.region', 'a field is compared with a constant'],
  ['@.bunks + 1 > 3', 'it may ask about'],
  ['@.bunks == :x', 'a field is compared with a constant'],
  ['@.bunks in @.region', 'after in stands a list of constants'],
  ['length(@.region) > 3', 'it may ask about'],
  ['match(@.region, "(a+)+")', 'of functions it may use contains, starts_with, exists'],
  ['any(@.region, @.fee > 3)', 'of functions it may use'],
  ['contains(@.region, @.fee)', 'contains takes a field and a constant'],
  ['@.bunks >', 'it ends too early'],
  ['secret(', 'it'],
  [Array.from({ length: 51 }, (_, n) => `@.bunks == ${n}`).join(' || '), 'it has more than 50 tests'],
])('%s may not', (text, said) => {
  const problem = callersConditionProblem(text, fields);
  expect(problem).toContain(said);
  expect(problem).not.toContain('fee');
}); // prettier-ignore
