import {
  fieldTree,
  identityNames,
  KeptTranslations,
  outlineSql,
  printSql,
  sqlName,
  usualSurface,
  withViewShapes,
  type Diagnostic,
  type EngineProblem,
  type FieldTree,
  type Json,
  type Known,
  type PlanNode,
  type QueryRequest,
  type SqlDialect,
  type SqlTranslation,
  type View,
} from '@zesty-sieve/core';
import { fieldOf } from '../../told/fieldOf.ts';
import { tableOf } from '../../told/tableOf.ts';
import { reply, ServerProblem, type Reply } from '../../problem.ts';
import type { StoredCollection } from '../../storage/stored.ts';
import { valueOf, type JsonText } from '../answers.ts';
import { pause, type EngineRoom } from '../engineRoom.ts';
import { recorded, runRecorded, viewsRead, type Recorded } from './asking.ts';

/** What a text of SQL may read: the collections behind its tables, the names that there are, and the views. */
export interface SqlAround {
  readonly sources: readonly StoredCollection[];
  readonly names: readonly string[];
  readonly views: readonly (readonly [string, View])[];
}
export type SqlQueryRequest = Omit<QueryRequest, 'pipeline' | 'surface'> & { readonly sql: string };

/** Questions in SQL: answered through the pipelines that they become, or translated alone. */
export function askingSql(room: EngineRoom) {
  const translations = new KeptTranslations();
  const known = async ({ sources, names, views }: SqlAround, needsShapes: boolean): Promise<Known> => {
    const shapes = new Map<string, FieldTree>();
    if (needsShapes)
      for (const stored of sources) shapes.set(stored.name, fieldTree(await (await room.residency.ensure(stored)).shape(pause)));
    const identities = new Map(sources.map(({ name, identity }) => [name, identityNames(identity)]));
    return {
      collections: names,
      shapeOf: withViewShapes((name) => shapes.get(name), new Map(views)),
      identityOf: (name) => identities.get(name),
    };
  };

  const translated = async (around: SqlAround, sql: string, given: object): Promise<SqlTranslation & { readonly pipeline: string }> => {
    const translation = translations.translate(sql, await known(around, outlineSql(sql).needsShapes));
    const { pipeline, diagnostics, parameters } = translation;
    if (pipeline === undefined) throw faulty(diagnostics.filter(({ severity }) => severity === 'error'));
    const unbound = parameters.filter(({ name }) => !Object.hasOwn(given, name));
    if (unbound.length > 0) throw faulty(unbound.map((one) => unboundAt(sql, one)));
    return { ...translation, pipeline };
  };

  return {
    translateSql(around: SqlAround, sql: string): Promise<Reply<JsonText>> {
      return reply(async () => {
        const { pipeline, clauses, parameters, diagnostics } = translations.translate(sql, await known(around, true));
        return JSON.stringify({ pipeline: pipeline ?? null, clauses, parameters: parameters.map(({ name }) => name), diagnostics });
      });
    },

    /** A pipeline as SQL, as JSON text. */
    printSql(pipeline: string, dialect: SqlDialect, rows: 'columns' | 'json'): Promise<Reply<JsonText>> {
      return reply(() => {
        const { sql, notes } = printSql(usualSurface.parse(pipeline), dialect, rows);
        return JSON.stringify({ sql: sql ?? null, notes });
      });
    },

    /** Answers a question in SQL; a run of it is to be kept with its text. */
    sql(around: SqlAround, { sql, ...request }: SqlQueryRequest, cancel: SharedArrayBuffer): Promise<Recorded> {
      return recorded(async (keep, readOf) => {
        const { pipeline, clauses, diagnostics, statement } = await translated(around, sql, request.parameters ?? {});
        await room.ready(around.sources, around.names, pipeline, cancel);
        if (statement?.kind === 'explain') {
          const { plan } = valueOf(room.engine.plan({ ...request, pipeline }));
          const documents = stepsOf(plan);
          return JSON.stringify({ ...tableOf(documents), plan, pipeline, clauses, diagnostics });
        }
        const answer = await runRecorded(room, around.sources, { ...request, pipeline }, cancel, (run) => keep({ ...run, sql }));
        if (answer.ok) readOf(viewsRead(answer.value, around.sources));
        if (!answer.ok) throw inSql(answer.problem, () => valueOf(answer), sql, clauses);
        return JSON.stringify({ ...answer.value.toJSON(), pipeline, clauses, diagnostics });
      });
    },

    /** The columns of a table, nested ones by their paths. */
    describeTable(around: SqlAround, name: string): Promise<Reply<JsonText>> {
      return reply(async () => {
        const stored = around.sources.find((one) => one.name === name);
        const { shapeOf } = await known(around, true);
        const rows = stored === undefined ? describedTree(shapeOf?.(name)) : describedFields(await (await room.residency.ensure(stored)).shape(pause)); // prettier-ignore
        return JSON.stringify({ ...tableOf(rows), plan: null, pipeline: null, clauses: [], diagnostics: [] });
      });
    },
  };
}

