import type { Scope } from './checkExpression.ts';
import { findings } from './diagnostics/findings.ts';
import { nearest } from './diagnostics/nearest.ts';
import { isLanguageName, languageNames } from '../words/languageNames.ts';
import type { Call, Expression, PathExpression } from './tree.ts';

/** The paths of an argument that is one path to a text or texts, or a list of such. */
export function textPaths(call: Call, argument: Expression, scope: Scope): readonly PathExpression[] {
  const given = argument.kind === 'array' ? argument.items : [argument];
  const odd = given.find((path) => path.kind !== 'path' || path.segments.length === 0);
  if (odd !== undefined || given.length === 0) scope.report(findings.pathsWanted(scope.at(odd ?? argument), call.name));
  return given.filter((one): one is PathExpression => one.kind === 'path');
}

export function checkLanguage(argument: Expression, scope: Scope): void {
  if (argument.kind === 'literal' && isLanguageName(argument.value)) return;
  const near = argument.kind === 'literal' && typeof argument.value === 'string' ? nearest(argument.value, languageNames) : undefined;
  scope.report(findings.languageWanted(scope.at(argument), languageNames, near));
}
