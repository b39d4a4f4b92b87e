import { worded } from '../language/wording.ts';
import type { Misfit } from '../expressions/context.ts';
import type { Reading } from './reading.ts';
import type { Note } from './requests.ts';

const whole = new Intl.NumberFormat('en');
const kinds: Record<Misfit['kind'], string> = {
  null: 'null', boolean: 'true or false', number: 'a number', text: 'text', array: 'an array', object: 'an object', missing: 'missing',
}; // prettier-ignore

/** Tells of the values that expressions could not use, the commonest first. */
export function notesOf(misfits: readonly Misfit[], reading: Reading): Note[] {
  return [...misfits].sort((a, b) => b.count - a.count).map((misfit) => noteOf(misfit, reading));
}

function noteOf({ site, kind, example, count, ...misfit }: Misfit, reading: Reading): Note {
  const operand = worded(misfit.operand, reading);
  const times = `${whole.format(count)} row${count === 1 ? '' : 's'}`;
  const shown = example === undefined || example === null ? '' : `, for example ${shorten(JSON.stringify(example))}`;
  const numeric = kind === 'text' && operand.startsWith('@') && !Number.isNaN(Number(example));
  const own = reading.placeOf(site);
  const { from, to, line } = reading.askedPlaceOf(site);
  const at = own.view === undefined ? reading.writtenAt(site).indexOf(operand) : -1;
  return {
    code: 'unusable-values',
    line,
    from,
    to,
    count,
    message: `${own.view === undefined ? '' : `In the view ${own.view}, line ${own.line}: `}${operand} is ${kinds[kind]} in ${times}${shown}: ${worded(site.text, reading)} gives nothing there.`,
    ...(numeric &&
      at >= 0 && {
        mend: {
          label: `Write number(${operand})`,
          edits: [{ from: from + at, to: from + at + operand.length, insert: `number(${operand})` }],
        },
      }),
  };
}

function shorten(text: string): string {
  return text.length > 60 ? text.slice(0, 57) + '…' : text;
}