function faulty(diagnostics: readonly Diagnostic[]): ServerProblem {
  const [first, ...more] = diagnostics;
  const rest = more.length === 0 ? '' : ` There ${more.length === 1 ? 'is 1 more' : `are ${more.length} more`}.`;
  return new ServerProblem('/sql', first === undefined ? 'The SQL cannot be run.' : `Line ${first.line}: ${first.message}${rest}`, {
    diagnostics,
  });
}

function unboundAt(sql: string, { name, from, to }: { readonly name: string; readonly from: number; readonly to: number }): Diagnostic {
  const line = sql.slice(0, from).split('\n').length;
  return { severity: 'error', code: 'unbound-parameter', message: `The parameter :${name} has no value.`, line, from, to };
}

/** A problem of a run with its places in the SQL: those of the pipeline are known to nobody who asked in SQL. */
function inSql(problem: EngineProblem, told: () => unknown, sql: string, clauses: SqlTranslation['clauses']): ServerProblem {
  if (problem.kind === 'pipeline')
    return faulty(
      problem.diagnostics.map((diagnostic) => {
        const { from, to } = clauses.find(({ lines }) => lines.includes(diagnostic.line)) ?? { from: 0, to: sql.length };
        return { ...diagnostic, from, to, line: sql.slice(0, from).split('\n').length, mend: undefined };
      }),
    );
  try {
    told();
  } catch (error) {
    if (error instanceof ServerProblem) Object.assign(error.problem, { clauses });
    return error as ServerProblem;
  }
  return new ServerProblem('/internal', 'An answer was taken for a problem.');
}

function describedFields(fields: Parameters<typeof fieldTree>[0]): Json[] {
  return fields.map((field) => {
    const { types, presence, example } = fieldOf(field);
    return {
      path: columnOf(field.steps),
      types: Object.keys(types).join(', '),
      presence: Number(presence.toFixed(4)),
      example: example ?? null,
    };
  });
}

function describedTree(tree: FieldTree | undefined, above = ''): Json[] {
  return [...(tree?.fields ?? [])].flatMap(([name, below]) => {
    const path = above === '' ? sqlName(name) : `${above}.${sqlName(name)}`;
    const { types = {}, presence, example } = below.info ?? {};
    return [
      { path, types: Object.keys(types).join(', '), presence: presence ?? null, example: example ?? null },
      ...describedTree(below, path),
    ];
  });
}

/** A path as it is written in SQL, with `[*]` for the elements of an array. */
const columnOf = (steps: Parameters<typeof fieldTree>[0][number]['steps']): string =>
  steps.reduce((path, step) => ('field' in step ? `${path === '' ? '' : `${path}.`}${sqlName(step.field)}` : `${path}[*]`), '');

function stepsOf({ step, detail, lines, estimatedRows, inputs }: PlanNode): Json[] {
  return [...inputs.flatMap(stepsOf), { step, detail, lines: [...lines], estimatedRows }];
}
