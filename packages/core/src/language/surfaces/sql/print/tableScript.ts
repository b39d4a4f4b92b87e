import { fieldNames } from '../../../tree.ts';
import { parseOrderKeyText } from '../../notation/orderKeys.ts';
import { sqlName } from '../words.ts';
import { jsonPath } from './sqlitePlaces.ts';
import { quoted, Unsaid } from './writer.ts';

/** Engines for which a collection is written as a script. */
export type ScriptDialect = 'sqlite' | 'postgresql';

interface ScriptIndex {
  readonly name: string;
  /** As in `order by`. */
  readonly keys: readonly string[];
  readonly unique: boolean;
  /** Where it is of another kind than the ordered one, which no expression index is like. */
  readonly kind?: string | undefined;
}

/** A collection as a script: its table `name(id, body)`, its rows, and its indexes on expressions. */
export interface TableScript {
  readonly before: string;
  /** One statement for some documents, each with its identity and its text. */
  readonly rows: (documents: readonly { readonly identity: string; readonly body: string }[]) => string;
  readonly after: string;
}

export function tableScript(name: string, indexes: readonly ScriptIndex[], dialect: ScriptDialect): TableScript {
  const table = sqlName(name);
  const body = dialect === 'sqlite' ? 'TEXT' : 'jsonb';
  return {
    before: `-- ${name}: a document a row, with its identity\nBEGIN;\nCREATE TABLE ${table} (id text PRIMARY KEY, body ${body} NOT NULL);\n`,
    rows: (documents) =>
      documents.length === 0
        ? ''
        : `INSERT INTO ${table} (id, body) VALUES\n${documents.map((one) => `(${quoted(one.identity)}, ${quoted(one.body)})`).join(',\n')};\n`,
    after: `${indexes.map((index) => `${indexText(table, index, dialect)}\n`).join('')}COMMIT;\n`,
  };
}

/** An index on expressions; one on elements, or on a function, is a remark alone. */
function indexText(table: string, { name, keys, unique, kind = 'ordered' }: ScriptIndex, dialect: ScriptDialect): string {
  try {
    if (kind !== 'ordered') throw new Unsaid(`it is a ${kind} index`);
    const written = keys.map((key) => keyText(key, dialect));
    return `CREATE ${unique ? 'UNIQUE ' : ''}INDEX ${sqlName(name)} ON ${table} (${written.join(', ')});`;
  } catch (error) {
    if (!(error instanceof Unsaid)) throw error;
    return `-- The index ${name} on ${keys.join(', ').replace(/[\r\n]+/g, ' ')} is not written: ${error.message}.`;
  }
}

function keyText(key: string, dialect: ScriptDialect): string {
  const read = parseOrderKeyText(key);
  const expression = 'key' in read ? read.key.expression : undefined;
  const names = expression?.kind === 'path' ? fieldNames(expression) : undefined;
  if (names === undefined || names.length === 0 || 'finding' in read) throw new Unsaid('it is not on fields alone');
  const direction = read.key.direction === 'desc' ? ' DESC' : '';
  if (dialect === 'sqlite') return `body ->> ${jsonPath(names)}${direction}`;
  return `(body #> ${quoted(`{${names.map((one) => JSON.stringify(one)).join(',')}}`)})${direction}`;
}
