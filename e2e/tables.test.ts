import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { writeCube } from '@dyepot/core/src/formats/cube.ts';
import { table3d, type Rgb } from '@dyepot/core/src/colour/table.ts';
import { root } from '@dyepot/server/src/places.ts';
import { benchHand, type BenchHand } from './benchHand.ts';
import { setStage, type Stage } from './stage.ts';

let stage: Stage, hand: BenchHand;
const work = mkdtempSync(join(tmpdir(), 'dyepot-e2e-tables-')),
  file = (name: string, cell: (c: Rgb) => Rgb, size = 17): string => {
    writeFileSync(join(work, name), writeCube(table3d(name, size, cell)));
    return join(work, name);
  },
  dyepot = (...args: string[]): string => execFileSync(process.execPath, [join(root, 'dist/dyepot.mjs'), ...args], { encoding: 'utf8' });
beforeAll(async () => {
  stage = await setStage();
  hand = await benchHand(stage, 'TR-0451');
});
afterAll(async () => {
  await stage.close();
});
const dialog = (): ReturnType<BenchHand['page']['getByRole']> => hand.page.getByRole('dialog'),
  close = (): Promise<void> => dialog().getByRole('button', { name: 'Close' }).last().click(),
  bring = async (path: string): Promise<void> => {
    await hand.page.getByLabel('File of the table').setInputFiles(path);
    await hand.page.getByRole('button', { name: 'Inspect' }).waitFor();
    await hand.settled();
  };

describe('the inspector of a table', () => {
  it('shows where greys fall and step, and what of the cube clips or folds', async () => {
    await hand.add('print', 'lut');
    await bring(file('bad.cube', ([r, g, b]) => [Math.min(1, r * 1.6), g < 0.6 ? g : 1.2 - g, Math.round(b * 8) / 8], 33));
    await hand.page.getByRole('button', { name: 'Inspect' }).click();
    const greys = dialog().getByRole('img', { name: 'The greys through the table, by channel' });
    await greys.waitFor();
    expect(await greys.textContent()).toMatch(/falls.*steps/s);
    await dialog()
      .getByText(/The greys fall back in green from 6\d % on/)
      .waitFor();
    await dialog()
      .getByText(/go up in steps \(blue at \d+ %\)/)
      .waitFor();
    const drawn = (): Promise<string> =>
      dialog()
        .locator('canvas.table-cube')
        .evaluate((c: HTMLCanvasElement) => c.toDataURL());
    const all = await drawn();
    await dialog().getByRole('tab', { name: 'What clips' }).click();
    const clips = await drawn();
    await dialog().getByRole('tab', { name: 'What folds' }).click();
    const folds = await drawn();
    expect(new Set([all, clips, folds]).size).toBe(3);
  });
  it('the cube is turned by dragging and by arrows, slices run along any channel', async () => {
    await dialog().getByRole('tab', { name: 'All colours' }).click();
    const cube = dialog().locator('canvas.table-cube'),
      drawn = (): Promise<string> => cube.evaluate((c: HTMLCanvasElement) => c.toDataURL()),
      before = await drawn(),
      b = (await cube.boundingBox())!;
    await hand.page.mouse.move(b.x + 100, b.y + 100);
    await hand.page.mouse.down();
    await hand.page.mouse.move(b.x + 180, b.y + 120, { steps: 4 });
    await hand.page.mouse.up();
    const turned = await drawn();
    expect(turned).not.toBe(before);
    await cube.focus();
    await hand.page.keyboard.press('ArrowLeft');
    expect(await drawn()).not.toBe(turned);
    await dialog().getByRole('tab', { name: 'Red' }).click();
    // at red 0 % nothing of the slice is red, at 100 % all of it is
    const red = (words: string): Promise<number> =>
      dialog()
        .getByRole('img', { name: `Slice with ${words}` })
        .evaluate((c: HTMLCanvasElement) => {
          const d = c.getContext('2d')!.getImageData(0, 0, c.width, c.height).data;
          let sum = 0;
          for (let i = 0; i < d.length; i += 4) sum += d[i]!;
          return sum / (d.length / 4);
        });
    expect(await red('red at 0 %')).toBeLessThan(1);
    expect(await red('red at 100 %')).toBeGreaterThan(254);
    await close();
  });
  it('a sound table has nothing against it', async () => {
    await bring(file('sound.cube', (c) => c.map((v) => v * v * (3 - 2 * v)) as unknown as Rgb, 33));
    await hand.page.getByRole('button', { name: 'Inspect' }).click();
    await dialog().getByText('Nothing speaks against it').waitFor();
    await close();
    await hand.undoAll();
  });
});

