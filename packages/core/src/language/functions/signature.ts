/**
 * What may stand as an argument: a value; a path's nodes; a path or a list of paths, each to a text or to texts; a value that is the
 * same for all rows; the name of a language; a condition; an I-Regexp pattern; or an expression or condition that is evaluated once for
 * each element, with `@` the element.
 */
export type ArgumentKind = 'value' | 'nodes' | 'paths' | 'constant' | 'language' | 'condition' | 'pattern' | 'each' | 'test';

/** Which values an argument can use. `unit` is a unit of time, `place` a GeoJSON Point or `[lon, lat]`. */
export type ArgumentType = 'any' | 'number' | 'text' | 'array' | 'date' | 'unit' | 'place';

export interface ParameterSignature {
  readonly name: string;
  readonly kind: ArgumentKind;
  readonly type: ArgumentType;
  readonly optional?: true;
  /** Stands for any number of further arguments; last only. */
  readonly rest?: true;
}

export interface FunctionSignature {
  readonly group: 'standard' | 'text' | 'arrays' | 'numbers' | 'dates' | 'choice and type' | 'place' | 'words and vectors';
  readonly parameters: readonly ParameterSignature[];
  /** A condition gives true or false and stands where conditions stand. */
  readonly result: 'value' | 'condition';
  /** The type of the value given, where it is always the same. */
  readonly gives?: 'number' | 'text' | 'array' | 'boolean';
  readonly doc: string;
  readonly example: string;
}

type Group = FunctionSignature['group'];

/** `name`, `name?`, `name…` of a type; the kind is `value` unless said. */
function parameter(text: string): ParameterSignature {
  const [name = '', type = 'any'] = text.split(':');
  const plain = name.replace(/[?…]$/, '');
  const kinds: readonly string[] = ['nodes', 'paths', 'constant', 'language', 'condition', 'pattern', 'each', 'test'];
  const kind = kinds.includes(type) ? (type as ArgumentKind) : 'value';
  return {
    name: plain,
    kind,
    type: kind === 'pattern' ? 'text' : kind === 'value' ? (type as ArgumentType) : 'any',
    ...(name.endsWith('?') && { optional: true as const }),
    ...(name.endsWith('…') && { rest: true as const }),
  };
}

/** Makes the entries of one group: parameters are written `name:type`, `name?:type`, `name…:type`. */
export function inGroup(group: Group) {
  return (
    parameters: string,
    gives: FunctionSignature['gives'] | 'condition' | 'any',
    doc: string,
    example: string,
  ): FunctionSignature => ({
    group,
    parameters: parameters === '' ? [] : parameters.split(' ').map(parameter),
    result: gives === 'condition' ? 'condition' : 'value',
    ...(gives !== 'condition' && gives !== 'any' && { gives }),
    doc,
    example,
  });
}

/** A signature as it is shown: `round(x, digits?)`. */
export function signatureText(name: string, signature: FunctionSignature): string {
  const shown = signature.parameters.map((p) => p.name + (p.optional ? '?' : p.rest ? ', …' : ''));
  return `${name}(${shown.join(', ')})`;
}
