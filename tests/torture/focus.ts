import { literalOf } from './literals.ts';
import { valuesIn } from './values.ts';
import type { Random } from './random.ts';
import type { Fields } from './reference/values.ts';

/** What a world's questions and indexes are about, so that they meet: a few fields, and conditions that come again. */
export interface Focus {
  readonly fields: readonly string[];
  readonly conditions: readonly string[];
}

const fields = ['@.a', '@.b', '@.n', '@.t', '@.k', '@.o.x', '@.o.y', '@.id'];

export function focusOf(random: Random, documents: readonly Fields[]): Focus {
  const chosen = random.some(fields, 4, 2);
  const values = valuesIn(documents, random).flatMap((value) => literalOf(value) ?? []);
  const constant = () => (values.length === 0 ? '1' : random.pick(values));
  const conditions = random.list(1, 3, () =>
    random.weighed([
      [3, () => `${random.pick(chosen)} ${random.pick(['==', '<', '>', '>='])} ${constant()}`],
      [1, () => random.pick(chosen)],
      [1, () => `!${random.pick(chosen)}`],
    ]),
  );
  return { fields: chosen, conditions };
}
