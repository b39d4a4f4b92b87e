import { completeSql, fieldTree, usualSurface, type Environment, type FieldTree, type FlatField } from '@zesty-sieve/core/language';
import { readStatement } from './question.ts';
import type { Server } from './server.ts';

/** Completes names from what the server has; what fields documents have is asked when a name is first used. */
export class Completing {
  private readonly server: Server;
  private readonly shapes = new Map<string, FieldTree>();
  private names: readonly string[] | undefined;

  constructor(server: Server) {
    this.server = server;
  }

  /** What the last word of a line may become; `before` are the lines above it. */
  async complete(before: string, line: string): Promise<[string[], string]> {
    try {
      const text = before + line;
      const environment = await this.known(text);
      const statement = readStatement(text);
      const isNotation = statement.kind === 'question' && 'pipeline' in statement.question;
      const found = isNotation ? usualSurface.complete(text, text.length, environment) : completeSql(text, text.length, environment);
      if (found === undefined) return [[], line];
      const typed = text.slice(found.from);
      const fitting = found.options.map(({ insert, label }) => insert ?? label).filter((one) => one.toLowerCase().startsWith(typed.toLowerCase())); // prettier-ignore
      return [fitting, typed];
    } catch {
      // Without a server there is nothing to complete from, and the next question tells that.
      return [[], line];
    }
  }

  private async known(text: string): Promise<Environment> {
    this.names ??= await this.server.names();
    for (const name of this.names) {
      if (this.shapes.has(name) || !new RegExp(`\\b${name}\\b`).test(text)) continue;
      const fields = await this.server.shape(name).then((shape) => shape.fields, () => []); // prettier-ignore
      this.shapes.set(name, fieldTree(fields.map(({ steps, ...info }) => ({ steps, info }) as FlatField)));
    }
    return { collections: this.names, shapeOf: (name) => this.shapes.get(name) };
  }
}
