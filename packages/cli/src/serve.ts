import { startServer } from '@dyepot/server/src/main.ts';
import { parse, whole } from './options.ts';

/** However stuck a worker or a disk is, the process ends this long after it was asked to, in milliseconds. */
const patience = 6000;

/** `dyepot serve`: the web application on this machine. Returns when it is stopped. */
export async function serve(args: string[]): Promise<number> {
  const { values } = parse(args, ['port'], []);
  const server = await startServer({ port: whole(values['port'] ?? process.env['PORT'] ?? '4780', 'port', 0, 65535) });
  process.stdout.write(`Dyepot is at http://127.0.0.1:${server.port}\n`);
  await new Promise<void>((resolve) => {
    for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => resolve());
  });
  setTimeout(() => process.exit(1), patience).unref();
  await server.close();
  return 0;
}
