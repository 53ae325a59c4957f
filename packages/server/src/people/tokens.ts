import { createHash, randomBytes } from 'node:crypto';

/** A secret that cannot be guessed, and what is kept of it. 256 bits for a session, 128 for a link. */
export function newToken(bits: 128 | 256): { token: string; tokenHash: string } {
  const token = randomBytes(bits / 8).toString('base64url');
  return { token, tokenHash: hashOf(token) };
}
/** SHA-256 of a token: what is kept lets nobody in. */
export const hashOf = (token: string): string => createHash('sha256').update(token).digest('base64url');
