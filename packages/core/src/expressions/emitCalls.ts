import { signatureOf, type FunctionName } from '../language/functions/signatures.ts';
import type { ArgumentType } from '../language/functions/signature.ts';
import type { Call, Expression, PathExpression } from '../language/tree.ts';
import { isSingle } from '../language/tree.ts';
import type { Value } from '../values/json.ts';
import type { Atom, Emitter, Variables } from './emitter.ts';
import { noteOf, siteOf } from './sites.ts';
import { emitEach, emitExistence, emitPathValue, loopOver } from './emitPaths.ts';
import { matcherOf } from './meanings/patterns.ts';
import { wordCalls } from './emitWords.ts';
import { meanings, specialNames, type SpecialName } from './meanings/table.ts';

/** Emits a call: a condition's atom is true or false, a value's may be *nothing*. */
export function emitCall(emitter: Emitter, call: Call, variables: Variables): Atom {
  if ((specialNames as readonly string[]).includes(call.name)) return specials[call.name as SpecialName](emitter, call, variables);
  const signature = signatureOf(call.name);
  if (signature === undefined) return 'undefined';
  const meaning = emitter.constant(meanings[call.name as Exclude<FunctionName, SpecialName>]);
  const site = emitter.constant(siteOf(call, call.arguments));
  const isTest = signature.result === 'condition';
  const result = emitter.variable(isTest ? 'false' : 'undefined');
  const atoms = call.arguments.map((argument) => emitter.value(argument, variables));
  const { parameters } = signature;
  let guards = '';
  atoms.forEach((atom, i) => {
    const wanted = typeTest(parameters[Math.min(i, parameters.length - 1)]!.type, atom);
    if (wanted === undefined) return;
    // A test of a missing field is plainly false; only a value of a wrong type is worth telling.
    const note = isTest ? `(${atom} === undefined || ${noteOf(site, i, atom)})` : noteOf(site, i, atom);
    guards += `if (!(${wanted})) ${note}; else `;
  });
  const padding = parameters
    .slice(atoms.length)
    .filter((p) => !p.rest)
    .map(() => 'undefined');
  emitter.line(`${guards}${result} = ${meaning}(${[...atoms, ...padding, 'context'].join(', ')});`);
  if (!isTest && atoms.length > 0 && call.name !== 'length') {
    const failed = parameters.some(({ type }) => type === 'date' || type === 'unit' || type === 'place');
    if (failed) {
      const position = parameters.findIndex(({ type }) => type === 'date' || type === 'place');
      emitter.line(`if (${result} === undefined) ${noteOf(site, position, atoms[position]!)};`);
    }
  }
  return result;
}

/** The JavaScript test of what an argument can use; none for what the meaning itself looks at. */
function typeTest(type: ArgumentType, atom: Atom): string | undefined {
  switch (type) {
    case 'number':
      return `typeof ${atom} === 'number'`;
    case 'text':
      return `typeof ${atom} === 'string'`;
    case 'array':
      return `Array.isArray(${atom})`;
    default:
      return undefined;
  }
}

export type EmitSpecial = (emitter: Emitter, call: Call, variables: Variables) => Atom;

const specials: Record<SpecialName, EmitSpecial> = {
  ...wordCalls,
  count: (emitter, call, variables) => {
    const count = emitter.variable('0');
    emitEach(emitter, pathArgument(call), variables, () => emitter.line(`${count}++;`));
    return count;
  },
  value: (emitter, call, variables) => {
    const path = pathArgument(call);
    if (isSingle(path)) return emitPathValue(emitter, path, variables);
    const values = emitPathValue(emitter, path, variables);
    return emitter.variable(`${values}.length === 1 ? ${values}[0] : undefined`);
  },
  exists: (emitter, call, variables) => emitter.variable(emitExistence(emitter, pathArgument(call), variables)),
  match: patternTest('whole'),
  search: patternTest('part'),
  each: (emitter, call, variables) => {
    const result = emitter.variable('undefined');
    overElements(
      emitter,
      call,
      variables,
      () => emitter.line(`${result} = [];`),
      (element) => {
        const value = emitter.value(call.arguments[1]!, { ...variables, current: element });
        emitter.line(`if (${value} !== undefined) ${result}.push(${value});`);
      },
    );
    return result;
  },
  any: (emitter, call, variables) => quantified(emitter, call, variables, false),
  every: (emitter, call, variables) => quantified(emitter, call, variables, true),
  if: (emitter, call, variables) => {
    const [condition, then, otherwise] = call.arguments as [Expression, Expression, Expression];
    const result = emitter.variable('undefined');
    const branch = (expression: Expression) => () => {
      const value = emitter.value(expression, variables);
      emitter.line(`${result} = ${value};`);
    };
    emitter.block(`if (${emitter.condition(condition, variables)})`, branch(then));
    emitter.block('else', branch(otherwise));
    return result;
  },
  or_null: (emitter, call, variables) => {
    const atom = emitter.value(call.arguments[0]!, variables);
    return emitter.variable(`${atom} === undefined ? null : ${atom}`);
  },
  coalesce: (emitter, call, variables) => {
    const result = emitter.variable('undefined');
    const label = emitter.fresh();
    emitter.block(`${label}:`, () => {
      for (const argument of call.arguments) {
        emitter.line(`${result} = ${emitter.value(argument, variables)};`);
        emitter.line(`if (${result} != null) break ${label};`);
      }
    });
    // Where all are null or missing there is no first value.
    emitter.line(`if (${result} === null) ${result} = undefined;`);
    return result;
  },
};

function pathArgument(call: Call): PathExpression {
  const [path] = call.arguments;
  if (path?.kind !== 'path') throw new Error(`${call.name} reached the compiler without its path`);
  return path;
}

function patternTest(extent: 'whole' | 'part'): EmitSpecial {
  return (emitter, call, variables) => {
    const [subject, pattern] = call.arguments as [Expression, Expression];
    const text = emitter.value(subject, variables);
    if (pattern.kind === 'literal' && typeof pattern.value === 'string') {
      return emitter.variable(`typeof ${text} === 'string' && ${emitter.constant(matcherOf(pattern.value, extent))}(${text})`);
    }
    const source = emitter.value(pattern, variables);
    return emitter.variable(`${emitter.constant(matches)}(${text}, ${source}, ${emitter.constant(extent)})`);
  };
}

function matches(text: Value, pattern: Value, extent: 'whole' | 'part'): boolean {
  return typeof text === 'string' && typeof pattern === 'string' && matcherOf(pattern, extent)(text);
}

function overElements(emitter: Emitter, call: Call, variables: Variables, begin: () => void, body: (element: Atom) => void): void {
  const array = emitter.value(call.arguments[0]!, variables);
  const site = emitter.constant(siteOf(call, call.arguments));
  emitter.block(`if (Array.isArray(${array}))`, () => {
    begin();
    loopOver(emitter, array, body);
  });
  emitter.line(`else if (${array} !== undefined) ${noteOf(site, 0, array)};`);
}

/** `any` is false until an element fits, `every` true until one does not; of no array, both are false. */
function quantified(emitter: Emitter, call: Call, variables: Variables, all: boolean): Atom {
  const result = emitter.variable('false');
  const label = emitter.fresh();
  const begin = () => emitter.line(`${result} = ${all};`);
  emitter.block(`${label}:`, () => {
    overElements(emitter, call, variables, begin, (element) => {
      const holds = emitter.condition(call.arguments[1]!, { ...variables, current: element });
      emitter.line(`if (${all ? `!(${holds})` : holds}) { ${result} = ${!all}; break ${label}; }`);
    });
  });
  return result;
}
