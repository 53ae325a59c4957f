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
  vertical = async (): Promise<number> => (await named('TR-0490')).groundwork?.geometry.vertical ?? 0;

describe('start for me', () => {
  it('sets a house front upright; more or less of it, part by part, and one undo takes all back', async () => {
    await page.goto(`${stage.origin}/ground?shoot=1&frame=${(await named('TR-0490')).id}`);
    await page.locator('canvas[data-testid=lead][data-ready]').waitFor();
    await page.getByRole('button', { name: 'Start for me' }).click();
    // the scene’s camera looks up by 10.7° through 24 mm: verticals −35.4
    await expect.poll(vertical, { timeout: 20_000 }).toBeLessThan(-33);
    expect(await vertical()).toBeGreaterThan(-38);
    const whole = await vertical();
    await page.getByRole('slider', { name: 'Amount' }).focus();
    await page.keyboard.press('Home');
    await expect.poll(vertical).toBe(0);
    for (let i = 0; i < 5; i++) await page.keyboard.press('Alt+ArrowRight');
    await expect.poll(async () => Math.abs((await vertical()) - whole / 2)).toBeLessThan(0.2);
    await page.getByRole('checkbox', { name: /^Upright/ }).uncheck();
    await expect.poll(vertical).toBe(0);
    expect((await named('TR-0490')).groundwork!.ends.whiteEv).not.toBe(3.4);
    await page.getByRole('button', { name: /^Undo Start for me/ }).click();
    await expect.poll(async () => (await named('TR-0490')).groundwork?.ends.whiteEv ?? 3.4).toBe(3.4);
  });
  it('begins several frames at once, and takes all back from the notice', async () => {
    await page.goto(`${stage.origin}/shoots/1`);
    for (const name of ['TR-0412', 'TR-0451']) await page.locator('[data-frame]', { hasText: name }).click({ modifiers: ['Control'] });
    await page.getByRole('button', { name: 'Start for me…' }).click();
    await page.getByRole('checkbox', { name: 'Zones' }).uncheck();
    await page.getByRole('button', { name: 'Start 2 frames' }).click();
    await page.getByText('Groundwork begun on 2 frames').waitFor({ timeout: 30_000 });
    expect((await named('TR-0412')).groundwork?.balance.kind).toBe('own');
    expect((await named('TR-0451')).groundwork?.zones.ev).toEqual([0, 0, 0, 0, 0]);
    await page.getByRole('button', { name: 'Undo' }).first().click();
    await expect.poll(async () => (await named('TR-0412')).groundwork).toBeNull();
  });
});
