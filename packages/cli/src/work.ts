import { resolve } from 'node:path';
import { openWorker } from '@dyepot/server/src/farm/working.ts';
import { parse, whole } from './options.ts';

/** `dyepot work`: does frames that a server elsewhere hands out by Redis. Returns when it is stopped; what is in hand is finished first. */
export async function work(args: string[]): Promise<number> {
  const { values } = parse(args, ['queue', 'data', 'threads'], []),
    { queue: url, data } = values;
  if (!url || !data) throw new Error('work takes --queue redis://HOST:PORT and --data, the server’s data folder as this machine sees it');
  const worker = await openWorker({ url, data: resolve(data), threads: whole(values['threads'] ?? '2', 'threads', 1, 64) });
  process.stdout.write('Dyepot works\n');
  await new Promise<void>((done) => {
    for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => done());
  });
  // a second signal does not wait for what is in hand: another worker takes it over
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => process.exit(1));
  process.stdout.write('finishing what is in hand…\n');
  await worker.close();
  return 0;
}
