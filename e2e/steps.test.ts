import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Page } from 'playwright-core';
import { writeCube } from '@dyepot/core/src/formats/cube.ts';
import { table3d } from '@dyepot/core/src/colour/table.ts';
import type { Look } from '@dyepot/core/src/look/look.ts';
import { benchHand, type BenchHand } from './benchHand.ts';
import { leadAsServer, meanOf, painted, setStage, still, type Stage, until } from './stage.ts';

let stage: Stage, hand: BenchHand, page: Page;
const work = mkdtempSync(join(tmpdir(), 'dyepot-steps-'));
beforeAll(async () => {
  stage = await setStage();
  hand = await benchHand(stage, 'TR-0451');
  page = hand.page;
});
afterAll(async () => {
  await stage.close();
});
const add: BenchHand['add'] = (...a) => hand.add(...a),
  patch: BenchHand['patch'] = (...a) => hand.patch(...a),
  look: BenchHand['look'] = () => hand.look(),
  lead: BenchHand['lead'] = () => hand.lead(),
  settled: BenchHand['settled'] = () => hand.settled(),
  undoAll: BenchHand['undoAll'] = () => hand.undoAll(),
  last = async (): Promise<Look['stock']> => (await look()).print.at(-1)!;

describe('steps that lend the hand a tool', () => {
  it('a hue is dragged on the picture itself: the yellow cloth turns, the blue one stays', async () => {
    await add('print', 'yellow to orange');
    await page.getByRole('button', { name: 'Drag on the picture' }).click();
    const b = await lead(),
      yellow = await patch(0.3, 0.5),
      blue = await patch(0.5, 0.5);
    // the colours that come to the step are drawn apart
    await still(page, 40);
    await page.mouse.move(b.x + b.width * 0.3, b.y + b.height * 0.5);
    await page.mouse.down();
    await page.mouse.move(b.x + b.width * 0.3, b.y + b.height * 0.5 + 90, { steps: 5 });
    await page.mouse.up();
    // the hand is waited for by what comes to the step
    await until(last, (s) => (s.params['hue'] as unknown[]).length === 1);
    await settled();
    const after = await patch(0.3, 0.5),
      still_ = await patch(0.5, 0.5);
    expect(yellow[1]! / yellow[0]! - after[1]! / after[0]!).toBeGreaterThan(0.1);
    expect(Math.abs(still_[2]! - blue[2]!)).toBeLessThan(2);
    expect((await last()).params['hue']).toHaveLength(1);
    // the same cloth again, though it looks another colour now, moves the same handle
    await page.mouse.move(b.x + b.width * 0.3, b.y + b.height * 0.5);
    await page.mouse.down();
    await page.mouse.move(b.x + b.width * 0.3, b.y + b.height * 0.5 + 30, { steps: 3 });
    await page.mouse.up();
    await settled();
    expect((await last()).params['hue']).toHaveLength(1);
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Control+z');
    expect((await last()).params['hue']).toHaveLength(0);
  });
  it('a handle is set in the band, moved by arrows and deleted', async () => {
    const band = (await page.getByRole('group', { name: 'Hue to hue' }).boundingBox())!;
    await page.mouse.click(band.x + band.width * 0.7, band.y + band.height * 0.25);
    const handle = page.getByRole('slider', { name: /^Handle at/ });
    await handle.focus();
    const before = Number(await handle.getAttribute('aria-valuenow'));
    await page.keyboard.press('ArrowUp');
    expect(Number(await handle.getAttribute('aria-valuenow'))).toBe(before + 1);
    await page.keyboard.press('Delete');
    expect(await handle.count()).toBe(0);
  });
  it('a colour is picked, its range shown, and shifted: only the blue cloth changes', async () => {
    await add('print', 'recolour');
    await page.getByRole('button', { name: 'Pick a colour' }).click();
    await settled();
    const b = await lead();
    await page.mouse.click(b.x + b.width * 0.5, b.y + b.height * 0.5);
    await settled();
    const { params } = await last();
    expect(Number(params['hue'])).toBeGreaterThan(225);
    expect(Number(params['hue'])).toBeLessThan(290);
    const show = (await page.getByRole('button', { name: 'Hold to show' }).boundingBox())!;
    await page.mouse.move(show.x + 12, show.y + 8);
    await page.mouse.down();
    await settled();
    const [inside, outside] = [await patch(0.5, 0.5), await patch(0.3, 0.5)];
    expect(inside[0]! - inside[2]!).toBeGreaterThan(40);
    expect(Math.abs(outside[0]! - outside[2]!)).toBeLessThan(6);
    await page.mouse.up();
    await settled();
    const [blue, yellow] = [await patch(0.5, 0.5), await patch(0.3, 0.5)],
      hue = page.getByRole('slider', { name: 'Hue', exact: true });
    await hue.focus();
    for (let i = 0; i < 10; i++) await page.keyboard.press('Alt+ArrowRight');
    await settled();
    const [blueAfter, yellowAfter] = [await patch(0.5, 0.5), await patch(0.3, 0.5)];
    expect(blueAfter[0]!).toBeGreaterThan(blue[0]! + 15);
    expect(Math.abs(yellowAfter[0]! - yellow[0]!)).toBeLessThan(2);
    await undoAll();
  });
  it('a curve gets a point from the picture, a channel of its own, and levels', async () => {
    await add('print', 'levels');
    await page.getByRole('button', { name: 'Point from the picture' }).click();
    const b = await lead();
    await settled();
    await page.mouse.click(b.x + b.width * 0.3, b.y + b.height * 0.5);
    await expect.poll(async () => (await last()).params['points']).toHaveLength(3);
    // fitted ends are those of the picture that comes to the curve: fitting twice changes nothing more
    await page.getByRole('button', { name: 'Fit ends' }).click();
    const fitted = (await until(last, (s) => (s.params['points'] as [number, number][])[0]![0] > 0)).params['points'] as [number, number][];
    expect(fitted[0]![0]).toBeGreaterThan(0);
    expect(fitted[fitted.length - 1]![0]).toBeLessThanOrEqual(1);
    await settled();
    await page.getByRole('button', { name: 'Fit ends' }).click();
    await settled();
    expect((await last()).params['points']).toEqual(fitted);
    await page.getByRole('tab', { name: 'Red' }).click();
    await page.getByRole('tab', { name: 'Levels' }).click();
    const before = await meanOf(page),
      black = page.getByRole('slider', { name: 'Black out', exact: true });
    await black.focus();
    for (let i = 0; i < 4; i++) await page.keyboard.press('Alt+ArrowRight');
    await settled();
    expect((await meanOf(page))[0]!).toBeGreaterThan(before[0]! + 8);
    expect(Math.abs((await meanOf(page))[2]! - before[2]!)).toBeLessThan(2);
    await undoAll();
  });
  it('haze and local contrast act on the whole picture alike, fitted and at 100 %', async () => {
    await add('scene', 'fog');
    const before = await patch(0.5, 0.3),
      clear = page.getByRole('slider', { name: 'Clear, or add below zero' });
    await clear.focus();
    for (let i = 0; i < 6; i++) await page.keyboard.press('Alt+ArrowRight');
    await settled();
    expect(Math.abs((await patch(0.5, 0.3))[0]! - before[0]!)).toBeGreaterThan(2);
    await page.keyboard.press('2');
    await page.waitForFunction(() =>
      /^\d+\/0\//.test(document.querySelector<HTMLCanvasElement>('canvas[data-testid=lead]')!.dataset['ready'] ?? ''),
    );
    await settled();
    const { equal } = await leadAsServer(page);
    expect(equal).toBe(true);
    await page.keyboard.press('1');
    await undoAll();
  });
});

