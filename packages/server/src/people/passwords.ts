import { hash, verify } from '@node-rs/argon2';
import { ServiceError } from '../services/errors.ts';

/** Argon2id with 19 MiB, two passes, one lane: OWASP's Password Storage Cheat Sheet. */
const cost = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };
/** How long a password may be, in letters: OWASP ASVS 4.0, 2.1.1 and 2.1.2. */
const shortest = 12,
  longest = 128;
/** zxcvbn's score (Wheeler 2016): 2 is over 10⁶ guesses; the commonest passwords and names with a year after them are under it. */
const weakest = 2;

/** A password as it is kept. Throws ServiceError where it could be guessed. */
export async function keepPassword(password: string, name: string): Promise<string> {
  const letters = [...password].length;
  if (letters < shortest) throw new ServiceError(400, `a password has at least ${shortest} letters; several words in a row are good ones`);
  if (letters > longest) throw new ServiceError(400, `a password has at most ${longest} letters`);
  // a dictionary, which is needed only here
  const { default: zxcvbn } = await import('zxcvbn');
  if (zxcvbn(password.slice(0, 100), [name, 'dyepot']).score < weakest)
    throw new ServiceError(400, 'this password is easily guessed; several words that have nothing to do with each other are better');
  return hash(password.normalize('NFKC'), cost);
}

let nobodys: Promise<string> | null = null;
/** Whether a password is the kept one. Where none is kept it takes as long, so that its answer does not tell who exists. */
export async function isPassword(kept: string | null, password: string): Promise<boolean> {
  nobodys ??= hash('nobody has this one', cost);
  const right = await verify(kept ?? (await nobodys), password.normalize('NFKC')).catch(() => false);
  return kept !== null && right;
}
