// The demo shoot on a fresh data folder, the real server, and a page in headless Chromium.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { launch, serve } from './served.mjs';
import { twelveSteps } from './twelve-steps.mjs';

/** Seeds, serves and opens; what it returns has to be closed. */
export async function demoStage(viewport) {
  const data = mkdtempSync(join(tmpdir(), 'dyepot-stage-'));
  spawnSync(process.execPath, ['dist/seed.mjs'], { env: { ...process.env, DYEPOT_DATA: data } });
  const { origin, end } = await serve(data),
    browser = await launch(),
    page = await browser.newPage({ viewport });
  return {
    origin,
    page,
    /** Opens the bench on a look of twelve steps, the lead cropped to a megapixel. */
    async twelveStepBench() {
      const headers = { Origin: origin },
        base = JSON.parse(readFileSync('e2e/looks/weld-morning.json', 'utf8')),
        made = await (await page.request.post(`${origin}/api/looks`, { data: twelveSteps(base), headers })).json(),
        shoot = await (await page.request.get(`${origin}/api/shoots/1`)).json(),
        lead = shoot.frames.find((f) => f.id === shoot.leadFrameId) ?? shoot.frames[0],
        share = Math.sqrt(1e6 / (lead.width * lead.height)),
        crop = { x: (1 - share) / 2, y: (1 - share) / 2, width: share, height: share },
        groundwork = { format: 'dyepot-groundwork', version: 2, geometry: { crop } },
        answer = await page.request.put(`${origin}/api/frames/${lead.id}/groundwork`, { data: { groundwork }, headers });
      if (!answer.ok()) throw new Error(await answer.text());
      await page.goto(`${origin}/bench?look=${made.id}`);
      await page.waitForSelector('canvas[data-testid=lead][data-ready]');
    },
    /** With --profile: begins a profile of the page; what it returns ends it and writes it into .tmp. */
    async profiled(name) {
      if (!process.argv.includes('--profile')) return () => {};
      const profiler = await page.context().newCDPSession(page);
      await profiler.send('Profiler.enable');
      await profiler.send('Profiler.start');
      return async () => writeFileSync(`.tmp/${name}.cpuprofile`, JSON.stringify((await profiler.send('Profiler.stop')).profile));
    },
    async close() {
      await browser.close();
      await end();
    },
  };
}

/** The times that half of all, and nineteen in twenty, do not exceed. */
export function halfAndMost(times) {
  const sorted = [...times].sort((a, b) => a - b),
    share = (of) => sorted[Math.floor(sorted.length * of)];
  return [share(0.5), share(0.95)];
}
