import type { Finding } from '../../diagnostics/diagnostic.ts';
import type { Places } from '../../places.ts';
import { parseOrderKey } from '../../stages/order.ts';
import type { OrderKey } from '../../stages/stage.ts';
import { parseText } from './texts.ts';

/** Reads one key alone, as an index's keys are written. */
export function parseOrderKeyText(text: string): { readonly key: OrderKey; readonly places: Places } | { readonly finding: Finding } {
  const result = parseText(text, parseOrderKey, (key) => key.expression, false);
  return 'finding' in result ? result : { key: result.read, places: result.places };
}
