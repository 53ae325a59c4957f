import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { tmpdir } from 'node:os';
import type { Page } from 'playwright-core';
import type { Groundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import { groundHand, painted, setStage, still, type Stage, until } from './stage.ts';

let stage: Stage,
  page: Page,
  chartId = 0;
interface Told {
  id: number;
  name: string;
  groundwork: Groundwork | null;
  output: { width: number; height: number };
  path: string;
}
const frames = async (): Promise<Told[]> =>
  ((await (await page.request.get(`${stage.origin}/api/shoots/1`)).json()) as { frames: Told[] }).frames;
const told = async (): Promise<Told> => (await frames()).find((f) => f.id === chartId)!;
const settled = (): Promise<void> => still(page);
const { part, nudge } = groundHand(() => page);

beforeAll(async () => {
  stage = await setStage();
  page = await stage.open('/shoots');
  chartId = (await frames()).find((f) => f.name === 'TR-0444')!.id;
  await page.goto(`${stage.origin}/ground?shoot=1&frame=${chartId}`);
  await painted(page);
});
afterAll(async () => {
  await stage.close();
});

describe('two lines, lens and presets', () => {
  const draw = async (from: [number, number], to: [number, number]): Promise<void> => {
    const b = (await page.getByTestId('crop').boundingBox())!;
    await page.mouse.move(b.x + from[0] * b.width, b.y + from[1] * b.height);
    await page.mouse.down();
    await page.mouse.move(b.x + to[0] * b.width, b.y + to[1] * b.height, { steps: 3 });
    await page.mouse.up();
  };
  it('two lines that lean together are drawn, and the picture is righted by them; undone in one step', async () => {
    await part(/^Crop and angle/);
    await page.getByRole('button', { name: 'Two uprights' }).click();
    await draw([0.3, 0.2], [0.27, 0.8]);
    expect(await page.locator('.crop-line line').count()).toBe(2);
    await draw([0.7, 0.2], [0.74, 0.8]);
    await settled();
    expect(Math.abs(Number(await page.getByRole('slider', { name: 'Verticals' }).getAttribute('aria-valuenow')))).toBeGreaterThan(5);
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await told()).groundwork).toBe(null);
  });
  it('an own ratio is typed', async () => {
    await page.getByLabel('Ratio', { exact: true }).selectOption('own');
    await page.getByLabel('Own ratio').fill('2:1');
    await page.keyboard.press('Enter');
    const { output, groundwork } = await until(told, (f) => f.groundwork?.geometry.ratio === '2:1');
    expect(groundwork!.geometry.ratio).toBe('2:1');
    expect(output.width / output.height).toBeCloseTo(2, 1);
  });
  it('bowed lines and corner light are set under a grid and lines of equal gain, shown while the control is held', async () => {
    await part(/^Lens/);
    const track = (await page.getByRole('slider', { name: 'Bowed lines' }).boundingBox())!,
      corner = async (): Promise<number> =>
        page.evaluate(() => {
          const c = document.querySelector<HTMLCanvasElement>('canvas[data-testid=lead]')!,
            d = c.getContext('2d')!.getImageData(0, 0, 40, 40).data;
          let s = 0;
          for (let i = 1; i < d.length; i += 4) s += d[i]!;
          return s;
        });
    await page.mouse.move(track.x + track.width / 2, track.y + 8);
    await page.mouse.down();
    await page.mouse.move(track.x + track.width * 0.6, track.y + 8, { steps: 3 });
    await page.getByTestId('lens-grid').waitFor();
    await page.mouse.up();
    expect(await page.getByTestId('lens-grid').count()).toBe(0);
    const before = await corner();
    await nudge('Corner light', 'Alt+ArrowRight', 3);
    expect(await corner()).toBeGreaterThan(before * 1.05);
    await page.getByRole('button', { name: 'Reset', exact: true }).click();
  });
  it('a lens is found in the database at a folder that is named; a folder without one is refused in words', async () => {
    await page.getByRole('button', { name: 'From a lens database…' }).click();
    const folder = page.getByPlaceholder('/usr/share/lensfun/version_1');
    await folder.fill(tmpdir());
    await page.getByRole('button', { name: 'Read', exact: true }).click();
    await page.getByText(/no lens database/).waitFor();
    await folder.fill('/usr/share/lensfun');
    await page.getByRole('button', { name: 'Read', exact: true }).click();
    await page.getByLabel('Find').fill('24-70mm f/2.8');
    await page.getByRole('list', { name: 'Lenses found' }).getByRole('button').first().click();
    await page.getByTestId('lens-profile').waitFor();
    const { lens } = (await until(told, (f) => f.groundwork?.lens.profile !== null && f.groundwork !== null)).groundwork!;
    expect(lens.profile!.distortion!.terms.length).toBeGreaterThan(0);
    expect(lens.profile!.source).toContain('.xml');
    await page.getByRole('button', { name: 'take off' }).click();
  });
  it('groundwork is kept as a preset for a camera and ISO, and given to another frame from there', async () => {
    await part(/^Detail/);
    await nudge('Colour, coarse', 'Alt+ArrowRight', 3);
    await page.getByRole('button', { name: 'Presets…' }).click();
    const sheet = page.getByRole('dialog');
    await sheet.getByLabel('Name', { exact: true }).fill('Clean darks');
    await sheet.getByRole('button', { name: 'Keep' }).click();
    await sheet.getByRole('button', { name: /Clean darks/ }).waitFor();
    await sheet.getByRole('button', { name: 'Close' }).first().click();
    await page
      .getByRole('navigation', { name: 'Frames' })
      .getByRole('button', { name: /TR-0438/ })
      .click();
    await painted(page);
    await page.getByRole('button', { name: 'Presets…' }).click();
    await page
      .getByRole('dialog')
      .getByRole('button', { name: /Clean darks/ })
      .click();
    await expect.poll(async () => (await frames()).find((f) => f.name === 'TR-0438')!.groundwork?.detail.noise.colour.coarse).toBe(3);
    await page.keyboard.press('Control+z');
    await page
      .getByRole('navigation', { name: 'Frames' })
      .getByRole('button', { name: /TR-0444/ })
      .click();
    await painted(page);
  });
  it('holding “strong” shows where sharpening acts, in black and white', async () => {
    const held = page.getByRole('slider', { name: 'Strong, on the graph' });
    await held.scrollIntoViewIfNeeded();
    const track = (await held.boundingBox())!,
      colourful = (): Promise<number> =>
        page.evaluate(() => {
          const c = document.querySelector<HTMLCanvasElement>('canvas[data-testid=lead]')!,
            d = c.getContext('2d')!.getImageData(0, 0, c.width, c.height).data;
          let s = 0;
          for (let i = 0; i < d.length; i += 4) if (d[i] !== d[i + 2]) s++;
          return s / (d.length / 4);
        });
    await page.mouse.move(track.x + track.width / 2, track.y + track.height / 2);
    await page.mouse.down();
    await page.mouse.move(track.x + track.width / 2 - 12, track.y + track.height / 2, { steps: 3 });
    await settled();
    expect(await colourful()).toBe(0);
    await page.mouse.up();
    await settled();
    expect(await colourful()).toBeGreaterThan(0.5);
    await page.getByRole('button', { name: 'Reset', exact: true }).click();
  });
  it('the camera’s own tag is a kind of light', async () => {
    await part(/^Light/);
    await page.getByRole('button', { name: 'Tag, 2856 K' }).click();
    expect(await page.getByRole('slider', { name: 'Temperature' }).getAttribute('aria-valuetext')).toBe('2856 K');
    await page.keyboard.press('Control+z');
  });
  it('readouts read only a rectangle that is drawn, and the whole again', async () => {
    const clipped = async (): Promise<string> => (await page.getByRole('figure', { name: /Histogram/ }).getAttribute('aria-label'))!,
      whole = await clipped(),
      b = (await page.getByTestId('lead').boundingBox())!;
    await page.getByRole('button', { name: 'Read only a part of the picture' }).click();
    await page.mouse.move(b.x + b.width * 0.35, b.y + b.height * 0.4);
    await page.mouse.down();
    await page.mouse.move(b.x + b.width * 0.4, b.y + b.height * 0.45, { steps: 3 });
    await page.mouse.up();
    await settled();
    await page.getByTestId('limit').waitFor();
    const path = await page.locator('.readout figure path').first().getAttribute('d');
    await page.getByRole('button', { name: 'readouts ×' }).click();
    await settled();
    expect(await page.locator('.readout figure path').first().getAttribute('d')).not.toBe(path);
    expect(await clipped()).toBe(whole);
  });
  it('the same by keys alone; and a crop is resized by Alt and arrows', async () => {
    await page.getByRole('button', { name: 'Read only a part of the picture' }).focus();
    await page.keyboard.press('Enter');
    const inner = async (): Promise<number> => (await page.getByTestId('limit').boundingBox())!.width,
      before = await inner();
    await page.getByRole('button', { name: 'readouts ×' }).focus();
    await page.keyboard.press('Alt+ArrowRight');
    expect(await inner()).toBeGreaterThan(before + 4);
    await page.keyboard.press('Enter');
    expect(await page.getByTestId('limit').count()).toBe(0);
    await part(/^Crop and angle/);
    await page.getByLabel('Ratio', { exact: true }).selectOption('free');
    const crop = page.getByRole('slider', { name: /^Crop, moved/ });
    await crop.focus();
    await page.keyboard.press('Alt+ArrowLeft');
    await page.keyboard.press('Alt+ArrowLeft');
    expect(Number(await crop.getAttribute('aria-valuenow'))).toBeLessThan(100);
  });
  it('the wipe is turned to run across', async () => {
    await page.keyboard.press('w');
    await page.getByRole('button', { name: 'Turn the wipe' }).click();
    const wipe = page.getByRole('slider', { name: /^Wipe/ }),
      box = (await wipe.boundingBox())!;
    expect(box.width).toBeGreaterThan(box.height * 10);
    await wipe.focus();
    await page.keyboard.press('ArrowDown');
    expect(await wipe.getAttribute('aria-valuenow')).toBe('52');
    await page.keyboard.press('Shift+w');
    await page.keyboard.press('w');
  });
  it('nothing was complained of in the browser’s console', () => expect(stage.complaints).toEqual([]));
});
