import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from '@dyepot/server/src/places.ts';

/** The data folder with the demo shoot that every stage is laid out from; there is one for each build. */
export const seededFolder = (): string => join(root, '.tmp', `stage-${Math.round(statSync(join(root, 'dist/seed.mjs')).mtimeMs)}`);

/** Seeds it before the first stage is set. */
export function setup(): void {
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
  writeFileSync(done, '');
}
