import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Page } from 'playwright-core';
import type { Frame } from '@dyepot/web/src/types.ts';
import { benchHand, type BenchHand } from './benchHand.ts';
import { leadAsServer, painted, setStage, type Stage } from './stage.ts';

let stage: Stage, hand: BenchHand, page: Page;
beforeAll(async () => {
  stage = await setStage();
  hand = await benchHand(stage, 'TR-0451');
  page = hand.page;
});
afterAll(async () => {
  await stage.close();
});
const luma = ([r, g, b]: number[]): number => 0.2126 * r! + 0.7152 * g! + 0.0722 * b!,
  at = async (x: number, y: number): Promise<number> => luma(await hand.patch(x, y)),
  saved = (): Promise<unknown> => page.waitForFunction(() => document.documentElement.dataset['saving'] === 'kept'),
  frameNow = async (name: string): Promise<Frame> => {
    const shoot = (await (await page.request.get(`${stage.origin}/api/shoots/1`)).json()) as { frames: Frame[] };
    return shoot.frames.find((f) => f.name === name)!;
  };
/** Opens a menu, as often as it takes: while its code arrives the first press may be lost on a busy machine. */
const choose = async (button: string, item: string): Promise<void> => {
  const wanted = page.getByRole('menuitem', { name: item });
  for (let i = 0; i < 4 && !(await wanted.isVisible()); i++) {
    await page.getByRole('button', { name: button }).click();
    await wanted.waitFor({ timeout: 4000 }).catch(() => {});
  }
  await wanted.click();
};
/** Opens the menu of the step in hand. */
const menu = async (): Promise<void> => {
  await page.locator('.chip.selected .chip-more').click();
};
const sky = [0.4, 0.15] as const,
  cloth = [0.36, 0.5] as const,
  grass = [0.5, 0.9] as const;

