import type { Misfit } from '../expressions/context.ts';
import { lineAt } from '../language/diagnostics/diagnostic.ts';
import { viewAt } from './readPipeline.ts';
import type { Note } from './requests.ts';

const whole = new Intl.NumberFormat('en');
const kinds: Record<Misfit['kind'], string> = {
  null: 'null', boolean: 'true or false', number: 'a number', text: 'text', array: 'an array', object: 'an object', missing: 'missing',
}; // prettier-ignore

/** Tells of the values that expressions could not use, the commonest first. */
export function notesOf(misfits: readonly Misfit[], text: string): Note[] {
  return [...misfits].sort((a, b) => b.count - a.count).map((misfit) => noteOf(misfit, text));
}

function noteOf({ site, operand, kind, example, count }: Misfit, text: string): Note {
  const times = `${whole.format(count)} row${count === 1 ? '' : 's'}`;
  const shown = example === undefined || example === null ? '' : `, for example ${shorten(JSON.stringify(example))}`;
  const numeric = kind === 'text' && operand.startsWith('@') && !Number.isNaN(Number(example));
  const view = viewAt(text, site);
  const at = view === undefined ? text.slice(site.from, site.to).indexOf(operand) : -1;
  return {
    code: 'unusable-values',
    line: lineAt(text, site.from),
    from: site.from,
    to: site.to,
    count,
    message: `${view === undefined ? '' : `In the view ${view}: `}${operand} is ${kinds[kind]} in ${times}${shown}: ${site.text} gives nothing there.`,
    ...(numeric &&
      at >= 0 && {
        mend: {
          label: `Write number(${operand})`,
          edits: [{ from: site.from + at, to: site.from + at + operand.length, insert: `number(${operand})` }],
        },
      }),
  };
}

function shorten(text: string): string {
  return text.length > 60 ? text.slice(0, 57) + '…' : text;
}
