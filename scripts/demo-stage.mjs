// The demo shoot on a fresh data folder, the real server, and a page in headless Chromium.
import { spawn, spawnSync } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
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

/** Seeds, serves and opens; what it returns has to be closed. */
export async function demoStage(viewport) {
  const env = { ...process.env, DYEPOT_DATA: mkdtempSync(join(tmpdir(), 'dyepot-stage-')) };
  spawnSync(process.execPath, ['dist/seed.mjs'], { env });
  const server = spawn(process.execPath, ['dist/dyepot.mjs', 'serve', '--port', '0'], { env, stdio: ['ignore', 'pipe', 'inherit'] }),
    origin = await new Promise((resolve) =>
      server.stdout.on('data', (d) => {
        const m = /http:\S+/.exec(d.toString());
        if (m) resolve(m[0]);
      }),
    ),
    browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: flags }),
    page = await browser.newPage({ viewport });
  return {
    origin,
    page,
    async close() {
      await browser.close();
      server.kill();
    },
  };
}
