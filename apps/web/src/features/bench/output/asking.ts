import { identityReader } from '../../../parts/documents/identity.ts';

/** A pipeline that reads some documents by their identities. @param identity the path, such as `@.id` */
export function asking(collection: string, identity: string, documents: readonly unknown[]): string {
  const identityOf = identityReader(identity);
  const values = documents.map((document) => JSON.stringify(identityOf(document)));
  return `from ${collection}\nwhere ${identity} in [${values.join(', ')}]`;
}
