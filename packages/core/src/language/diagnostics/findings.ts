import type { Span } from '../span.ts';
import type { Edit, Finding, Mend } from './diagnostic.ts';

const error = (code: string, span: Span, message: string, mend?: Mend): Finding => ({
  severity: 'error', code, message, from: span.from, to: span.to, ...(mend && { mend }),
}); // prettier-ignore
const warning = (code: string, span: Span, message: string, mend?: Mend): Finding => ({
  ...error(code, span, message, mend),
  severity: 'warning',
});
const replaceBy = (span: Span, insert: string, label = `Write ${insert}`): Mend => ({
  label,
  edits: [{ from: span.from, to: span.to, insert }],
});
const meant = (near: string | undefined): string => (near === undefined ? '' : ` Did you mean ${near}?`);

/** Every diagnostic of the language: a function of what was found, giving its code, words and mend. */
export const findings = {
  // Text and tokens
  strayCharacter: (span: Span, found: string) =>
    error('stray-character', span, `${JSON.stringify(found)} has no meaning here. Text stands in quotes.`),
  openString: (span: Span, quote: string) =>
    error('open-string', span, `This text has no closing ${quote}. A text ends on the line on which it begins.`, {
      label: `Close it with ${quote}`,
      edits: [{ from: span.to, to: span.to, insert: quote }],
    }),
  controlInString: (span: Span, found: string) =>
    error('control-in-string', span, 'A control character cannot stand in a text: write it as an escape.',
      replaceBy(span, '\\u' + found.charCodeAt(0).toString(16).padStart(4, '0'))), // prettier-ignore
  badEscape: (span: Span, found: string) =>
    error('bad-escape', span, `${found} is no escape. These are: \\b \\f \\n \\r \\t \\/ \\\\ \\uXXXX and the quote in use.`),
  inexactNumber: (span: Span, text: string) =>
    error(
      'inexact-number',
      span,
      `${text} is not held exactly as a number (integers are exact up to 2^53). Compare it as text if the field is text.`,
    ),
  leadingZero: (span: Span, text: string) =>
    error('leading-zero', span, 'A number does not begin with a zero.', replaceBy(span, text.replace(/^(-?)0+(?=\d)/, '$1'))),

  // Syntax
  expected: (span: Span, expected: string, found: string) => error('expected', span, `Expected ${expected}, found ${found}.`),
  indentedStage: (span: Span, words: string, indentation: Span) =>
    error('indented-stage', span, `An indented line goes on with the stage above; ${words} begins a stage at the start of a line.`, {
      label: `Begin ${words} here`,
      edits: [{ ...indentation, insert: '' }],
    }),
  tooLong: (span: Span, limit: number) =>
    error(
      'too-long',
      span,
      `A pipeline has at most ${new Intl.NumberFormat('en').format(limit)} stages. Make a view of those before this one.`,
    ),
  tooDeep: (span: Span, limit: number) => error('too-deep', span, `This is nested more than ${limit} deep. Split it with compute.`),
  chainedComparison: (span: Span) => error('chained-comparison', span, 'Comparisons do not chain. Join two of them with &&.'),
  notBeforeComparison: (span: Span, operand: Span) =>
    error('not-before-comparison', span, '! stands before a test, a call or brackets. Put the comparison in brackets.', {
      label: 'Put brackets around it',
      edits: [
        { from: operand.from, to: operand.from, insert: '(' },
        { from: operand.to, to: operand.to, insert: ')' },
      ],
    }),
  singleEquals: (span: Span) => error('single-equals', span, 'Equality is written ==.', replaceBy(span, '==')),
  singleSign: (span: Span, sign: string) => error('single-sign', span, `Expected ${sign}${sign}.`, replaceBy(span, sign + sign)),
  wordForSign: (span: Span, word: string, sign: string) =>
    error('word-for-sign', span, `“${word}” is written ${sign}.`, replaceBy(span, sign)),
  bareName: (span: Span, name: string) =>
    error(
      'bare-name',
      span,
      `“${name}” is no value. A field is written @.${name}, a text "${name}", a parameter :${name}.`,
      replaceBy(span, `@.${name}`),
    ),
  dashedName: (span: Span, name: string, mended: string) =>
    error(
      'dashed-name',
      span,
      `This reads as a subtraction, and “${name}” is no value. A name with a dash stands in brackets.`,
      replaceBy(span, mended),
    ),
  badIndex: (span: Span, text: string) =>
    error('bad-index', span, `${text} is no position: a whole number from -(2^53 - 1) to 2^53 - 1, without leading zeros.`),

  // Stages
  unknownStage: (span: Span, word: string, near: string | undefined) =>
    error('unknown-stage', span, `“${word}” begins no stage.${meant(near)}`, near === undefined ? undefined : replaceBy(span, near)),
  unindented: (span: Span, text: string) =>
    error('unindented', span, `“${text}” begins no stage. A line that goes on with the one above begins with spaces.`, {
      label: 'Put spaces in front',
      edits: [{ from: span.from, to: span.from, insert: '  ' }],
    }),
  indentedStart: (span: Span) =>
    error(
      'indented-start',
      span,
      'An indented line continues the stage above it, and there is none.',
      replaceBy(span, '', 'Remove the indentation'),
    ),
  noFrom: (span: Span) =>
    error('no-from', span, 'A pipeline begins with from and the name of a collection.', {
      label: 'Begin with from',
      edits: [{ from: 0, to: 0, insert: 'from \n' }],
    }),
  fromNotFirst: (span: Span) => error('from-not-first', span, 'from stands once, as the first stage.'),
  fromOff: (span: Span) => error('from-off', span, 'from cannot be switched off: without it there are no documents.'),
  sourceTaken: (span: Span, name: string) =>
    error('source-taken', span, `There is a collection or view ${name} already: a source of a pipeline’s own has a name of its own.`),
  unknownCollection: (span: Span, name: string, near: string | undefined) =>
    error(
      'unknown-collection',
      span,
      `There is no collection ${name}.${meant(near)}`,
      near === undefined ? undefined : replaceBy(span, near),
    ),
  pathsWanted: (span: Span, name: string) =>
    error('paths-wanted', span, `${name} takes a path to a text, or a list of such paths: [@.headline, @.text].`),
  constantWanted: (span: Span, what: string, name: string) =>
    error('constant-wanted', span, `The ${what} of ${name} are the same for all rows: a literal or a parameter, and no field.`),
  languageWanted: (span: Span, languages: readonly string[], near: string | undefined) =>
    error(
      'language-wanted',
      span,
      `A language is one of ${languages.map((one) => `"${one}"`).join(', ')}.`,
      near === undefined ? undefined : replaceBy(span, `"${near}"`),
    ),
  relevanceLost: (span: Span, written: string, why: string) =>
    error(
      'relevance-lost',
      span,
      `relevance weighs words by how rare they are in the collection of from, and ${written} ${why}. Move this line up, or ask the partner first.`,
    ),
  badNumber: (span: Span, word: string, wanted: string) => error('bad-number', span, `${word} takes ${wanted}.`),
  notAWholeNumber: (span: Span, word: string) => error('not-a-whole-number', span, `${word} takes a whole number of rows, 0 or more.`),
  notConstant: (span: Span, word: string) =>
    error('not-constant', span, `${word} takes the same number for all rows: numbers, parameters and arithmetic only.`),
  needsName: (span: Span, suggestion: string) =>
    error('needs-name', span, 'What is selected here has no name of its own. Give it one with as.', {
      label: `Add as ${suggestion}`,
      edits: [{ from: span.to, to: span.to, insert: ` as ${suggestion}` }],
    }),
  notOmitted: (span: Span) =>
    error('not-omitted', span, 'omit takes paths of names, positions and [*]; other parts of a path choose values, not fields.'),
  overwritten: (span: Span, name: string) =>
    warning('overwritten', span, `This overwrites the field ${name}, which documents have already.`),
  sameName: (span: Span, name: string) => error('same-name', span, `${name} is given twice, or once inside the other.`),
  limitBeforeOffset: (span: Span, swap: readonly Edit[]) =>
    warning('limit-before-offset', span, 'limit runs first here, so offset skips rows of what limit has kept.', {
      label: 'Put offset first',
      edits: swap,
    }),
  orderLost: (span: Span, later: string) =>
    warning('order-lost', span, `This order is lost: ${later} further down gives the rows a new one.`),

  changingKey: (span: Span, found: string) =>
    error('changing-key', span, `${found} is not the same for ever. An index takes neither parameters nor now().`),
  reservedName: (span: Span, name: string) =>
    error('reserved-name', span, `“${name}” has a meaning of its own. Give the partner another name.`),
  unknownAggregate: (span: Span, name: string, near: string | undefined) =>
    error(
      'unknown-aggregate',
      span,
      `There is no aggregate ${name}.${meant(near)}`,
      near === undefined ? undefined : replaceBy(span, near),
    ),

  brokenView: (span: Span, name: string, problem: string) => error('broken-view', span, `The view ${name} cannot be read: ${problem}.`),

  // Changes
  stepInPipeline: (span: Span, word: string) =>
    error(
      'step-in-pipeline',
      span,
      `${word} changes documents, and this pipeline only reads. Write it as a change of the collection, on the Data screen.`,
    ),
  notInChange: (span: Span, word: string) =>
    error('not-in-change', span, `${word} has no place in a change: only from and where stand before its steps.`),
  whereAfterStep: (span: Span) => error('where-after-step', span, 'In a change, conditions stand before its steps: move this line up.'),
  noStep: (span: Span) => error('no-step', span, 'A change needs a step: set, remove, append … to, take … from, replace with, or delete.'),
  stepAlone: (span: Span, word: string) =>
    error('step-alone', span, `${word} stands alone: the other steps of the change would count for nothing.`),
  notATarget: (span: Span) =>
    error(
      'not-a-target',
      span,
      'What is changed is a field or an element: a path of names and positions (and of [*], for set and remove).',
    ),
  identityChanged: (span: Span, path: string) =>
    error('identity-changed', span, `${path} is the identity, by which documents are told apart. A change leaves it as it is.`),
  newField: (span: Span, path: string) => warning('new-field', span, `No document has ${path} yet: this adds it.`),
  changesAll: (span: Span) => warning('changes-all', span, 'There is no where: this changes every document of the collection.'),

  // Expressions
  unknownFunction: (span: Span, name: string, near: string | undefined) =>
    error('unknown-function', span, `There is no function ${name}.${meant(near)}`, near === undefined ? undefined : replaceBy(span, near)),
  argumentCount: (span: Span, signature: string, found: number) =>
    error('argument-count', span, `${signature} was given ${found} argument${found === 1 ? '' : 's'}.`),
  aggregateArguments: (span: Span, aggregate: string, example: string, found: number, mended: string | undefined) =>
    error('argument-count', span, `${aggregate} was given ${found} argument${found === 1 ? '' : 's'}. It is written as in ${example}.`,
      mended === undefined ? undefined : replaceBy(span, mended)), // prettier-ignore
  nodesWanted: (span: Span, name: string) => error('nodes-wanted', span, `${name} takes a path.`),
  conditionWanted: (span: Span, found: string) =>
    error('condition-wanted', span, `A condition is wanted here, and ${found} is a value. Compare it with something.`),
  parameterAsCondition: (span: Span, name: string) =>
    error('condition-wanted', span, `A condition is wanted here, and :${name} is a value.`, {
      label: `Write :${name} == true`,
      edits: [{ from: span.to, to: span.to, insert: ' == true' }],
    }),
  badCondition: (span: Span, message: string) => error('bad-condition', span, message),
  severalCompared: (span: Span, mended: string | undefined) =>
    error('several-compared', span, 'This path can select several values, and a comparison takes one. Ask whether any of them compares.',
      mended === undefined ? undefined : replaceBy(span, mended)), // prettier-ignore
  severalAsKey: (span: Span) =>
    error('several-as-key', span, 'This path can select several values. Reduce them, as in min_of(…) or avg_of(…), or take one.'),
  conditionCompared: (span: Span, mend: Mend | undefined) =>
    error('condition-compared', span, 'A condition is true or false already and is not compared.', mend),
  badPattern: (span: Span, reason: string) => error('bad-pattern', span, `This is no I-Regexp pattern (RFC 9485): ${reason}.`),
  unboundParameter: (span: Span, name: string) => error('unbound-parameter', span, `:${name} has no value. Give it one in the parameters.`),
  existenceOfBoolean: (span: Span) =>
    warning('existence-of-boolean', span, 'This asks whether the field is there, so false is kept too.', {
      label: 'Write == true',
      edits: [{ from: span.to, to: span.to, insert: ' == true' }],
    }),
  /** @param source the collection whose documents the rows are; undefined where they are what earlier lines made of them */
  unknownField: (span: Span, path: string, source: string | undefined, near: string | undefined) =>
    warning(
      'unknown-field',
      span,
      `${source === undefined ? 'No row here' : `No document of ${source}`} has ${path}.${meant(near)}`,
      near === undefined ? undefined : replaceBy(span, near),
    ),
  droppedField: (span: Span, path: string, line: number) =>
    warning('dropped-field', span, `${path} is no longer there: line ${line} dropped it.`),
  unserved: (span: Span, reason: string) => warning('unserved-condition', span, reason),
  typeNeverFound: (span: Span, path: string, wanted: string, found: string) =>
    warning('type-never-found', span, `${path} is never ${wanted} (it is ${found}), so this never holds.`),
};
