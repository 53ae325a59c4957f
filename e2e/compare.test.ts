import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Page } from 'playwright-core';
import { noTrim, trimOf } from '@dyepot/core';
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
  exposure = async (name: string): Promise<number> => trimOf((await named(name)).steps).exposureEv,
  /** the mean of what a cell shows */
  brightness = (at: number): Promise<number> =>
    page
      .locator('.side canvas')
      .nth(at)
      .evaluate((c: HTMLCanvasElement) => {
        const { data } = c.getContext('2d')!.getImageData(0, 0, c.width, c.height);
        let sum = 0;
        for (let i = 0; i < data.length; i += 4) sum += data[i + 1]!;
        return sum / (data.length / 4);
      }),
  shown = (count: number): Promise<unknown> =>
    expect.poll(() => page.locator('.side canvas[data-ready]:not([aria-busy])').count(), { timeout: 30_000 }).toBe(count);

describe('side by side', () => {
  it('four chosen frames are laid beside one another, rated and marked as the best by keys', async () => {
    for (const name of ['TR-0412', 'TR-0413', 'TR-0437', 'TR-0451'])
      await page.locator('[data-frame]', { hasText: name }).click({ modifiers: ['Control'] });
    await page.getByRole('button', { name: 'Side by side' }).click();
    await shown(4);
    await page.locator('.side-name').nth(1).focus();
    await page.keyboard.press('3');
    await expect.poll(async () => (await named('TR-0413')).rating).toBe(3);
    await page.keyboard.press('ArrowLeft');
    await page.keyboard.press('k');
    await expect.poll(async () => (await named('TR-0412')).rating).toBe(4);
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('r');
    await expect.poll(async () => (await named('TR-0437')).rating).toBe(-1);
  });
  it('zooms and moves all at once, and shows all before the look while a key is held', async () => {
    await page.keyboard.press('f');
    await shown(4);
    const boxes = await page
      .locator('.side canvas')
      .evaluateAll((all: HTMLCanvasElement[]) => all.map((c) => c.dataset['piece']!.replace(/^\d+/, '')));
    expect(new Set(boxes).size).toBe(1);
    await page.keyboard.press('f');
    await shown(4);
    const looked = await brightness(1);
    await page.keyboard.down('o');
    await expect.poll(async () => Math.abs((await brightness(1)) - looked)).toBeGreaterThan(1);
    await page.keyboard.up('o');
    await expect.poll(async () => Math.abs((await brightness(1)) - looked)).toBeLessThan(0.5);
  });
  it('a trim is seen at once, kept, taken back, given to its light, and shows as a dot', async () => {
    await page.locator('.side-name').first().focus();
    const before = await brightness(0),
      slider = page.getByRole('slider', { name: 'Exposure' });
    await slider.focus();
    for (let i = 0; i < 10; i++) await page.keyboard.press('ArrowRight');
    await expect.poll(() => brightness(0)).toBeGreaterThan(before + 8);
    await expect.poll(() => exposure('TR-0412')).toBeCloseTo(0.5);
    // of a trim and a rating the one that was done last
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await named('TR-0412')).steps).toBe(null);
    await page.getByRole('button', { name: /^Redo Exposure/ }).click();
    await expect.poll(() => exposure('TR-0412')).toBeCloseTo(0.5);
    await page.getByText('exposure +0.50 EV').waitFor();
    await page.getByRole('button', { name: /^Give to its light/ }).click();
    await expect.poll(() => exposure('TR-0419')).toBeCloseTo(0.5);
    await page.getByText(/^Treated as the other/).waitFor();
    expect(await exposure('TR-0437')).toBe(0);
  });
  it('all are moved by the same amount together; a step of the look is worn less by one frame', async () => {
    await page.getByRole('radio', { name: 'all 4' }).click();
    await page.getByRole('slider', { name: 'Warmth' }).focus();
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('ArrowRight');
    await expect
      .poll(async () => (await Promise.all(['TR-0412', 'TR-0437', 'TR-0451'].map(named))).map((f) => trimOf(f.steps).warmthMired))
      .toEqual([2, 2, 2]);
    await page.getByRole('radio', { name: 'TR-0412' }).click();
    await page.locator('.trim-steps summary').click();
    await page.locator('.trim-steps .cell').first().focus();
    await page.keyboard.press('Home');
    await expect.poll(async () => Object.values((await named('TR-0412')).steps?.worn?.steps ?? {})).toEqual([0]);
    await page.getByRole('button', { name: 'Take off' }).click();
    await expect.poll(async () => trimOf((await named('TR-0412')).steps)).toEqual(noTrim);
    await page.goto(`${stage.origin}/shoots/1`);
    await page.locator('[data-frame]', { hasText: 'TR-0413' }).locator('.trim-dot').waitFor();
    expect(await page.locator('[data-frame]', { hasText: 'TR-0412' }).locator('.trim-dot').count()).toBe(0);
  });
});
