import { spawnSync } from 'node:child_process';
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { root } from '@dyepot/server/src/places.ts';

export const frames = join(root, 'packages/camera/frames');
/** The first raw of the demo. */
export const frame = join(
  frames,
  readdirSync(frames)
    .filter((f) => f.endsWith('.dng'))
    .sort()[0]!,
);
/** Runs the command as it is installed. */
export const dyepot = (...args: string[]): { status: number | null; out: string; err: string } => {
  const r = spawnSync(process.execPath, [join(root, 'packages/cli/bin/dyepot.mjs'), ...args], { encoding: 'utf8' });
  return { status: r.status, out: r.stdout, err: r.stderr };
};
