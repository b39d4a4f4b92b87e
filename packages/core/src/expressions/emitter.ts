import type { Expression } from '../language/tree.ts';

/** A JavaScript expression without effects that may stand more than once: a variable or a constant. */
export type Atom = string;

/** A row that is no object yet: where its fields are, and what makes an object of it. */
export interface RowOrigin {
  find(name: string): { readonly held: Atom } | { readonly in: Atom } | undefined;
  object(emitter: Emitter): Atom;
}

/** What a path begins at: a variable, or a row that is no object yet. */
export type Origin = Atom | RowOrigin;

/** The variables that hold what a path may begin at. */
export interface Variables {
  readonly current: Origin;
  readonly whole: Origin;
  readonly partners: ReadonlyMap<string, Atom>;
}

/** How an expression is emitted, as its value or as a condition. */
export interface EmitExpression {
  readonly value: (emitter: Emitter, expression: Expression, variables: Variables) => Atom;
  readonly condition: (emitter: Emitter, expression: Expression, variables: Variables) => Atom;
}

/** Collects the statements and the data of one generated function. */
export class Emitter {
  private readonly emit: EmitExpression;
  readonly data: unknown[] = [];
  private readonly prologue: string[] = [];
  private lines: string[] = [];
  private temporaries = 0;
  private readonly constants = new Map<unknown, Atom>();

  constructor(emit: EmitExpression) {
    this.emit = emit;
  }

  /** Emits an expression that stands inside another. */
  value(expression: Expression, variables: Variables): Atom {
    return this.emit.value(this, expression, variables);
  }
  condition(expression: Expression, variables: Variables): Atom {
    return this.emit.condition(this, expression, variables);
  }

  /** A value that the generated code reads from its data, never as text. */
  constant(value: unknown): Atom {
    const known = this.constants.get(value);
    if (known !== undefined && !Object.is(value, 0) && !Object.is(value, -0)) return known;
    const atom = `k${this.data.push(value) - 1}`;
    this.constants.set(value, atom);
    return atom;
  }

  fresh(): Atom {
    return `t${this.temporaries++}`;
  }

  /** The name of a new row: those that begin so are never null. */
  row(): Atom {
    return `row${this.temporaries++}`;
  }

  /** A variable whose value has fields or is a text, a number, true or false: those that begin so are never null. */
  own(expression: string): Atom {
    const name = `own${this.temporaries++}`;
    this.line(`let ${name} = ${expression};`);
    return name;
  }

  line(text: string): void {
    this.lines.push(text);
  }

  /** A new variable holding the value of a JavaScript expression. */
  variable(expression: string): Atom {
    const name = this.fresh();
    this.line(`let ${name} = ${expression};`);
    return name;
  }

  /** A variable made once for each call of the function, before its loops. */
  hoisted(expression: string): Atom {
    const name = this.fresh();
    this.prologue.push(`const ${name} = ${expression};`);
    return name;
  }

  /** A variable that is declared before the loops of the function and lives through them. */
  lasting(initial: string): Atom {
    const name = this.fresh();
    this.prologue.push(`let ${name} = ${initial};`);
    return name;
  }

  /** A statement with a block whose body is emitted by `body`. */
  block(head: string, body: () => void): void {
    this.line(`${head} {`);
    body();
    this.line('}');
  }

  get body(): string {
    return [...this.prologue, ...this.lines].join('\n');
  }
}
