import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from '@dyepot/server/src/places.ts';
import { launch, serve } from '../scripts/served.mjs';

/** The data folder with the demo shoot that every stage is laid out from; there is one for each build. */
export const seededFolder = (): string => join(root, '.tmp', `stage-${Math.round(statSync(join(root, 'dist/seed.mjs')).mtimeMs)}`);

/** Seeds it before the first stage is set. */
export async function setup(): Promise<void> {
  const folder = seededFolder(),
    done = join(folder, 'seeded'),
    parent = join(root, '.tmp');
  if (existsSync(done)) return;
  for (const old of existsSync(parent) ? readdirSync(parent).filter((f) => f.startsWith('stage-')) : [])
    rmSync(join(parent, old), { recursive: true, force: true });
  const made = spawnSync(process.execPath, [join(root, 'dist/seed.mjs')], {
    env: { ...process.env, DYEPOT_DATA: folder, DYEPOT_LOOKS: join(root, 'e2e/looks') },
    encoding: 'utf8',
  });
  if (made.status !== 0) throw new Error(made.stderr);
  await seen(folder);
  writeFileSync(done, '');
}

/** Looks at the shelf and the shoot once, so that their small pictures are there for every stage. */
async function seen(folder: string): Promise<void> {
  const { origin, end } = await serve(folder),
    browser = await launch(),
    until = Date.now() + 180_000;
  try {
    for (const path of ['/shelf', '/shoots/1', '/shoots']) {
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
      page.setDefaultTimeout(120_000);
      await page.goto(origin + path);
      await page.locator('img').first().waitFor();
      // what does not come is drawn by the stages themselves
      for (let since = Date.now(); Date.now() - since < 1500 && Date.now() < until;) {
        await page.waitForTimeout(100);
        if (await page.evaluate(() => [...document.images].some((i) => !i.complete))) since = Date.now();
      }
      await page.close();
    }
  } finally {
    await browser.close();
    await end();
  }
}
