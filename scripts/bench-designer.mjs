// Moves a handle on a stock's curve in headless Chromium on the demo shoot and measures the time to the picture's next paint.
import { demoStage, halfAndMost } from './demo-stage.mjs';

const { origin, page, profiled, close } = await demoStage({ width: 1280, height: 800 });
await page.goto(`${origin}/stock?name=Weld`);
await page.waitForSelector('canvas[data-testid=stock-lead][data-ready]');
await page.getByLabel('Straight part, on the curve').first().waitFor();
await page.waitForTimeout(1500);
const ended = await profiled('designer');
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
await ended();
await close();
const [p50, p95] = halfAndMost(result.times);
console.log(JSON.stringify({ p50, p95, width: result.width, height: result.height }));
process.exit(0);
