// Drags a slider in headless Chromium on the demo shoot and measures, for each change, the time to the lead's next paint.
import { readFileSync, writeFileSync } from 'node:fs';
import { demoStage } from './demo-stage.mjs';
import { twelveSteps } from './twelve-steps.mjs';

const { origin, page, close } = await demoStage({ width: 1760, height: 1080 });
// a twelve-step look and six witnesses
const base = JSON.parse(readFileSync('e2e/looks/weld-morning.json', 'utf8')),
  made = await (await page.request.post(`${origin}/api/looks`, { data: twelveSteps(base), headers: { Origin: origin } })).json();
// the lead cropped to a megapixel, in a window large enough to show all of it
const shoot = await (await page.request.get(`${origin}/api/shoots/1`)).json(),
  lead = shoot.frames.find((f) => f.id === shoot.leadFrameId) ?? shoot.frames[0],
  share = Math.sqrt(1e6 / (lead.width * lead.height)),
  crop = { x: (1 - share) / 2, y: (1 - share) / 2, width: share, height: share };
const answer = await page.request.put(`${origin}/api/frames/${lead.id}/groundwork`, {
  data: { groundwork: { format: 'dyepot-groundwork', version: 2, geometry: { crop } } },
  headers: { Origin: origin },
});
if (!answer.ok()) throw new Error(await answer.text());
await page.goto(`${origin}/bench?look=${made.id}`);
await page.waitForSelector('canvas[data-testid=lead][data-ready]');
for (let shown = 4; shown < 6; shown++) {
  await page.getByRole('button', { name: 'Add a witness' }).click();
  await page.getByRole('menuitem').first().click();
}
await page.waitForFunction(() => document.querySelectorAll('canvas[data-testid=witness]').length === 6);
await page.waitForSelector('canvas[data-testid=lead][data-ready]');
await page.getByRole('button', { name: /^Saturation/ }).click();
await page.waitForTimeout(1500);
const profiler = process.argv.includes('--profile') ? await page.context().newCDPSession(page) : null;
if (profiler) {
  await profiler.send('Profiler.enable');
  await profiler.send('Profiler.start');
}
const result = await page.evaluate(async () => {
  const slider = document.querySelector('.tray [role=slider][aria-label=Change]'),
    canvas = document.querySelector('canvas[data-testid=lead]'),
    times = [],
    settled = [],
    read = [],
    figure = document.querySelector('.readout figure');
  let readAt = 0;
  new MutationObserver(() => {
    readAt ||= performance.now();
  }).observe(figure, { subtree: true, attributes: true, attributeFilter: ['d'] });
  // what does not come within a second and a half counts as that
  const until = (come) =>
      new Promise((resolve) => {
        const end = performance.now() + 1500,
          look = () => (come() || performance.now() > end ? resolve() : setTimeout(look, 1));
        look();
      }),
    counted = (name) => Number(canvas.dataset[name] ?? 0);
  slider.focus();
  for (let i = 0; i < 60; i++) {
    const before = Number(canvas.dataset.painted ?? 0),
      drafts = Number(canvas.dataset.drafts ?? 0),
      start = performance.now();
    readAt = 0;
    slider.dispatchEvent(new KeyboardEvent('keydown', { key: i % 2 ? 'ArrowLeft' : 'ArrowRight', bubbles: true, repeat: i > 0 }));
    // a whole picture may come before a draft that was held up; the hand then sees that
    await until(() => counted('drafts') > drafts || counted('painted') > before);
    times.push((counted('drafts') > drafts ? Number(canvas.dataset.draftAt) : performance.now()) - start);
    await until(() => readAt > 0);
    read.push((readAt || performance.now()) - start);
    await until(() => counted('painted') > before);
    settled.push((counted('painted') > before ? Number(canvas.dataset.paintedAt) : performance.now()) - start);
    await new Promise((resolve) => setTimeout(resolve, 40));
  }
  return {
    read: read.slice(5),
    times: times.slice(5),
    settled: settled.slice(5),
    megapixels: (canvas.width * canvas.height) / 1e6,
    witnesses: document.querySelectorAll('canvas[data-testid=witness]').length,
  };
});
if (profiler) writeFileSync('.tmp/slider.cpuprofile', JSON.stringify((await profiler.send('Profiler.stop')).profile));
await close();
const sorted = result.times.sort((a, b) => a - b);
const read = result.read.sort((a, b) => a - b);
const rest = result.settled.sort((a, b) => a - b);
console.log(
  JSON.stringify({
    read50: read[Math.floor(read.length * 0.5)],
    read95: read[Math.floor(read.length * 0.95)],
    settled50: rest[Math.floor(rest.length * 0.5)],
    settled95: rest[Math.floor(rest.length * 0.95)],
    p50: sorted[Math.floor(sorted.length * 0.5)],
    p95: sorted[Math.floor(sorted.length * 0.95)],
    megapixels: result.megapixels,
    witnesses: result.witnesses,
  }),
);
process.exit(0);
