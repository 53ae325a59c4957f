// The real server on a data folder, and Debian's Chromium: for tests, measures and pictures.
import { spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { chromium } from 'playwright-core';

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
/** Debian's Chromium, without a window. */
export const launch = () => chromium.launch({ executablePath: '/usr/bin/chromium', args: flags });

/** Starts the real server on a data folder. */
export function serve(data, options = ['--port', '0']) {
  return new Promise((resolve, reject) => {
    const server = spawn(process.execPath, [fileURLToPath(new URL('../dist/dyepot.mjs', import.meta.url)), 'serve', ...options], {
      env: { ...process.env, DYEPOT_DATA: data },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    server.once('exit', () => reject(new Error('the server did not start')));
    server.stdout.on('data', (d) => {
      const m = /http:\S+|port (\d+)/.exec(d.toString());
      if (m) resolve({ origin: m[1] ? `https://127.0.0.1:${m[1]}` : m[0], end: (signal) => ended(server, signal) });
    });
  });
}
/** Ends it, and waits until it has ended. */
async function ended(server, signal = 'SIGTERM') {
  if (server.exitCode !== null || server.signalCode !== null) return;
  const gone = new Promise((resolve) => server.once('exit', resolve));
  server.kill(signal);
  await gone;
}
