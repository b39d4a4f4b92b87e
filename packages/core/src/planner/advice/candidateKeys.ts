import type { OrderKey } from '../../language/stages/stage.ts';
import { isKey, keyTextOf, type KeyCondition } from '../paths/keyConditions.ts';
import type { Selectivity } from '../source.ts';
import type { AccessQuestion } from '../paths/path.ts';

/**
 * Keys asked for by equality first, then those of the order or of one range: an index is of use up to its first
 * range, and its order after equal keys alone.
 */
export function candidateKeys(
  { conditions: asked, order: wanted }: Pick<AccessQuestion, 'conditions' | 'order'>,
  selectivity: Selectivity,
): string[][] {
  const byKey = new Map<string, KeyCondition>();
  for (const condition of asked) {
    const known = byKey.get(condition.keyText);
    if (known === undefined || known.asks.kind === 'interval') byKey.set(condition.keyText, condition);
  }
  const conditions = [...byKey.values()].sort((a, b) => selectivity.of([a.conjunct]) - selectivity.of([b.conjunct]));
  const isArray = ({ keyText }: KeyCondition) => isOfElements(keyText);
  const plain = conditions.filter((condition) => !isArray(condition));
  const points = plain.filter(({ asks }) => asks.kind === 'points');
  const intervals = plain.filter(({ asks }) => asks.kind === 'interval');
  const equal = points.map(({ keyText }) => keyText);
  const order = orderKeys(wanted, equal);
  const alone = conditions.filter(isArray).map(({ keyText }) => [keyText]);
  return [
    [...equal, ...order],
    ...intervals.map(({ keyText }) => [...equal, keyText]),
    ...intervals.map(({ keyText }) => [...equal, ...order, keyText]),
    order,
    equal,
    ...alone,
    ...alone.map((keys) => [...equal, ...keys]),
  ]
    .map((keys) => keys.filter((key, i) => keys.findIndex((other) => pathOf(other) === pathOf(key)) === i))
    .filter((keys) => keys.length > 0 && keys.filter((key) => isOfElements(key)).length < 2);
}

/** Whether a key has an entry for each element of an array; an index may have one such key. */
export function isOfElements(keyText: string): boolean {
  return keyText.includes('[*]');
}

/** A key without its direction. */
export function pathOf(key: string): string {
  return key.replace(/ desc$/, '');
}

function orderKeys(order: readonly OrderKey[], equal: readonly string[]): string[] {
  return order
    .filter(({ expression }) => isKey(expression) && !equal.includes(keyTextOf(expression)))
    .map(({ expression, direction }) => keyTextOf(expression) + (direction === 'desc' ? ' desc' : ''));
}
