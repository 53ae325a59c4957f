import { appendFileSync, mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { seeded } from './random.ts';

/** Pieces a file arrives in, and the time between them. */
const pieces = 4,
  betweenMs = 120;
const pause = (ms: number): Promise<void> => new Promise((r) => setTimeout(r, ms));

/** Shoots into a folder, as a camera on a cable does: each picture is another one, and its file grows while it is written. */
export async function tether(
  folder: string,
  shot: (ev: number, seed: number) => Promise<{ file: Uint8Array }>,
  { every, count, ev, seed }: { every: number; count: number; ev: number; seed: number },
): Promise<void> {
  mkdirSync(folder, { recursive: true });
  const random = seeded(seed);
  for (let i = 0; i < count; i++) {
    const began = performance.now(),
      { file } = await shot(ev + (random() - 0.5) * 0.8, seed + i),
      path = join(folder, `T-${String(i + 1).padStart(4, '0')}.dng`);
    writeFileSync(path, file.subarray(0, Math.floor(file.length / pieces)));
    for (let k = 1; k < pieces; k++) {
      await pause(betweenMs);
      appendFileSync(path, file.subarray(Math.floor((file.length * k) / pieces), Math.floor((file.length * (k + 1)) / pieces)));
    }
    process.stderr.write(`\r${i + 1} of ${count}: ${path} `);
    if (i + 1 < count) await pause(Math.max(0, every * 1000 - (performance.now() - began)));
  }
  process.stderr.write('\n');
}
