import { Text } from '@codemirror/state';
import { usualSurface } from '@zesty-sieve/core/language';
import { foldedBelow } from '../src/parts/editor/folding.ts';
import { filledIn, templates } from '../src/parts/editor/templates.ts';

const long = `# Which huts
from huts
where @.bunks > 20 &&
  @.altitudeM > 1000
# What they have
unnest @.fittings as fitting
group by @.fitting
  measure huts = count()

# At the end`;

/** What folds away below a line, by its number. */
const foldedAt = (number: number): string | null => {
  const range = foldedBelow(long, Text.of(long.split('\n')).line(number));
  return range && long.slice(range.from, range.to);
};

test.each([
  ['a comment: all up to the next that stands alone', 1, '\nfrom huts\nwhere @.bunks > 20 &&\n  @.altitudeM > 1000'],
  ['a stage of one line: nothing', 2, null],
  ['a stage of several lines: the further ones', 3, '\n  @.altitudeM > 1000'],
  ['a further line of a stage: nothing', 4, null],
  ['the last section but one: without the blank line after it', 5, '\nunnest @.fittings as fitting\ngroup by @.fitting\n  measure huts = count()'],
  ['a stage whose measures are on lines of their own', 7, '\n  measure huts = count()'],
  ['a blank line: nothing', 9, null],
  ['a comment with nothing below it: nothing', 10, null],
])('what folds away below %s', (_, line, folded) => {
  expect(foldedAt(line)).toBe(folded);
}); // prettier-ignore

test.each([...templates])('the template of %s reads as its stage when its places hold what stands in them', (word, template) => {
  const { stages, findings } = usualSurface.parse(word === 'from' ? filledIn(template) : `from huts\n${filledIn(template)}`);
  expect(findings).toEqual([]);
  expect(stages.at(-1)?.stage?.kind).toBe(word.replace(' by', '').replace(' join', 'Join'));
});
