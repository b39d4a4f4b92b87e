import { printGivenName } from '../surfaces/notation/names.ts';
import { printExpression } from '../surfaces/notation/print.ts';
import { parseValueText } from '../surfaces/notation/texts.ts';
import type { OmitStage, RemoveStep, ComputeStage, SelectStage } from '../stages/stage.ts';
import { fieldNames } from '../tree.ts';

/** An expression as a row of a form, with the name under which it is put. */
export interface NamedRow {
  readonly text: string;
  /** Undefined where a path stays where it was. */
  readonly name: string | undefined;
}

/** The fields of `select`, `omit` and `remove`. */
export interface FieldsForm {
  readonly kind: (SelectStage | OmitStage | RemoveStep)['kind'];
  readonly rows: readonly NamedRow[];
}

/** The form of a stage that names fields; rows keep their order. */
export function readFields(stage: SelectStage | OmitStage | RemoveStep): FieldsForm {
  const rows =
    stage.kind === 'select'
      ? stage.items.map(({ expression, target, named }) => ({
          text: printExpression(expression),
          name: named ? printGivenName(target) : undefined,
        }))
      : stage.paths.map((path) => ({ text: printExpression(path), name: undefined }));
  return { kind: stage.kind, rows };
}

/** The stage's text; undefined where no field is left, which no text can say. */
export function writeFields({ kind, rows }: FieldsForm): string | undefined {
  return rows.length === 0 ? undefined : `${kind} ${rows.map(writeRow).join(', ')}`;
}

export function writeRow({ text, name }: NamedRow): string {
  return name === undefined ? text : `${text} as ${name}`;
}

/** The name that a path has by itself, so that it needs no other. */
export function ownName(text: string): string | undefined {
  const read = parseValueText(text);
  const names = 'expression' in read && read.expression.kind === 'path' ? fieldNames(read.expression) : undefined;
  return names && printGivenName(names);
}

/** What `compute` assigns, from left to right. */
export interface AssignmentRow {
  readonly name: string;
  readonly text: string;
}

export function readAssignments({ assignments }: ComputeStage): readonly AssignmentRow[] {
  return assignments.map(({ target, expression }) => ({ name: printGivenName(target), text: printExpression(expression) }));
}

/** The text of `compute`; undefined where nothing is assigned. */
export function writeAssignments(rows: readonly AssignmentRow[]): string | undefined {
  return rows.length === 0 ? undefined : `compute ${rows.map(({ name, text }) => `${name} = ${text}`).join(', ')}`;
}
