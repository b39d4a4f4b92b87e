import { valueAt } from '../../../parts/documents/columns.ts';

/** A pipeline that reads some documents by their identities. @param identity the path, such as `@.id` */
export function asking(collection: string, identity: string, documents: readonly unknown[]): string {
  const names = identity.replace(/^@\./, '').split('.');
  const values = documents.map((document) => JSON.stringify(valueAt(document, names)));
  return `from ${collection}\nwhere ${identity} in [${values.join(', ')}]`;
}
