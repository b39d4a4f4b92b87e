import type { ConditionForm } from './conditionForm.ts';

type Group = ConditionForm & { kind: 'group' };

/** Where an item stands: its place in the root group, then in the group there, and so on. */
export type FormPlace = readonly number[];

/** What stands where an item was until the move is done, so that places keep their meaning meanwhile. */
const hole: ConditionForm = { kind: 'text', text: '' };

/**
 * Moves a condition, or a group with all in it, to a place in another group or its own. A group that is left empty goes.
 * @returns the same form where the move means nothing: into itself, or from a place where nothing stands
 */
export function moveCondition(form: Group, from: FormPlace, group: FormPlace, at: number): Group {
  const moved = itemAt(form, from);
  const target = itemAt(form, group);
  const isInside = from.every((step, i) => group[i] === step);
  if (moved === undefined || from.length === 0 || target?.kind !== 'group' || isInside) return form;
  const emptied = update(form, from, () => [hole]) as Group;
  const placed = group.length === 0 ? insert(emptied, at, moved) : update(emptied, group, (old) => [insert(old as Group, at, moved)]);
  return tidy(placed as Group) ?? form;
}

function itemAt(form: ConditionForm, place: FormPlace): ConditionForm | undefined {
  return place.reduce<ConditionForm | undefined>((at, step) => (at?.kind === 'group' ? at.items[step] : undefined), form);
}

function insert(group: Group, at: number, item: ConditionForm): Group {
  return { ...group, items: [...group.items.slice(0, at), item, ...group.items.slice(at)] };
}

function update(form: ConditionForm, [first, ...rest]: FormPlace, change: (old: ConditionForm) => ConditionForm[]): ConditionForm {
  if (form.kind !== 'group') return form;
  return {
    ...form,
    items: form.items.flatMap((item, i) => (i !== first ? [item] : rest.length === 0 ? change(item) : [update(item, rest, change)])),
  };
}

/** Without the hole and the groups that it leaves empty. */
function tidy(group: Group): Group | undefined {
  const items = group.items.flatMap((item): ConditionForm[] => {
    const kept = item === hole ? undefined : item.kind === 'group' ? tidy(item) : item;
    return kept === undefined ? [] : [kept];
  });
  return items.length === 0 ? undefined : { ...group, items };
}
