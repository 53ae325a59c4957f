// Paints with the brush of a frame's own step in headless Chromium, on a megapixel under a look of twelve steps, and measures the time from
// each move of the pointer to the frame that shows its dab.
import { demoStage, halfAndMost } from './demo-stage.mjs';

const { page, twelveStepBench, close } = await demoStage({ width: 1760, height: 1080 });
await twelveStepBench();
await page.getByRole('tab', { name: /This frame/ }).click();
await page.getByRole('button', { name: 'Add a step to the scene lane' }).click();
await page.getByLabel('What should it do?').fill('exposure');
await page.keyboard.press('Enter');
await page.getByLabel('Where it acts').selectOption('brush');
await page.getByRole('slider', { name: 'Shift', exact: true }).focus();
await page.keyboard.press('Enter');
await page.keyboard.type('1.5');
await page.keyboard.press('Enter');
await page.waitForTimeout(2000);
// a dab is drawn while the move is handled; the next frame after that shows it
await page.evaluate(() => {
  const wet = document.querySelector('.place-brush canvas'),
    inked = () =>
      wet
        .getContext('2d')
        .getImageData(0, 0, wet.width, wet.height)
        .data.reduce((n, v, i) => n + (i % 4 === 3 && v > 0 ? 1 : 0), 0);
  window.dabs = [];
  window.inked = inked;
  window.drawn = () => Number(document.querySelector('canvas[data-testid=lead]').dataset.parts ?? 0);
  addEventListener('pointermove', (e) => {
    if (e.buttons === 1) requestAnimationFrame(() => setTimeout(() => window.dabs.push(performance.now() - e.timeStamp)));
  });
});
const box = await page.getByTestId('lead').boundingBox();
let shown = 0;
for (let stroke = 0; stroke < 3; stroke++) {
  const y = box.y + box.height * (0.3 + 0.2 * stroke);
  await page.mouse.move(box.x + box.width * 0.2, y);
  await page.mouse.down();
  const before = await page.evaluate(() => window.drawn());
  for (let i = 0; i < 60; i++) {
    await page.mouse.move(box.x + box.width * (0.2 + i * 0.01), y + 6 * Math.sin(i / 4));
    await page.waitForTimeout(25);
  }
  const [inked, drawn] = await page.evaluate(() => [window.inked(), window.drawn()]);
  if (inked < 100 && drawn === before) throw new Error('nothing was painted');
  shown += drawn - before;
  await page.mouse.up();
  await page.waitForTimeout(600);
}
const { dabs, megapixels } = await page.evaluate(() => {
  const { width, height } = document.querySelector('canvas[data-testid=lead]');
  return { dabs: window.dabs, megapixels: (width * height) / 1e6 };
});
await close();
const [p50, p95] = halfAndMost(dabs);
console.log(JSON.stringify({ p50, p95, count: dabs.length, megapixels, shown }));
process.exit(0);
