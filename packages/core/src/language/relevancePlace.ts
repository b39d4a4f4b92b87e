import { definitionOf } from './stages/registry.ts';
import type { Stage } from './stages/stage.ts';
import { leading, overlap } from './stages/traits.ts';
import { fieldNames, walk, type Call, type Expression, type PathExpression } from './tree.ts';

/** A path of relevance that does not lead to a field of the collection any more. */
export interface LostPath {
  readonly path: PathExpression;
  /** The place of the stage that made it so; undefined where it is a partner's from the beginning. */
  readonly madeBy: number | undefined;
}

/** The relevance calls in expressions. */
export function relevanceCalls(expressions: readonly Expression[]): readonly Call[] {
  const found: Call[] = [];
  for (const expression of expressions)
    walk(expression, (node) => void (node.kind === 'call' && node.name === 'relevance' && found.push(node)));
  return found;
}

/** The paths of a call's first argument. */
export function pathsOf({ arguments: [first] }: Call): readonly PathExpression[] {
  const given = first?.kind === 'array' ? first.items : first === undefined ? [] : [first];
  return given.filter((one): one is PathExpression => one.kind === 'path');
}

/** The first path of relevance, in stage `at`, at which rows do not hold what the collection of `from` has there. */
export function lostPath(stages: readonly Stage[], at: number): LostPath | undefined {
  const calls = relevanceCalls(definitionOf(stages[at]!.kind).expressions(stages[at]!));
  for (const path of calls.flatMap(pathsOf)) {
    if (path.root.kind === 'partner') return { path, madeBy: undefined };
    const names = leading(path);
    for (let before = 1; before < at; before++) if (changes(stages[before]!, names)) return { path, madeBy: before };
  }
  return undefined;
}

/** Whether a field is another one after a stage than it was before, or gone. */
function changes(stage: Stage, names: readonly string[]): boolean {
  const { traits } = definitionOf(stage.kind);
  if (traits.gives(stage) === 'new') return true;
  const kept = traits.keepsOnly(stage);
  if (kept !== undefined)
    return !kept.some(({ expression, target }) => {
      const own = expression.kind === 'path' && expression.root.kind !== 'partner' ? fieldNames(expression) : undefined;
      return own?.join('\n') === target.join('\n') && own.every((name, i) => name === names[i]) && own.length <= names.length;
    });
  const written = traits.writes(stage);
  return written === 'any' || written.some((chain) => overlap(chain, names));
}
