import { existsSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Page } from 'playwright-core';
import type { Frame } from '@dyepot/web/src/types.ts';
import { setShoot, type ShootStage } from './shootStage.ts';

let stage: ShootStage, page: Page;
beforeAll(async () => {
  stage = await setShoot();
  page = stage.page;
});
afterAll(async () => {
  await stage.close();
});
const named = (name: string): Promise<Frame> => stage.named(name),
  repairs = async (): Promise<Frame['repairs']> =>
    ((await (await page.request.get(`${stage.origin}/api/frames/${(await named('TR-0419')).id}`)).json()) as Frame).repairs,
  /** the picture as the screen has it, whole and quiet, as one number */
  shown = async (): Promise<number> => {
    await page.locator('canvas[data-testid=lead][data-ready]:not([aria-busy])').waitFor();
    return page.locator('canvas[data-testid=lead]').evaluate((c: HTMLCanvasElement) => {
      let sum = 0;
      for (const v of c.getContext('2d')!.getImageData(0, 0, c.width, c.height).data) sum = (sum * 31 + v) | 0;
      return sum;
    });
  },
  /** whether that is what the server renders, byte for byte */
  sameAsServer = (): Promise<unknown> =>
    expect
      .poll(
        () =>
          page.evaluate(async () => {
            const c = document.querySelector<HTMLCanvasElement>('canvas[data-testid=lead]')!,
              [frame, level, rect] = c.dataset['ready']!.split('/'),
              [x, y, width, height] = rect!.split(',').map(Number),
              answer = await fetch(`/api/frames/${frame}/region/${level}`, {
                method: 'POST',
                headers: { 'Content-Type': 'application/json' },
                body: JSON.stringify({ look: null, area: { x, y, width, height } }),
              }),
              theirs = new Uint8Array(await answer.arrayBuffer()),
              ours = c.getContext('2d')!.getImageData(0, 0, c.width, c.height).data;
            return theirs.length === ours.length && ours.every((v, i) => v === theirs[i]);
          }),
        patience,
      )
      .toBe(true);
const patience = { timeout: 20_000, interval: 120 };

