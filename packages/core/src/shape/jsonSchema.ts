import type { JsonObject } from '../values/json.ts';
import { fieldTree, type FieldTree, type FlatField } from './fieldTree.ts';

/** Values of which there are so few, each met often, are taken to be all that there are. */
const enumLimit = 12;
const enumTimes = 20;

/** A collection's shape as a JSON Schema (draft 2020-12): what its documents are, read as what they should be. */
export function jsonSchemaOf(title: string, fields: readonly FlatField[]): JsonObject {
  return { $schema: 'https://json-schema.org/draft/2020-12/schema', title, ...objectSchema(fieldTree(fields)) };
}

function objectSchema({ fields }: FieldTree): JsonObject {
  const required = [...fields].flatMap(([name, { info }]) => (info?.presence === 1 ? [name] : []));
  const properties: JsonObject = Object.create(null) as JsonObject;
  for (const [name, field] of fields) properties[name] = schemaOf(field);
  return { type: 'object', properties: { ...properties }, ...(required.length > 0 && { required }) };
}

function schemaOf(tree: FieldTree): JsonObject {
  const { info } = tree;
  if (info === undefined) return {};
  const types = typesOf(info.types, info.whole);
  const schema: JsonObject = { type: types.length === 1 ? types[0]! : types };
  if ((info.types.object ?? 0) > 0) {
    const { properties, required } = objectSchema(withoutPresence(tree, info.types.object ?? 0));
    schema.properties = properties!;
    if (required !== undefined) schema.required = required;
  }
  if ((info.types.array ?? 0) > 0 && tree.element) schema.items = schemaOf(tree.element);
  const format = info.formats?.find(({ share }) => share === 1)?.format;
  if (format === 'date' || format === 'date-time' || format === 'uri' || format === 'email' || format === 'uuid') schema.format = format;
  const total = Object.values(info.types).reduce((a, b) => a + b, 0);
  const isFew = info.distinct?.exact === true && info.top.length === info.distinct.count && info.top.length <= enumLimit;
  if (isFew && types.length === 1 && types[0] === 'string' && info.top.length > 0 && total >= info.top.length * enumTimes)
    schema.enum = info.top.map(({ value }) => value);
  return schema;
}

/** Below an object that is not in every document, what is always in the object is required of it. */
function withoutPresence(tree: FieldTree, objects: number): FieldTree {
  const fields = new Map(
    [...tree.fields].map(([name, field]): [string, FieldTree] => {
      const met = Object.values(field.info?.types ?? {}).reduce((a, b) => a + b, 0);
      return [name, field.info ? { ...field, info: { ...field.info, presence: met >= objects ? 1 : 0 } } : field];
    }),
  );
  return { ...tree, fields };
}

function typesOf(
  types: FieldTree['info'] extends infer I ? (I extends { types: infer T } ? T : never) : never,
  whole: number | undefined,
): string[] {
  const names: Record<string, string> = { text: 'string', boolean: 'boolean', null: 'null', array: 'array', object: 'object' };
  return Object.entries(types as Record<string, number>).flatMap(([kind, n]) => {
    if (n === 0) return [];
    if (kind === 'number') return whole === n ? ['integer'] : ['number'];
    return names[kind] ?? [];
  });
}
