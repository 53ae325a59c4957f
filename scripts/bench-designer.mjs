// Moves a handle on a stock's curve in headless Chromium on the demo shoot and measures the time to the picture's next paint.
import { writeFileSync } from 'node:fs';
import { demoStage } from './demo-stage.mjs';

const { origin, page, close } = await demoStage({ width: 1280, height: 800 });
await page.goto(`${origin}/stock?name=Weld`);
await page.waitForSelector('canvas[data-testid=stock-lead][data-ready]');
await page.getByLabel('Straight part, on the curve').first().waitFor();
await page.waitForTimeout(1500);
const profiler = process.argv.includes('--profile') ? await page.context().newCDPSession(page) : null;
if (profiler) {
  await profiler.send('Profiler.enable');
  await profiler.send('Profiler.start');
}
const result = await page.evaluate(async () => {
  const handle = document.querySelector('[aria-label^="Straight part, on the curve"]'),
    canvas = document.querySelector('canvas[data-testid=stock-lead]'),
    counted = (name) => Number(canvas.dataset[name] ?? 0),
    all = () => counted('painted') + counted('drafts'),
    times = [];
  handle.focus();
  for (let i = 0; i < 60; i++) {
    const before = all(),
      start = performance.now(),
      end = start + 1500;
    handle.dispatchEvent(
      new KeyboardEvent('keydown', { key: Math.floor(i / 10) % 2 ? 'ArrowDown' : 'ArrowUp', bubbles: true, repeat: i > 0 }),
    );
    await new Promise((resolve) => {
      const look = () => (all() > before || performance.now() > end ? resolve() : setTimeout(look, 1));
      look();
    });
    times.push(Math.max(Number(canvas.dataset.paintedAt ?? 0), Number(canvas.dataset.draftAt ?? 0)) - start);
    await new Promise((resolve) => setTimeout(resolve, 40));
  }
  return { times: times.slice(5), width: canvas.width, height: canvas.height };
});
if (profiler) writeFileSync('.tmp/designer.cpuprofile', JSON.stringify((await profiler.send('Profiler.stop')).profile));
await close();
const sorted = result.times.sort((a, b) => a - b),
  share = (of) => sorted[Math.floor(sorted.length * of)];
if (process.argv.includes('--all')) console.log(sorted.map((v) => v.toFixed(0)).join(' '));
console.log(JSON.stringify({ p50: share(0.5), p95: share(0.95), width: result.width, height: result.height }));
process.exit(0);
