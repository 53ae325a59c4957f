// Drags a slider in headless Chromium on the demo shoot and measures, for each change, the time to the lead's next paint.
import { demoStage, halfAndMost } from './demo-stage.mjs';

// a window large enough to show all of a megapixel, and six witnesses
const { page, twelveStepBench, profiled, close } = await demoStage({ width: 1760, height: 1080 });
await twelveStepBench();
for (let shown = 4; shown < 6; shown++) {
  await page.getByRole('button', { name: 'Add a witness' }).click();
  await page.getByRole('menuitem').first().click();
}
await page.waitForFunction(() => document.querySelectorAll('canvas[data-testid=witness]').length === 6);
await page.waitForSelector('canvas[data-testid=lead][data-ready]');
await page.getByRole('button', { name: /^Saturation/ }).click();
await page.waitForTimeout(1500);
const ended = await profiled('slider');
const result = await page.evaluate(async () => {
  const slider = document.querySelector('.tray [role=slider][aria-label=Change]'),
    canvas = document.querySelector('canvas[data-testid=lead]'),
    times = [],
    settled = [],
    read = [],
    followed = [],
    witnesses = [...document.querySelectorAll('canvas[data-testid=witness]')],
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
      seen = witnesses.map((w) => Number(w.dataset.painted ?? 0)),
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
    // and when the last of the witnesses has followed
    await until(() => witnesses.every((w, k) => Number(w.dataset.painted ?? 0) > seen[k]));
    followed.push(Math.max(...witnesses.map((w) => Number(w.dataset.paintedAt))) - start);
    await new Promise((resolve) => setTimeout(resolve, 40));
  }
  return {
    followed: followed.slice(5),
    read: read.slice(5),
    times: times.slice(5),
    settled: settled.slice(5),
    megapixels: (canvas.width * canvas.height) / 1e6,
    witnesses: witnesses.length,
  };
});
await ended();
await close();
const [p50, p95] = halfAndMost(result.times),
  [read50, read95] = halfAndMost(result.read),
  [settled50, settled95] = halfAndMost(result.settled),
  [followed50, followed95] = halfAndMost(result.followed),
  { megapixels, witnesses } = result;
console.log(JSON.stringify({ read50, read95, settled50, settled95, followed50, followed95, p50, p95, megapixels, witnesses }));
process.exit(0);
