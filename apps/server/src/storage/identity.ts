import { fieldNames, isObject, parseValueText, readField, writeField, type Json, type JsonObject } from '@zesty-sieve/core';
import { v7 as uuidv7 } from 'uuid';
import { ServerProblem } from '../problem.ts';
import { readDocument } from '../formats/readDocument.ts';

/** A document ready to be stored. */
export interface ReadyDocument {
  readonly identity: string;
  /** The text as it came in, with the identity put in where it had none. */
  readonly text: string;
  readonly parsed: JsonObject;
}

/** Reads the identity of documents at a collection's path. */
export class IdentityReader {
  private readonly names: readonly string[];
  readonly path: string;

  /** @throws ServerProblem where the path is no chain of field names */
  constructor(path: string) {
    const read = parseValueText(path);
    const names = 'expression' in read && read.expression.kind === 'path' ? fieldNames(read.expression) : undefined;
    if (names === undefined || names.length === 0) {
      throw new ServerProblem('/request', `The identity is a path of field names such as @.id, and ${path} is none.`);
    }
    this.names = names;
    this.path = path;
  }

  /**
   * Makes a text ready to be stored.
   * @returns the document, or a clause that says why it cannot be stored
   */
  ready(text: string): ReadyDocument | { readonly problem: string } {
    const read = readDocument(text);
    if ('problem' in read) return read;
    const { parsed } = read;
    let value: Json | undefined = parsed;
    for (const name of this.names) value = readField(value, name);
    if (typeof value === 'string' || typeof value === 'number') return { identity: String(value), text, parsed };
    if (value !== undefined) return { problem: `its identity ${this.path} is no text or number` };
    return this.given(text, parsed);
  }

  /** Gives a document without an identity a UUID of version 7 (RFC 9562). */
  private given(text: string, parsed: JsonObject): ReadyDocument | { readonly problem: string } {
    const identity = uuidv7();
    let at = parsed;
    for (const name of this.names.slice(0, -1)) {
      const below = readField(at, name);
      if (below !== undefined && !isObject(below))
        return { problem: `there is no place for its identity: ${this.path} leads through a value that is no object` };
      const next: JsonObject = below ?? {};
      if (below === undefined) writeField(at, name, next);
      at = next;
    }
    const name = this.names[this.names.length - 1]!;
    writeField(at, name, identity);
    if (this.names.length > 1) return { identity, text: JSON.stringify(parsed), parsed };
    // The rest of the text stays as it came in.
    const rest = text.slice(text.indexOf('{') + 1);
    const comma = rest.trimStart().startsWith('}') ? '' : ',';
    return { identity, text: `{${JSON.stringify(name)}:${JSON.stringify(identity)}${comma}${rest}`, parsed };
  }
}
