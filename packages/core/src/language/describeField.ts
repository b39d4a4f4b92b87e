import type { FieldInfo } from '../shape/fieldTree.ts';
import type { Kind } from '../values/kind.ts';

const kindOrder: readonly Kind[] = ['text', 'number', 'boolean', 'array', 'object', 'null'];

/** Types and presence of a field in a few words. */
export function describeField(info: FieldInfo | undefined): { detail?: string; info?: string } {
  if (info === undefined) return {};
  const kinds = kindOrder.filter((kind) => (info.types[kind] ?? 0) > 0).join(' or ');
  const share = info.presence >= 1 ? 'always' : `in ${percent(info.presence)}`;
  const example = info.example === undefined ? '' : JSON.stringify(info.example);
  const range =
    info.least === undefined || info.least === info.greatest ? '' : `${JSON.stringify(info.least)} to ${JSON.stringify(info.greatest)}. `;
  const noted = [info.note, info.unit && `in ${info.unit}`].filter(Boolean).join(', ');
  return { detail: `${kinds}, ${share}`, info: `${noted === '' ? '' : `${noted}. `}${range}For example ${example}` };
}

/** A share as a percentage that never rounds to none or all. */
function percent(share: number): string {
  const rounded = share > 0.995 ? Math.floor(share * 1000) / 10 : Math.ceil(share * 100);
  return `${rounded} %`;
}
