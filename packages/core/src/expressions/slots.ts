import { copyOf, internalized } from '../values/fields.ts';
import type { Json, JsonObject } from '../values/json.ts';
import type { Atom, Emitter, RowOrigin } from './emitter.ts';

/** A field that was written over a row: the atom is `undefined` at run time where the field is taken away. */
export interface Write {
  readonly name: string;
  readonly value: Atom;
}

/**
 * A row on its way through a loop: the object that it came as, if it came as one, and what was written over it since. Its fields are read
 * where they are, and no object is made of it before one is wanted. Names are plain ones, so that they are read and written without asking.
 */
export class Slots implements RowOrigin {
  private readonly base: Atom | undefined;
  /** The fields of `base` that are still there; all of them where it is not said. */
  private readonly kept: readonly string[] | undefined;
  private readonly writes: readonly Write[];

  private constructor(base: Atom | undefined, kept: readonly string[] | undefined, writes: readonly Write[]) {
    this.base = base;
    this.kept = kept;
    this.writes = writes;
  }

  /** @param row an atom whose name begins with `row`, by which emitters know that it is never null */
  static of(row: Atom): Slots {
    return new Slots(row, undefined, []);
  }

  /** A row of these fields alone; each name once. */
  static made(fields: readonly Write[]): Slots {
    return new Slots(undefined, undefined, fields);
  }

  with(name: string, value: Atom): Slots {
    return new Slots(this.base, this.kept, [...this.writes, { name, value }]);
  }

  /** The row with no fields but these, for lines that look at no others. */
  only(names: readonly string[]): Slots {
    const kept = this.kept?.filter((name) => names.includes(name)) ?? names;
    return new Slots(
      this.base,
      kept,
      this.writes.filter(({ name }) => names.includes(name)),
    );
  }

  /** Where a field is: an atom that holds it, or the object that it is read from; undefined where it is known to be missing. */
  find(name: string): { readonly held: Atom } | { readonly in: Atom } | undefined {
    const written = this.writes.findLast((write) => write.name === name);
    if (written !== undefined) return { held: written.value };
    return this.base === undefined || this.kept?.includes(name) === false ? undefined : { in: this.base };
  }

  /** The same row with all its fields in slots, where it is known which it has; each is read once. */
  listed(emitter: Emitter): Slots {
    const { base, kept, writes } = this;
    if (base === undefined) return this;
    return kept === undefined ? this : Slots.made([...readKept(emitter, base, kept, writes), ...writes]);
  }

  /** The fields that it may have, in slots; undefined where it has others too. */
  get fields(): readonly Write[] | undefined {
    const names = new Set(this.writes.map(({ name }) => name));
    return this.base === undefined && names.size === this.writes.length ? this.writes : undefined;
  }

  /** Whether it is an object that came from elsewhere, as it was. */
  get isUnchanged(): boolean {
    return this.base !== undefined && this.kept === undefined && this.writes.length === 0;
  }

  /** The row as an object: the one that it came as, where nothing was written over it. */
  object(emitter: Emitter): Atom {
    if (this.base !== undefined && this.isUnchanged) return this.base;
    const { base, writes, fields } = this.listed(emitter);
    const row = emitter.row();
    if (fields !== undefined) makeAtOnce(emitter, row, fields);
    else {
      emitter.line(base === undefined ? `const ${row} = {};` : `const ${row} = ${emitter.constant(copied)}(${base});`);
      for (const write of writes) overwrite(emitter, row, write);
    }
    return row;
  }
}

function readKept(emitter: Emitter, base: Atom, kept: readonly string[], writes: readonly Write[]): Write[] {
  return kept
    .filter((name) => writes.every((write) => write.name !== name))
    .map((name) => ({ name, value: emitter.variable(`${base}[${emitter.constant(internalized(name))}]`) }));
}

const fewFields = 6;

/** One literal where no field is missing, as nearly always: V8 makes it many times faster than an object that grows. */
function makeAtOnce(emitter: Emitter, row: Atom, fields: readonly Write[]): void {
  const key = ({ name }: Write): Atom => emitter.constant(internalized(name));
  emitter.line(`let ${row};`);
  const there = (some: readonly Write[]): string => some.map(({ value }) => `${value} !== undefined`).join(' && ') || 'true';
  const literal = (some: readonly Write[]): string => `{${some.map((field) => `[${key(field)}]: ${field.value}`).join(', ')}}`;
  emitter.line(`if (${there(fields)}) ${row} = ${literal(fields)};`);
  // And where one field is missing, if there are few of them.
  if (fields.length <= fewFields) {
    for (const one of fields) {
      const others = fields.filter((other) => other !== one);
      emitter.line(`else if (${there(others)}) ${row} = ${literal(others)};`);
    }
  }
  emitter.block('else', () => {
    emitter.line(`${row} = {};`);
    for (const field of fields) emitter.line(`if (${field.value} !== undefined) ${row}[${key(field)}] = ${field.value};`);
  });
}

function overwrite(emitter: Emitter, row: Atom, { name, value }: Write): void {
  const key = emitter.constant(internalized(name));
  emitter.line(`if (${value} !== undefined) ${row}[${key}] = ${value}; else if (${row}[${key}] !== undefined) delete ${row}[${key}];`);
}

function copied(row: Json): Json {
  return copyOf(row as JsonObject);
}
