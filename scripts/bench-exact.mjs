// The exact view of a frame of 24 megapixels, as a page asks for it each time the hand rests. Rows for the bench.
import { mkdirSync, mkdtempSync, readFileSync, rmSync, symlinkSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { performance } from 'node:perf_hooks';
import { serve } from './served.mjs';
import { twelveSteps } from './twelve-steps.mjs';

/** Seconds to an exact view of a raw under a look, in the median of those after the first. */
export async function exactRows(raw, look) {
  const work = mkdtempSync(join(tmpdir(), 'dyepot-exact-')),
    folder = join(work, 'raws');
  mkdirSync(folder);
  symlinkSync(resolve(raw), join(folder, 'frame.dng'));
  const { origin, end } = await serve(join(work, 'data')),
    post = (path, body) =>
      fetch(`${origin}/api${path}`, { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) });
  try {
    const { id } = await (await post('/shoots', { name: 'Exact' })).json();
    await post(`/shoots/${id}/folder`, { folder });
    let frames = [];
    for (const until = performance.now() + 120_000; frames.length === 0 && performance.now() < until;) {
      await new Promise((done) => setTimeout(done, 300));
      ({ frames } = await (await fetch(`${origin}/api/shoots/${id}`)).json());
    }
    const seconds = [];
    for (let round = 0; round < 6; round++) {
      const t = performance.now(),
        answer = await post(`/frames/${frames[0].id}/exact`, { width: 1200, height: 800, look });
      if (!answer.ok) throw new Error(await answer.text());
      await answer.arrayBuffer();
      seconds.push((performance.now() - t) / 1000);
    }
    const figure = seconds.slice(1).sort((a, b) => a - b)[2];
    return [{ name: 'exact view of 24 MP, twelve steps', figure: Math.round(figure * 100) / 100, unit: 'seconds', bar: 2.5 }];
  } finally {
    await end();
    rmSync(work, { recursive: true, force: true });
  }
}
if (process.argv[1]?.endsWith('bench-exact.mjs'))
  console.table(await exactRows(process.argv[2], twelveSteps(JSON.parse(readFileSync('e2e/looks/weld-morning.json', 'utf8')))));
