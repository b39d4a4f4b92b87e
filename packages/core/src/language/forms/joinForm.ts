import { printGivenName } from '../surfaces/notation/names.ts';
import { pathText, printExpression } from '../surfaces/notation/print.ts';
import { parseConditionText } from '../surfaces/notation/texts.ts';
import { tokenize, type Sign, type Token } from '../surfaces/notation/tokens.ts';
import { partnerName } from '../stages/join.ts';
import { stageWords } from '../stages/registry.ts';
import type { JoinKind, JoinStage, Stage } from '../stages/stage.ts';

/** Which collection is brought in, under what name, and which conditions all hold for a pair. */
export interface JoinForm {
  readonly kind: JoinKind;
  readonly source: string;
  readonly name: string;
  readonly conditions: readonly string[];
}

export function readJoin(stage: JoinStage): JoinForm {
  const { kind, source, target, condition } = stage;
  const all = condition.kind === 'and' ? condition.operands : [condition];
  return { kind, source, name: printGivenName(target.names), conditions: all.map(inBrackets) };
}

// One that binds more loosely than && would come apart where they are joined.
function inBrackets(condition: JoinStage['condition']): string {
  const text = printExpression(condition);
  return condition.kind === 'or' ? `(${text})` : text;
}

/** The stage's text; undefined where no condition is left. */
export function writeJoin({ kind, source, name, conditions }: JoinForm): string | undefined {
  return conditions.length === 0 ? undefined : `${stageWords(kind)} ${source} as ${name} on ${conditions.join(' && ')}`;
}

/** The form with the partner called otherwise, in its conditions too. */
export function withPartnerName(form: JoinForm, name: string): JoinForm {
  const last = (one: string) => one.split('.').pop() ?? one;
  const [from, to] = [last(form.name), last(name)];
  return { ...form, name, conditions: form.conditions.map((condition) => replacePartner(condition, from, to)) };
}

/** Whether a text is a condition on a pair. */
export function isPairCondition(text: string, stage: JoinStage): boolean {
  // The partner's name is no value by itself: it is read as a field for the check.
  return 'expression' in parseConditionText(replacePartner(text, partnerName(stage), '@'));
}

/** Calls the partner otherwise where it stands as a root: not in texts, and not where a field is called the same. */
function replacePartner(condition: string, from: string, to: string): string {
  const tokens = tokenize(condition, 0, condition.length);
  let written = '';
  let at = 0;
  tokens.forEach((token, i) => {
    const isField = isSign(tokens[i - 1], '.', '..');
    if (token.kind !== 'name' || token.text !== from || isField || !isSign(tokens[i + 1], '.', '..', '[')) return;
    written += condition.slice(at, token.from) + to;
    at = token.to;
  });
  return written + condition.slice(at);
}

const isSign = (token: Token | undefined, ...signs: readonly Sign[]): boolean => token?.kind === 'sign' && signs.includes(token.text);

/** Where a field of the partner stands after the join. */
function broughtPath({ kind, target }: JoinStage, field: string): string {
  return pathText([field], `${pathText(target.names)}${kind === 'gatherJoin' ? '[*]' : ''}`);
}

/** The partner's fields that the stage after a join leaves out again, if that is all it does; undefined where it does something else. */
export function leftOutOf(join: JoinStage, next: Stage | undefined, fields: readonly string[]): readonly string[] | undefined {
  if (next?.kind !== 'omit') return undefined;
  const named = new Map(fields.map((field) => [broughtPath(join, field), field]));
  const out = next.paths.map((path) => named.get(printExpression(path)));
  return out.includes(undefined) ? undefined : (out as string[]);
}

/** The line after a join that leaves out fields of the partner; undefined where all are brought over. */
export function writeLeftOut(join: JoinStage, fields: readonly string[]): string | undefined {
  return fields.length === 0 ? undefined : `omit ${fields.map((field) => broughtPath(join, field)).join(', ')}`;
}
