import { snippetCompletion, type Completion } from '@codemirror/autocomplete';

/** A stage with the places that are to be filled in, which Tab goes through: `${what stands there}`. */
export const templates: ReadonlyMap<string, string> = new Map([
  ['from', 'from ${collection}'],
  ['where', 'where ${@.field} == ${"value"}'],
  ['select', 'select ${@.field} as ${name}'],
  ['omit', 'omit ${@.field}'],
  ['compute', 'compute ${name} = ${@.field}'],
  ['unnest', 'unnest ${@.array} as ${item}'],
  ['join', 'join ${collection} as ${partner} on ${partner}.id == ${@.field}'],
  ['left join', 'left join ${collection} as ${partner} on ${partner}.id == ${@.field}'],
  ['gather join', 'gather join ${collection} as ${partner} on ${partner}.id == ${@.field}'],
  ['group by', 'group by ${@.field}\n  measure ${rows} = ${count()}'],
  ['rank', 'rank as ${place} partition by ${@.field} order by ${@.other} desc'],
  ['best', 'best ${10} by relevance(${@.text}, ${:words}) as ${score}'],
  ['order by', 'order by ${@.field} desc'],
  ['offset', 'offset ${20}'],
  ['limit', 'limit ${20}'],
  ['sample', 'sample ${100} seed ${1}'],
]);

/** A template as it is offered, below the bare word of its stage. */
export function templateOf(word: string): Completion[] {
  const template = templates.get(word);
  if (template === undefined) return [];
  const told = filledIn(template).split('\n')[0]!;
  return [snippetCompletion(template, { label: `${told} …`, displayLabel: told, type: 'template', detail: 'Tab fills it in', boost: 2 })];
}

/** The text of a template with what stands in its places. */
export const filledIn = (template: string): string => template.replaceAll(/\$\{([^}]*)\}/g, '$1');