describe('a lookup table as the stock', () => {
  it('turns light into the picture, and its strength mixes with the plain response', async () => {
    const before = await hand.patch(0.5, 0.5),
      baked = join(work, 'stock.cube');
    dyepot('bake', join(root, 'e2e/looks/oak-gall.json'), '--out', baked, '--input', 'acescct');
    await hand.page.evaluate(() => window.localStorage.clear());
    const look = JSON.parse(readFileSync(join(root, 'e2e/looks/weld-morning.json'), 'utf8')) as object,
      answer = await hand.page.request.post(`${stage.origin}/api/looks`, {
        data: {
          ...look,
          name: 'Table stock',
          scene: [],
          print: [],
          stock: {
            id: 'stock',
            kind: 'tableStock',
            name: '',
            on: true,
            strength: 1,
            params: { encoding: 'acescct', output: 'srgb' },
            mask: null,
          },
        },
        headers: { Origin: stage.origin },
      }),
      { id } = (await answer.json()) as { id: number };
    await hand.page.goto(`${stage.origin}/bench?look=${id}`);
    await hand.settled();
    await hand.page.getByRole('button', { name: /^Table stock/ }).click();
    await bring(baked);
    const grey = await hand.patch(0.5, 0.5);
    // oak gall is a black-and-white look: the blue cloth has no colour under it
    expect(Math.abs(before[2]! - before[0]!)).toBeGreaterThan(40);
    expect(Math.max(...grey) - Math.min(...grey)).toBeLessThan(12);
    await hand.type('Strength', 50);
    const half = await hand.patch(0.5, 0.5);
    expect(half[2]! - half[0]!).toBeGreaterThan(10);
    expect(half[2]! - half[0]!).toBeLessThan(before[2]! - before[0]!);
  });
});

describe('the sheet that bakes', () => {
  it('offers what each format can hold, leaves out what no table can, and says how near it comes', async () => {
    await hand.add('scene', 'fog');
    await hand.type('Clear, or add below zero', 40);
    await hand.page.getByRole('button', { name: 'Bake…' }).click();
    await dialog().getByText('Haze cannot be in a table').waitFor();
    expect(await dialog().getByRole('checkbox', { name: 'Haze' }).isDisabled()).toBe(true);
    const inputs = async (): Promise<string[]> => dialog().getByLabel('Made for').locator('option').allTextContents();
    expect(await inputs()).toHaveLength(3);
    await dialog().getByLabel('File format').selectOption('png');
    expect(await inputs()).toHaveLength(2);
    await dialog().getByLabel('File format').selectOption('cc');
    await dialog()
      .getByText(/Ten numbers cannot hold this look|at worst/)
      .first()
      .waitFor();
    expect(await dialog().getByLabel('Size').count()).toBe(0);
  });
  it('a CLF from linear light is read by OpenColorIO and the command line alike', async () => {
    await dialog().getByLabel('File format').selectOption('clf');
    await dialog().getByLabel('Made for').selectOption('linear');
    await dialog()
      .getByText(/CIEDE2000/)
      .waitFor();
    const [download] = await Promise.all([
        hand.page.waitForEvent('download'),
        dialog().getByRole('button', { name: 'Save the file' }).click(),
      ]),
      path = join(work, 'linear.clf');
    await download.saveAs(path);
    expect(readFileSync(path, 'utf8')).toMatch(/<Log [^>]*linToLog[\s\S]*<LUT3D/);
    for (const colour of [
      [0.18, 0.18, 0.18],
      [1.5, 0.4, 0.02],
      [0.01, 0.02, 0.03],
    ].map((c) => c.map(String))) {
      const ours = dyepot('probe', path, ...colour)
          .trim()
          .split(/\s+/)
          .map(Number),
        theirs = execFileSync('ociochecklut', [path, ...colour], { encoding: 'utf8' })
          .trim()
          .split(/\s+/)
          .map(Number);
      ours.forEach((v, k) => expect(Math.abs(v - theirs[k]!)).toBeLessThan(1e-4));
    }
    await close();
  });
  it('nothing was complained of in the browser’s console', () => expect(stage.complaints).toEqual([]));
});