describe('where', () => {
  it('darkens only the sky it finds, within a gradient; shows where; says which frames have none; the screen is the server’s', async () => {
    await hand.undoAll();
    const before = { sky: await at(...sky), cloth: await at(...cloth), grass: await at(...grass) };
    await hand.add('scene', 'exposure');
    await page.getByLabel('Where it acts').selectOption('sky');
    await hand.type('Shift', -1.5);
    await hand.settled();
    await expect.poll(() => at(...sky)).toBeLessThan(before.sky - 25);
    await expect.poll(async () => Math.abs((await at(...cloth)) - before.cloth)).toBeLessThan(2);
    await expect.poll(async () => Math.abs((await at(...grass)) - before.grass)).toBeLessThan(2);
    await page.getByText(/sure \d\.\d/).waitFor();
    await page.getByText('no sky').first().waitFor();
    expect((await leadAsServer(page)).equal).toBe(true);
    await choose('∩ only inside', 'along a gradient');
    await hand.settled();
    // the middle of the gradient is pulled up with the keys until the sky over it is left alone
    const end = page.getByRole('slider', { name: 'Gradient: where it begins' });
    await end.focus();
    await page.keyboard.press('Alt+ArrowUp');
    await hand.settled();
    expect((await hand.look()).scene.at(-1)!.mask!.parts).toHaveLength(2);
    await page.getByRole('radio', { name: 'grey' }).click();
    await page.waitForFunction(() => {
      const c = document.querySelector<HTMLCanvasElement>('canvas[data-testid=place]');
      return c !== null && c.width > 300 && c.getContext('2d')!.getImageData(Math.round(c.width * 0.4), 4, 1, 1).data[0]! > 200;
    });
    await page.getByRole('radio', { name: 'not shown' }).click();
    expect((await leadAsServer(page)).equal).toBe(true);
  });
  it('holds two steps together under one place and one strength, with one undo each', async () => {
    await hand.add('scene', 'warmth');
    await menu();
    await page.getByRole('menuitem', { name: /Hold together/ }).click();
    await hand.settled();
    const skein = page.getByRole('button', { name: /Together 100 %/ });
    await skein.click();
    await page.getByLabel('Where the skein acts').selectOption('radial');
    await page.getByRole('slider', { name: 'Strength', exact: true }).first().focus();
    for (let i = 0; i < 4; i++) await page.keyboard.press('Alt+ArrowLeft');
    await hand.settled();
    const look = await hand.look();
    expect(look.skeins[0]!.strength).toBeLessThan(1);
    expect(look.skeins[0]!.mask!.parts[0]!.kind).toBe('radial');
    expect(new Set(look.scene.map((s) => s.skein))).toEqual(new Set([look.skeins[0]!.id]));
    expect((await leadAsServer(page)).equal).toBe(true);
    await page.getByRole('button', { name: 'Let go', exact: true }).click();
    await hand.settled();
    expect((await hand.look()).skeins).toEqual([]);
  });
  it('pins each place on the picture, draws it in its chip, and shows it only while it is held where one wants that', async () => {
    await hand.undoAll();
    await hand.add('scene', 'exposure');
    await page.getByLabel('Where it acts').selectOption('radial');
    await hand.add('print', 'saturation');
    const pin = page.getByRole('button', { name: /^Take Exposure/ });
    await pin.waitFor();
    const [dot, lead] = [(await pin.boundingBox())!, await hand.lead()],
      centre = [dot.x + dot.width / 2 - lead.x, dot.y + dot.height / 2 - lead.y];
    // a pool begins in the middle of the picture
    expect(Math.abs(centre[0]! / lead.width - 0.5)).toBeLessThan(0.02);
    expect(Math.abs(centre[1]! / lead.height - 0.5)).toBeLessThan(0.02);
    expect(await page.getByRole('img', { name: 'acts pool' }).locator('ellipse').count()).toBe(1);
    await pin.click();
    await page.getByRole('radio', { name: 'while held' }).click();
    await page.getByLabel('its colour').fill('#00ff40');
    const place = page.getByTestId('place'),
      middle = page.getByRole('slider', { name: 'Pool: its middle' });
    expect(await place.count()).toBe(0);
    await middle.hover();
    await page.mouse.down();
    await page.waitForFunction(() => {
      const c = document.querySelector<HTMLCanvasElement>('canvas[data-testid=place]');
      if (!c || c.width < 300) return false;
      const [r, g, b, a] = c.getContext('2d')!.getImageData(c.width >> 1, c.height >> 1, 1, 1).data;
      return r! < 8 && g! > 245 && Math.abs(b! - 64) < 8 && a! > 100;
    });
    await page.mouse.up();
    await place.waitFor({ state: 'detached' });
    // by the keys too
    await middle.focus();
    await page.keyboard.down('ArrowRight');
    await place.waitFor();
    await page.keyboard.up('ArrowRight');
    await place.waitFor({ state: 'detached' });
    await page.getByRole('radio', { name: 'not shown' }).click();
    await hand.settled();
  });
  it('paints on this frame alone: kept on the server, there after a reload, not in the look; erased, undone; given to another frame', async () => {
    await hand.undoAll();
    const before = await at(...grass);
    await page.getByRole('tab', { name: /This frame/ }).click();
    await hand.add('scene', 'exposure');
    await page.getByLabel('Where it acts').selectOption('brush');
    await hand.type('Shift', 1.5);
    const box = await hand.lead(),
      paint = async (): Promise<void> => {
        await page.mouse.move(box.x + box.width * 0.45, box.y + box.height * 0.9);
        await page.mouse.down();
        await page.mouse.move(box.x + box.width * 0.55, box.y + box.height * 0.9, { steps: 6 });
        await page.mouse.up();
        await hand.settled();
      };
    // what is painted acts while the hand still moves, and is nothing where that is given up
    await page.mouse.move(box.x + box.width * 0.45, box.y + box.height * 0.9);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width * 0.55, box.y + box.height * 0.9, { steps: 6 });
    await expect.poll(() => at(...grass)).toBeGreaterThan(before + 15);
    await page.keyboard.press('Escape');
    await expect.poll(async () => Math.abs((await at(...grass)) - before)).toBeLessThan(1);
    await page.mouse.up();
    await paint();
    await expect.poll(() => at(...grass)).toBeGreaterThan(before + 15);
    await hand.settled();
    const bright = await at(...grass);
    await page.getByText('this frame only').waitFor();
    await page.keyboard.press('e');
    await paint();
    await expect.poll(() => at(...grass)).toBeLessThan(bright - 5);
    await page.keyboard.press('Control+z');
    await hand.settled();
    await expect.poll(async () => Math.abs((await at(...grass)) - bright)).toBeLessThan(2);
    await saved();
    expect((await frameNow('TR-0451')).steps!.scene[0]!.mask!.parts[0]).toMatchObject({ kind: 'brush' });
    expect((await leadAsServer(page)).equal).toBe(true);
    await page.reload();
    await painted(page);
    await hand.settled();
    await expect.poll(async () => Math.abs((await at(...grass)) - bright)).toBeLessThan(2);
    // its menu keeps the brush out of the look, and gives it to a frame when asked to
    await page.getByRole('tab', { name: /This frame/ }).click();
    await page.locator('.chip-face').first().click();
    // a thing is cut out of a box drawn round it
    await choose('∩ only inside', 'on a thing in a box');
    const stage = await hand.lead();
    await page.mouse.move(stage.x + stage.width * 0.4, stage.y + stage.height * 0.7);
    await page.mouse.down();
    await page.mouse.move(stage.x + stage.width * 0.6, stage.y + stage.height * 0.98, { steps: 4 });
    await page.mouse.up();
    await page.getByText('Drag a box again for another.').waitFor();
    await hand.settled();
    await saved();
    const parts = (await frameNow('TR-0451')).steps!.scene[0]!.mask!.parts;
    expect(parts[1]).toMatchObject({ kind: 'figure', mode: 'intersect' });
    expect((parts[1] as { width: number }).width).toBeGreaterThan(20);
    expect((await leadAsServer(page)).equal).toBe(true);
    await page.getByRole('button', { name: 'Take Thing in a box out' }).click();
    await hand.settled();
    await saved();
    await menu();
    await page.getByRole('menuitem', { name: 'Its place belongs to this frame' }).waitFor();
    await page.getByRole('menuitem', { name: 'Give to frames…' }).click();
    await page.getByRole('button', { name: 'All', exact: true }).click();
    await page.getByRole('button', { name: 'None', exact: true }).click();
    await page.getByLabel(/TR-0452/).check();
    await page.getByRole('button', { name: 'Give to 1 frame' }).click();
    await page.getByText('Given to 1 frame').waitFor();
    expect((await frameNow('TR-0452')).steps!.scene).toHaveLength(1);
  });
});