describe('repairs', () => {
  it('a spot is healed where it is clicked, its source found by itself; the screen is the server’s own, byte for byte', async () => {
    await page.goto(`${stage.origin}/ground?shoot=1&frame=${(await named('TR-0419')).id}`);
    await shown();
    await page.getByRole('tab', { name: /^Repair/ }).click();
    const before = await shown(),
      overlay = (await page.getByTestId('repairs').boundingBox())!;
    await page.mouse.click(overlay.x + overlay.width * 0.72, overlay.y + overlay.height * 0.62);
    await expect.poll(async () => (await repairs()).length, patience).toBe(1);
    expect((await repairs())[0]).toMatchObject({ kind: 'heal', shape: { kind: 'spot' } });
    await expect.poll(shown, patience).not.toBe(before);
    await sameAsServer();
  });
  it('the place is smoothed over at once, and the exact view at fit has the repair', async () => {
    const exact = page.locator('canvas[data-testid=exact]:not(.hidden)'),
      pixels = (): Promise<number> =>
        exact.evaluate((c: HTMLCanvasElement) =>
          c
            .getContext('2d')!
            .getImageData(0, 0, c.width, c.height)
            .data.reduce((sum, v) => (sum * 31 + v) | 0, 0),
        );
    await exact.waitFor();
    const before = await pixels(),
      overlay = (await page.getByTestId('repairs').boundingBox())!;
    await page.mouse.click(overlay.x + overlay.width * 0.3, overlay.y + overlay.height * 0.42);
    await page.locator('.repair-instant').waitFor();
    await page.locator('.repair-instant').waitFor({ state: 'detached' });
    await exact.waitFor();
    await expect.poll(pixels, patience).not.toBe(before);
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await repairs()).length, patience).toBe(1);
    await expect.poll(pixels, patience).toBe(before);
    await page.locator(`[data-repair="${(await repairs())[0]!.id}"]`).click();
  });
  it('its source is dragged and asked for anew; it is off, turned, taken out, and all of that undone', async () => {
    const first = (await repairs())[0]!.source!,
      box = (await page.getByTestId('repair-source').boundingBox())!;
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width / 2 - 40, box.y + box.height / 2 - 20, { steps: 4 });
    await page.mouse.up();
    await expect.poll(async () => (await repairs())[0]!.source!.dx, patience).toBeLessThan(first.dx - 0.02);
    await sameAsServer();
    await page.getByRole('button', { name: 'Another source' }).click();
    await expect.poll(async () => (await repairs())[0]!.source!.dx, patience).not.toBeCloseTo(first.dx - 0.05, 2);
    await page.getByRole('slider', { name: 'Turn' }).focus();
    await page.keyboard.press('ArrowRight');
    await expect.poll(async () => (await repairs())[0]!.source!.turn, patience).toBe(1);
    await page.getByRole('button', { name: 'Take out' }).click();
    await expect.poll(async () => (await repairs()).length, patience).toBe(0);
    for (let i = 0; i < 4; i++) await page.keyboard.press('Control+z');
    await expect.poll(async () => (await repairs())[0]?.source?.dx, patience).toBeCloseTo(first.dx, 6);
  });
  it('a straight line by two clicks, a source set by hand before, a copy, all moved by keys', async () => {
    const overlay = (await page.getByTestId('repairs').boundingBox())!,
      at = (u: number, v: number): [number, number] => [overlay.x + overlay.width * u, overlay.y + overlay.height * v],
      count = (await repairs()).length;
    await page.keyboard.down('Alt');
    await page.mouse.click(...at(0.5, 0.3));
    await page.keyboard.up('Alt');
    await page.getByTestId('source-set').waitFor();
    await page.keyboard.down('Shift');
    await page.mouse.click(...at(0.4, 0.4));
    await page.mouse.click(...at(0.5, 0.4));
    await page.keyboard.up('Shift');
    await expect.poll(async () => (await repairs()).length, patience).toBe(count + 1);
    const line = (await repairs())[count]!;
    expect(line.shape).toMatchObject({ kind: 'line', points: { length: 2 } });
    // taken from where the click was: beside and above the line's middle
    expect(line.source!.dy).toBeLessThan(-0.05);
    expect(line.source!.dx).toBeGreaterThan(0.02);
    await page.keyboard.press('d');
    await expect.poll(async () => (await repairs()).length, patience).toBe(count + 2);
    const middleOf = (r: Frame['repairs'][number]): number => (r.shape.kind === 'line' ? r.shape.points[0]![0] : 0),
      copied = middleOf((await repairs())[count + 1]!);
    expect(copied).toBeGreaterThan(middleOf(line));
    await page.getByTestId('repairs').focus();
    for (let i = 0; i < 3; i++) await page.keyboard.press('Alt+ArrowLeft');
    await expect.poll(async () => middleOf((await repairs())[count + 1]!), patience).toBeLessThan(copied - 0.005);
    for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
    await expect.poll(async () => (await repairs()).length, patience).toBe(count);
  });
  it('a wire is brushed away by a fill; the crop changes and the repair stays on its thing', async () => {
    await page.getByRole('radiogroup', { name: 'How it is repaired' }).getByRole('radio', { name: 'Fill' }).click();
    const overlay = (await page.getByTestId('repairs').boundingBox())!;
    await page.mouse.move(overlay.x + overlay.width * 0.3, overlay.y + overlay.height * 0.55);
    await page.mouse.down();
    await page.mouse.move(overlay.x + overlay.width * 0.36, overlay.y + overlay.height * 0.57, { steps: 8 });
    await page.mouse.up();
    await expect.poll(async () => (await repairs()).length, patience).toBe(2);
    expect((await repairs())[1]).toMatchObject({ kind: 'fill', source: null, shape: { kind: 'line' } });
    await sameAsServer();
    const kept = JSON.stringify(await repairs());
    await page.getByRole('tab', { name: /^Crop and angle/ }).click();
    await page.getByRole('slider', { name: /Straighten/ }).focus();
    for (let i = 0; i < 3; i++) await page.keyboard.press('Alt+ArrowRight');
    await expect.poll(async () => (await named('TR-0419')).groundwork?.geometry.straighten ?? 0, patience).toBeGreaterThan(0);
    await page.getByRole('tab', { name: /^Repair/ }).click();
    expect(JSON.stringify(await repairs())).toBe(kept);
    await sameAsServer();
    await page.keyboard.press('2');
    await expect.poll(async () => page.locator('canvas[data-testid=lead]').getAttribute('data-ready'), patience).toMatch(/^\d+\/0\//);
    await sameAsServer();
    await page.keyboard.press('1');
    const mended = await shown();
    await page.keyboard.press('h');
    await page.getByRole('button', { name: 'Without repairs', pressed: true }).waitFor();
    await expect.poll(shown, patience).not.toBe(mended);
    await page.keyboard.press('h');
    await expect.poll(shown, patience).toBe(mended);
  });
  it('a delivery has them: the file’s pixels are the server’s own picture at full size', async () => {
    const { id } = await named('TR-0419'),
      folder = mkdtempSync(join(tmpdir(), 'dyepot-mended-')),
      shoot = (await (await page.request.get(`${stage.origin}/api/shoots/1`)).json()) as { look: { id: number } | null },
      look =
        shoot.look &&
        ((await (await page.request.get(`${stage.origin}/api/looks/${shoot.look.id}`)).json()) as { document: object }).document;
    const order = await page.request.post(`${stage.origin}/api/deliveries`, {
      data: {
        shootId: 1,
        frameIds: [id],
        folder,
        file: { format: 'png', depth: 8, space: 'srgb', size: null, quality: 92 },
        conflict: 'rename',
        doubtful: 'deliver',
      },
    });
    expect(order.status()).toBe(200);
    await expect.poll(() => existsSync(join(folder, 'TR-0419.png')), { timeout: 60_000, interval: 200 }).toBe(true);
    const file = await sharp(join(folder, 'TR-0419.png')).ensureAlpha().raw().toBuffer(),
      whole = await page.request.post(`${stage.origin}/api/frames/${id}/region/0`, { data: { look } });
    expect(file.equals(await whole.body())).toBe(true);
  });
  it('what was done the moment before another frame is opened is kept', async () => {
    const overlay = (await page.getByTestId('repairs').boundingBox())!,
      count = (await repairs()).length;
    await page.getByRole('radiogroup', { name: 'How it is repaired' }).getByRole('radio', { name: 'Fill' }).click();
    await page.mouse.click(overlay.x + overlay.width * 0.5, overlay.y + overlay.height * 0.4);
    await page.keyboard.press('PageDown');
    await page
      .getByRole('heading', { name: 'TR-0421' })
      .or(page.getByText('TR-0421', { exact: true }))
      .first()
      .waitFor();
    await expect.poll(async () => (await repairs()).length, patience).toBe(count + 1);
  });
  it('what was done to a frame is undone after another was open', async () => {
    const count = (await repairs()).length;
    await page.keyboard.press('PageUp');
    await page
      .getByRole('heading', { name: 'TR-0419' })
      .or(page.getByText('TR-0419', { exact: true }))
      .first()
      .waitFor();
    await shown();
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await repairs()).length, patience).toBe(count - 1);
    await page.keyboard.press('Control+Shift+z');
    await expect.poll(async () => (await repairs()).length, patience).toBe(count);
  });
  it('a fill that takes long is stopped with Escape, and is taken back', async () => {
    const count = (await repairs()).length,
      overlay = (await page.getByTestId('repairs').boundingBox())!,
      radios = page.getByRole('radiogroup', { name: 'What is drawn' });
    await radios.getByRole('radio', { name: 'Outline' }).click();
    // every save of repairs is held back for as long as a large frame would take
    await page.route(/\/repairs$/, async (route) => {
      await new Promise((resolve) => setTimeout(resolve, 1500));
      await route.continue();
    });
    const at = (u: number, v: number): [number, number] => [overlay.x + overlay.width * u, overlay.y + overlay.height * v];
    await page.mouse.move(...at(0.4, 0.3));
    await page.mouse.down();
    for (const [u, v] of [
      [0.47, 0.3],
      [0.47, 0.38],
      [0.4, 0.38],
      [0.4, 0.31],
    ] as const)
      await page.mouse.move(...at(u, v), { steps: 4 });
    await page.mouse.up();
    await page.getByRole('button', { name: 'Stop' }).waitFor();
    await page.keyboard.press('Escape');
    await page.getByText('Fill stopped').waitFor();
    await page.unrouteAll({ behavior: 'wait' });
    await page.getByText('Repairing…').waitFor({ state: 'detached', timeout: 20_000 });
    await expect.poll(async () => (await repairs()).length, patience).toBe(count);
    await radios.getByRole('radio', { name: 'Spot' }).click();
  });
  it('a far figure on the moor is filled away by its outline, one point’s feather narrowed', async () => {
    const frame = await named('TR-0466'),
      ofFrame = async (): Promise<Frame['repairs']> =>
        ((await (await page.request.get(`${stage.origin}/api/frames/${frame.id}`)).json()) as Frame).repairs;
    await page.goto(`${stage.origin}/ground?shoot=1&frame=${frame.id}`);
    await page.getByRole('tab', { name: /^Repair/ }).click();
    await page.getByRole('radiogroup', { name: 'How it is repaired' }).getByRole('radio', { name: 'Fill' }).click();
    await page.getByRole('radiogroup', { name: 'What is drawn' }).getByRole('radio', { name: 'Outline' }).click();
    await shown();
    const overlay = (await page.getByTestId('repairs').boundingBox())!,
      canvas = (await page.locator('canvas[data-testid=lead]').boundingBox())!,
      at = (u: number, v: number): [number, number] => [canvas.x + canvas.width * u, canvas.y + canvas.height * v];
    expect(overlay.width).toBeGreaterThan(400);
    await page.mouse.move(...at(0.2, 0.5));
    await page.mouse.down();
    for (const [u, v] of [
      [0.24, 0.5],
      [0.24, 0.58],
      [0.2, 0.58],
      [0.2, 0.51],
    ] as const)
      await page.mouse.move(...at(u, v), { steps: 4 });
    await page.mouse.up();
    await expect.poll(async () => (await ofFrame()).length, patience).toBe(1);
    const point = page.locator('.repair-point').first(),
      box = (await point.boundingBox())!,
      feathers = async (): Promise<number[]> => {
        const { shape } = (await ofFrame())[0]!;
        return shape.kind === 'outline' ? shape.points.map((p) => p[2]) : [];
      },
      before = await feathers();
    await page.keyboard.down('Alt');
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2 + 30, { steps: 3 });
    await page.mouse.up();
    await page.keyboard.up('Alt');
    await expect.poll(async () => (await feathers())[0]!, patience).toBeLessThan(before[0]!);
    expect((await feathers()).slice(1)).toEqual(before.slice(1));
    await sameAsServer();
  });
  it('nonsense is refused with a sentence and changes nothing', async () => {
    const { id, repairVersion } = await named('TR-0419'),
      answer = await page.request.put(`${stage.origin}/api/frames/${id}/repairs`, {
        data: {
          version: repairVersion,
          repairs: {
            format: 'dyepot-repairs',
            version: 1,
            repairs: [{ id: 'a', kind: 'heal', shape: { kind: 'spot', x: 3, y: 0, radius: 0.1 }, source: { dx: 0, dy: 0 } }],
          },
        },
      });
    expect([answer.status(), ((await answer.json()) as { message: string }).message]).toEqual([400, expect.stringMatching(/^repair 1: /)]);
    expect((await repairs()).length).toBe(3);
  });
});
