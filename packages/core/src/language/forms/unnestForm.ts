import { printGivenName } from '../surfaces/notation/names.ts';
import { printExpression } from '../surfaces/notation/print.ts';
import type { UnnestStage } from '../stages/stage.ts';

/** The array that is taken apart, and what its elements are called. */
export interface UnnestForm {
  readonly path: string;
  readonly name: string;
  readonly position: string | undefined;
  readonly keepEmpty: boolean;
}

export function readUnnest({ path, target, position, keepEmpty }: UnnestStage): UnnestForm {
  return {
    path: printExpression(path),
    name: printGivenName(target.names),
    position: position && printGivenName(position.names),
    keepEmpty,
  };
}

export function writeUnnest({ path, name, position, keepEmpty }: UnnestForm): string {
  return `unnest ${path} as ${name}${position ? ` with position as ${position}` : ''}${keepEmpty ? ' keep empty' : ''}`;
}
