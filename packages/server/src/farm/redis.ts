import { Redis } from 'ioredis';
import { PlainError } from '../plainError.ts';

/** An address of Redis without its password, for people. */
export function shownAddress(url: string): string {
  const at = new URL(url);
  at.username = '';
  at.password = '';
  return at.href;
}
/** How long Redis may take to answer at first, in milliseconds. */
const patience = 5000;

/** Opens Redis. Once it has answered it is waited for whenever it is away; throws PlainError where it never does. */
export async function openRedis(url: string): Promise<Redis> {
  if (!/^rediss?:\/\//.test(url) || !URL.canParse(url)) throw new PlainError(`“${url}” is no address of Redis: redis://HOST:PORT`);
  // BullMQ waits for Redis however long it is away
  const redis = new Redis(url, { maxRetriesPerRequest: null, lazyConnect: true });
  let why = 'no answer';
  redis.on('error', (error: Error) => (why = error.message));
  const answered = await Promise.race([
    redis.ping().then(
      () => true,
      () => false,
    ),
    new Promise<false>((resolve) => setTimeout(() => resolve(false), patience)),
  ]);
  if (!answered) {
    redis.disconnect();
    throw new PlainError(`Redis at ${shownAddress(url)} does not answer (${why})`);
  }
  return redis;
}
