import { afterAll, beforeAll, expect, it } from 'vitest';
import { complaintsOf, walk } from './accessWalk.ts';
import { setStage, type Stage } from './stage.ts';

let stage: Stage;
beforeAll(async () => {
  stage = await setStage();
});
afterAll(() => stage.close());

const sizes = [
  { width: 1024, height: 700 },
  { width: 2560, height: 1440 },
  { width: 1280, height: 800 },
];
it('axe-core finds nothing on any screen, part, sheet and menu, at 1024, 1280 and 2560 wide', { timeout: 600000 }, async () => {
  const found: Record<string, string[]> = {};
  await walk(stage, sizes[2]!, async (page, name, trouble) => {
    if (trouble) found[name] = [trouble];
    // a step's controls have no more room at 2560 than at 1280
    for (const size of /^Step /.test(name) ? [sizes[0]!, sizes[2]!] : sizes) {
      await page.setViewportSize(size);
      // the page is laid out anew, and drawn
      await page.evaluate(() => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve))));
      // colours are the same at every width
      const complaints = await complaintsOf(page, size === sizes[2]);
      if (complaints.length > 0) found[`${name}, ${size.width} wide`] = complaints;
    }
  });
  expect(found).toEqual({});
});
