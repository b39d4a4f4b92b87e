import { asFilter } from './asFilter.ts';
import { elementsOf, follow, treeOf, type Roots } from './followPath.ts';
import type { Words } from './words.ts';
import { findings } from './diagnostics/findings.ts';
import { isConstant } from './constant.ts';
import { checkLanguage, textPaths } from './checkWords.ts';
import { nearest } from './diagnostics/nearest.ts';
import type { Finding } from './diagnostics/diagnostic.ts';
import { functionSignatures, isConditionCall, signatureOf } from './functions/signatures.ts';
import { signatureText, type ParameterSignature } from './functions/signature.ts';
import { descend, type FieldTree } from '../shape/fieldTree.ts';
import type { Kind } from '../values/kind.ts';
import { kindOf } from '../values/kind.ts';
import { patternProblem } from '../values/iRegexp.ts';
import type { Identified } from './places.ts';
import { coverOnwards, type Span } from './span.ts';
import { isCondition, isSingle, type Call, type Comparison, type Expression, type Membership, type PathExpression } from './tree.ts';
import { isPlainlyWritten } from './surfaces/notation/print.ts';

/** What an expression may refer to where it stands, and where its findings go. */
export interface Scope extends Roots {
  /** The collection whose documents the rows are as they stand there; undefined where an earlier stage has made others of them. */
  readonly source: string | undefined;
  /** The collection of the partner, where one has a name. */
  readonly partner?: string;
  /** The line on which an earlier stage dropped a field. */
  readonly droppedAt?: (names: readonly string[]) => number | undefined;
  readonly report: (finding: Finding) => void;
  /** How the parts of the text are called in what is found. */
  readonly words: Words;
  /** Where a node stands in the text. */
  readonly at: (node: Identified) => Span;
}

/** Checks an expression that stands where a condition is wanted. */
export function checkCondition(expression: Expression, scope: Scope): void {
  switch (expression.kind) {
    case 'and':
    case 'or':
      for (const operand of expression.operands) checkCondition(operand, scope);
      return;
    case 'not':
      checkCondition(expression.operand, scope);
      return;
    case 'path':
      checkPath(expression, scope);
      warnOfBooleans(expression, scope);
      return;
    case 'comparison':
    case 'in':
      checkComparison(expression, scope);
      return;
    case 'call':
      checkCall(expression, scope);
      if (signatureOf(expression.name)?.result === 'value') {
        scope.report(findings.conditionWanted(scope.at(expression), `what ${expression.name} gives`));
      }
      return;
    case 'parameter':
      scope.report(findings.parameterAsCondition(scope.at(expression), expression.name));
      return;
    default:
      checkValue(expression, scope);
      scope.report(findings.conditionWanted(scope.at(expression), scope.words.expression(expression)));
  }
}

/** Checks an expression that stands where a value is wanted; a condition there is true or false. */
export function checkValue(expression: Expression, scope: Scope): void {
  switch (expression.kind) {
    case 'literal':
    case 'parameter':
      return;
    case 'path':
      checkPath(expression, scope);
      return;
    case 'negation':
      checkValue(expression.operand, scope);
      return;
    case 'arithmetic':
      checkValue(expression.left, scope);
      checkValue(expression.right, scope);
      return;
    case 'array':
      for (const item of expression.items) checkValue(item, scope);
      return;
    case 'object':
      for (const { value } of expression.entries) checkValue(value, scope);
      return;
    case 'call':
      checkCall(expression, scope);
      return;
    default:
      checkCondition(expression, scope);
  }
}

/** Checks a key of an order or a group: a value, of which there is one. */
export function checkKey(expression: Expression, scope: Scope): void {
  checkValue(expression, scope);
  if (expression.kind === 'path' && !isSingle(expression)) scope.report(findings.severalAsKey(scope.at(expression)));
}

function checkComparison(expression: Comparison | Membership, scope: Scope): void {
  const { left, right } = expression;
  checkValue(left, scope);
  checkValue(right, scope);
  rejectCondition(expression, left, right, scope);
  rejectCondition(expression, right, left, scope);
  if (left.kind === 'path' && !isSingle(left)) {
    scope.report(findings.severalCompared(scope.at(expression), asFilter(left, expression, 'left', scope.words)));
  }
  if (expression.kind === 'comparison') {
    if (right.kind === 'path' && !isSingle(right)) {
      scope.report(findings.severalCompared(scope.at(expression), asFilter(right, expression, 'right', scope.words)));
    }
    warnOfTypes(left, expression, right, scope);
    warnOfTypes(right, expression, left, scope);
  }
}

function rejectCondition(whole: Expression, side: Expression, other: Expression, scope: Scope): void {
  if (!isCondition(side, isConditionCall)) return;
  const keeps = whole.kind === 'comparison' && whole.operator === '==' && other.kind === 'literal' && other.value === true;
  const [sideAt, wholeAt] = [scope.at(side), scope.at(whole)];
  const drops = { from: sideAt.to, to: wholeAt.to, insert: '' };
  scope.report(
    findings.conditionCompared(
      wholeAt,
      keeps && sideAt.from === wholeAt.from ? { label: 'Drop the comparison', edits: [drops] } : undefined,
    ),
  );
}

