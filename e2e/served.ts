import { spawn, type ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import { chromium, type Browser } from 'playwright-core';
import { root } from '@dyepot/server/src/places.ts';

const flags = [
  '--headless',
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];
export interface Served {
  server: ChildProcess;
  origin: string;
}
/** Starts the real server on a data folder. */
export function serve(data: string, options: readonly string[]): Promise<Served> {
  return new Promise((resolve, reject) => {
    const server = spawn(process.execPath, [join(root, 'dist/dyepot.mjs'), 'serve', ...options], {
      env: { ...process.env, DYEPOT_DATA: data },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    server.once('exit', () => reject(new Error('the server did not start')));
    server.stdout.on('data', (d: Buffer) => {
      const m = /http:\S+|port (\d+)/.exec(d.toString());
      if (m) resolve({ server, origin: m[1] ? `https://127.0.0.1:${m[1]}` : m[0] });
    });
  });
}
/** Debian's Chromium, without a window. */
export const launch = (): Promise<Browser> => chromium.launch({ executablePath: '/usr/bin/chromium', args: flags });