describe('tables', () => {
  const cube = join(work, 'Swap.cube');
  it('a .cube is brought in, described, inspected, and changes the picture; a broken one is refused with its line', async () => {
    writeFileSync(cube, writeCube(table3d('Swap', 9, ([r, g, b]) => [b, g, r])));
    await add('print', 'lut');
    const broken = join(work, 'broken.cube');
    writeFileSync(broken, 'LUT_3D_SIZE 2\n0 0 0\n1 1\n');
    await page.getByLabel('File of the table').setInputFiles(broken);
    await page.getByText(/line 3: expected three numbers, found two numbers/).waitFor();
    const before = await patch(0.5, 0.5);
    await page.getByLabel('File of the table').setInputFiles(cube);
    await page.getByText('9³ colours').waitFor();
    await settled();
    const after = await patch(0.5, 0.5);
    expect(before[2]! - before[0]!).toBeGreaterThan(40);
    expect(after[0]! - after[2]!).toBeGreaterThan(40);
    await page.getByRole('button', { name: 'Inspect' }).click();
    await page.getByRole('img', { name: /The cube of the table/ }).waitFor();
    await page
      .getByText(/folded: neighbouring colours change places/)
      .first()
      .waitFor();
    await page.getByRole('dialog').getByRole('button', { name: 'Close' }).last().click();
  });
  it('the look is baked, and the baked file does to a picture what the look does', async () => {
    await page.getByRole('button', { name: 'Bake…' }).click();
    await page
      .getByTestId('bake-report')
      .getByText(/CIEDE2000/)
      .waitFor();
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save the file' }).click()]),
      file = join(work, 'baked.cube');
    await download.saveAs(file);
    expect(readFileSync(file, 'utf8')).toContain('LUT_3D_SIZE 33');
    const said = execFileSync('ociochecklut', [file, '0.2', '0.4', '0.7'], { encoding: 'utf8' }).trim().split(/\s+/).map(Number);
    expect(said[0]).toBeGreaterThan(0.6);
    expect(said[2]).toBeLessThan(0.3);
    await page.getByRole('dialog').getByRole('button', { name: 'Close' }).last().click();
  });
  it('a table is found from a picture pair', async () => {
    const pair = (
      await page.evaluate(async () => {
        const make = (change: boolean): Promise<string> => {
          const c = document.createElement('canvas');
          c.width = c.height = 128;
          const context = c.getContext('2d')!,
            image = context.createImageData(128, 128);
          for (let i = 0; i < 128 * 128; i++) {
            const rgb = [(i % 128) * 2, Math.floor(i / 128) * 2, (i * 7) % 256];
            for (let k = 0; k < 3; k++) image.data[i * 4 + k] = change ? [255 - rgb[0]!, rgb[1]!, rgb[2]! * 0.5][k]! : rgb[k]!;
            image.data[i * 4 + 3] = 255;
          }
          context.putImageData(image, 0, 0);
          return new Promise((done) =>
            c.toBlob((b) => {
              void b!.arrayBuffer().then((a) => done(btoa(String.fromCharCode(...new Uint8Array(a)))));
            }),
          );
        };
        return [await make(false), await make(true)];
      })
    ).map((text, i) => {
      const path = join(work, `pair-${i}.png`);
      writeFileSync(path, Buffer.from(text, 'base64'));
      return path;
    });
    await page.getByRole('button', { name: 'From a picture pair…' }).click();
    await page.getByLabel('Before', { exact: true }).setInputFiles(pair[0]!);
    await page.getByLabel('After', { exact: true }).setInputFiles(pair[1]!);
    await page.getByRole('button', { name: 'Find the table' }).click();
    await page.getByText(/of 255 codes are left on average/).waitFor({ timeout: 30000 });
    await page.getByText('17³ colours').waitFor();
  });
  it('a CDL takes the numbers of a file, whichever of its corrections is chosen; a table there is refused', async () => {
    const one = (id: string, slope: string, offset: string): string =>
        `<ColorCorrection id="${id}"><SOPNode><Slope>${slope}</Slope><Offset>${offset}</Offset><Power>1 1 1</Power></SOPNode></ColorCorrection>`,
      file = join(work, 'two.ccc');
    writeFileSync(
      file,
      `<ColorCorrectionCollection xmlns="urn:ASC:CDL:v1.2">${one('day', '1.1 1 0.9', '0 0 0')}${one('night', '0.8 0.9 1.2', '0.01 0 0.02')}</ColorCorrectionCollection>`,
    );
    await add('print', 'lift gamma gain');
    await page.getByLabel('File of the numbers').setInputFiles(file);
    await page.getByLabel('Which correction').waitFor();
    await settled();
    expect((await last()).params).toMatchObject({ slopeRed: 1.1, slopeBlue: 0.9, offsetRed: 0 });
    await page.getByLabel('Which correction').selectOption({ label: 'night' });
    await settled();
    expect((await last()).params).toMatchObject({ slopeRed: 0.8, slopeBlue: 1.2, offsetBlue: 0.02 });
    await page.keyboard.press('Control+z');
    expect((await last()).params).toMatchObject({ slopeRed: 1.1 });
    const cube = join(work, 'plain.cube');
    writeFileSync(cube, writeCube(table3d('Plain', 2, (c) => c)));
    await page.getByLabel('File of the numbers').setInputFiles(cube);
    await page.getByText('plain.cube is a table; numbers come from a .cc, .ccc or .cdl').waitFor();
    expect((await last()).params).toMatchObject({ slopeRed: 1.1 });
  });
  it('what is on the bench survives a reload, table and all', async () => {
    const before = await look();
    await page.reload();
    await painted(page);
    expect(await look()).toEqual(before);
  });
  it('nothing was complained of in the browser’s console', () => expect(stage.complaints).toEqual([]));
});
