import { readFileSync } from 'node:fs';
import { startServer, type Away } from '@dyepot/server/src/main.ts';
import { parse, whole } from './options.ts';

/** However stuck a worker or a disk is, the process ends this long after it was asked to, in milliseconds. */
const patience = 6000;

function pem(path: string): Buffer {
  try {
    return readFileSync(path);
  } catch {
    throw new Error(`${path} cannot be read`);
  }
}
/** How it is met from other machines; nothing: it is not. */
function awayFrom(values: Record<string, string | undefined>, behindProxy: boolean): Away | undefined {
  const { listen, 'tls-cert': cert, 'tls-key': key } = values;
  if (listen === undefined) {
    if (cert ?? key ?? behindProxy) throw new Error('--tls-cert, --tls-key and --trust-proxy go with --listen ADDRESS');
    return undefined;
  }
  if (behindProxy && !cert && !key) return { listen, tls: 'proxy' };
  if (behindProxy || !cert || !key)
    throw new Error(
      'what other machines see goes over TLS: --listen takes --tls-cert FILE and --tls-key FILE, or --trust-proxy where a proxy before Dyepot does it',
    );
  return { listen, tls: { cert: pem(cert), key: pem(key) } };
}

/** `dyepot serve`: the web application, on this machine or met from others. Returns when it is stopped. */
export async function serve(args: string[]): Promise<number> {
  const { values, flags } = parse(args, ['port', 'listen', 'tls-cert', 'tls-key', 'queue'], ['trust-proxy']),
    port = whole(values['port'] ?? process.env['PORT'] ?? '4780', 'port', 0, 65535),
    away = awayFrom(values, flags['trust-proxy'] === true);
  const server = await startServer({ port, ...(away && { away }), ...(values['queue'] !== undefined && { queue: values['queue'] }) });
  process.stdout.write(
    away
      ? `Dyepot listens at ${away.listen}, port ${server.port}, for ${away.tls === 'proxy' ? 'the proxy before it' : 'https'}\n`
      : `Dyepot is at http://127.0.0.1:${server.port}\n`,
  );
  await new Promise<void>((resolve) => {
    for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => resolve());
  });
  setTimeout(() => process.exit(1), patience).unref();
  await server.close();
  return 0;
}
