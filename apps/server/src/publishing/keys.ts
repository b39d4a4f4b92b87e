import { createHash, randomBytes, timingSafeEqual } from 'node:crypto';
import type { StoredKey } from '../storage/rooms/publications.ts';

/** Makes a key: what is told once, and what is kept of it. A secret of 256 random bits needs no slow hash; the salt keeps equal ones apart. */
export function makeKey(publication: string, name: string): { readonly key: string; readonly stored: StoredKey } {
  const id = randomBytes(9).toString('base64url');
  const secret = randomBytes(32).toString('base64url');
  const salt = randomBytes(16).toString('base64url');
  const stored = { id, publication, name, salt, hash: hashOf(salt, secret), createdAt: new Date().toISOString(), lastUsedAt: null };
  return { key: `${id}.${secret}`, stored };
}

const hashOf = (salt: string, secret: string): string => createHash('sha256').update(`${salt}:${secret}`).digest('base64url');
/** Compared with where there is no such key, so that the time tells nothing of which there are. */
const nobody = { salt: 'nobody', hash: hashOf('nobody', randomBytes(32).toString('base64url')) };

/** The key that a bearer token is (RFC 6750); undefined where it is none of them. Compared in constant time. */
export function keyFor(authorization: string | undefined, keys: readonly StoredKey[]): StoredKey | undefined {
  const [, id = '', secret = ''] = /^Bearer +([\w-]+)\.([\w-]+)$/i.exec(authorization ?? '') ?? [];
  const key = keys.find((one) => one.id === id);
  const { salt, hash } = key ?? nobody;
  const isRight = timingSafeEqual(Buffer.from(hashOf(salt, secret)), Buffer.from(hash));
  return isRight ? key : undefined;
}