const orderings: readonly string[] = ['<', '<=', '>', '>='];

function warnOfTypes(path: Expression, { operator }: Comparison, other: Expression, scope: Scope): void {
  if (path.kind !== 'path' || other.kind !== 'literal' || operator === '!=') return;
  const types = treeOf(path, scope)?.info?.types;
  if (types === undefined) return;
  const wanted = kindOf(other.value);
  if ((wanted === 'null' || wanted === 'boolean') && orderings.includes(operator)) return;
  const found = (Object.keys(types) as Kind[]).filter((kind) => kind !== 'missing' && (types[kind] ?? 0) > 0);
  if (found.length > 0 && !found.includes(wanted)) {
    scope.report(
      findings.typeNeverFound(coverOnwards(scope.at(path), scope.at(other)), scope.words.expression(path), wanted, found.join(' or ')),
    );
  }
}

function warnOfBooleans(path: PathExpression, scope: Scope): void {
  if (isSingle(path) && (treeOf(path, scope)?.info?.types.boolean ?? 0) > 0) scope.report(findings.existenceOfBoolean(scope.at(path)));
}

function checkCall(call: Call, scope: Scope): void {
  const signature = signatureOf(call.name);
  if (signature === undefined) {
    scope.report(findings.unknownFunction(scope.at({ id: call.nameId }), call.name, nearest(call.name, Object.keys(functionSignatures))));
    return;
  }
  const { parameters } = signature;
  const required = parameters.filter((parameter) => !parameter.optional && !parameter.rest).length;
  const most = parameters.some((parameter) => parameter.rest) ? Infinity : parameters.length;
  const given = call.arguments.length;
  if (given < Math.max(required, parameters.some((p) => p.rest) ? 1 : 0) || given > most) {
    scope.report(findings.argumentCount(scope.at(call), signatureText(call.name, signature), given));
  }
  // Inside `each`, `any` and `every` the current value is an element of the array given first.
  const [array] = call.arguments;
  const elementScope: Scope = { ...scope, current: array?.kind === 'path' ? elementsOf(array, scope) : undefined };
  call.arguments.forEach((argument, i) => {
    checkArgument(call, argument, parameters[Math.min(i, parameters.length - 1)], scope, elementScope);
  });
}

function checkArgument(
  call: Call,
  argument: Expression,
  parameter: ParameterSignature | undefined,
  scope: Scope,
  elementScope: Scope,
): void {
  switch (parameter?.kind) {
    case 'nodes':
      if (argument.kind === 'path') checkPath(argument, scope);
      else scope.report(findings.nodesWanted(scope.at(argument), call.name));
      return;
    case 'paths':
      for (const path of textPaths(call, argument, scope)) checkPath(path, scope);
      return;
    case 'constant':
      checkValue(argument, scope);
      if (!isConstant(argument)) scope.report(findings.constantWanted(scope.at(argument), parameter.name, call.name));
      return;
    case 'language':
      checkLanguage(argument, scope);
      return;
    case 'condition':
      checkCondition(argument, scope);
      return;
    case 'each':
      checkValue(argument, elementScope);
      return;
    case 'test':
      checkCondition(argument, elementScope);
      return;
    case 'pattern':
      checkValue(argument, scope);
      if (argument.kind === 'literal' && typeof argument.value === 'string') {
        const problem = patternProblem(argument.value);
        if (problem !== undefined) scope.report(findings.badPattern(scope.at(argument), problem));
      }
      return;
    default:
      checkValue(argument, scope);
  }
}

function checkPath(path: PathExpression, scope: Scope): void {
  follow(path, scope, (names, at, fields) => {
    const segments = path.segments.slice(0, path.segments.findIndex(({ selectors }) => selectors.includes(at)) + 1);
    // Names alone are a field, which each language writes in its own way.
    const isField = path.root.kind === 'current' && segments.length === names.length;
    const written = isField ? scope.words.field(names) : scope.words.expression({ ...path, segments });
    const line = path.root.kind === 'partner' ? undefined : scope.droppedAt?.(names);
    if (line !== undefined) scope.report(findings.droppedField(scope.at(at), written, line));
    else {
      const near = nearest(names[names.length - 1]!, fields);
      const meant = near !== undefined && isPlainlyWritten(near) ? near : undefined;
      const source = path.root.kind === 'partner' ? scope.partner : scope.source;
      scope.report(findings.unknownField(scope.at(at), written, source, meant));
    }
  });
  let element: FieldTree | undefined = path.root.kind === 'current' ? scope.current : path.root.kind === 'whole' ? scope.whole : undefined;
  for (const segment of path.segments) {
    for (const selector of segment.selectors) {
      if (selector.kind === 'filter') {
        checkCondition(selector.condition, { ...scope, current: segment.descendant ? undefined : element?.element });
      }
    }
    const [selector] = segment.selectors;
    if (element !== undefined && !segment.descendant && segment.selectors.length === 1) {
      element = selector.kind === 'name' ? descend(element, [selector.name]) : element.element;
    } else {
      element = undefined;
    }
  }
}
