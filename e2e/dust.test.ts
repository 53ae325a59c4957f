import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Page } from 'playwright-core';
import type { Frame } from '@dyepot/web/src/types.ts';
import { writeDustyRaws } from './dustyRaws.ts';
import { setShoot, type ShootStage } from './shootStage.ts';

let stage: ShootStage, page: Page;
beforeAll(async () => {
  stage = await setShoot();
  page = stage.page;
});
afterAll(async () => {
  await stage.close();
});
const patience = { timeout: 20_000, interval: 120 };

describe('dust', () => {
  it('dust over five frames is healed at once where it shows, and taken back at once', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'dyepot-dusty-')),
      dust = writeDustyRaws(folder),
      { id: shootId } = (await (await page.request.post(`${stage.origin}/api/shoots`, { data: { name: 'Under dust' } })).json()) as {
        id: number;
      },
      skies = async (): Promise<Frame[]> =>
        ((await (await page.request.get(`${stage.origin}/api/shoots/${shootId}`)).json()) as { frames: Frame[] }).frames;
    await page.request.post(`${stage.origin}/api/shoots/${shootId}/folder`, { data: { folder } });
    await expect.poll(async () => (await skies()).length, { timeout: 60_000, interval: 300 }).toBe(5);
    await page.goto(`${stage.origin}/shoots/${shootId}`);
    await page.locator('[data-frame]').first().focus();
    await page.keyboard.press('Control+a');
    await page.getByRole('button', { name: 'Dust…' }).click();
    await page.getByText(/specks show at one place/).waitFor({ timeout: 60_000 });
    expect(await page.getByText(/SKY-3 shows none/).count()).toBe(1);
    await page.getByRole('button', { name: /^Heal \d+ specks in 4 frames/ }).click();
    await page.getByText('Dust healed in 4 frames').waitFor({ timeout: 60_000 });
    const counts = (await skies()).map((f) => f.repairCount);
    expect(counts[2]).toBe(0);
    for (const n of [counts[0]!, counts[1]!, counts[3]!, counts[4]!]) expect(n).toBeGreaterThanOrEqual(Math.ceil(dust.length * 0.85));
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect.poll(async () => (await skies()).reduce((sum, f) => sum + f.repairCount, 0), patience).toBe(0);
  });
  it('specks in one frame are gone through by keys, over a picture that shows them', async () => {
    const shoots = (await (await page.request.get(`${stage.origin}/api/shoots`)).json()) as { id: number; name: string }[],
      shootId = shoots.find((s) => s.name === 'Under dust')!.id,
      first = async (): Promise<Frame> =>
        ((await (await page.request.get(`${stage.origin}/api/shoots/${shootId}`)).json()) as { frames: Frame[] }).frames[0]!;
    await page.goto(`${stage.origin}/ground?shoot=${shootId}&frame=${(await first()).id}`);
    await page.getByRole('tab', { name: /^Repair/ }).click();
    await page.getByRole('button', { name: 'Find dust' }).click();
    const rings = page.locator('[data-speck]');
    await rings.first().waitFor();
    const count = await rings.count();
    await page.getByRole('button', { name: 'Show dust' }).click();
    const picture = page.getByTestId('dust-picture');
    await picture.waitFor();
    const href = (await picture.getAttribute('href'))!,
      grey = sharp(await (await page.request.get(`${stage.origin}${href}`)).body()),
      { width } = await grey.metadata();
    expect(width).toBeGreaterThan(400);
    // where a speck lies it is darker than the middle grey
    const { data, info } = await grey.greyscale().raw().toBuffer({ resolveWithObject: true }),
      speck = (await first()
        .then((f) => page.request.get(`${stage.origin}/api/frames/${f.id}/dust`))
        .then((r) => r.json())) as { specks: { x: number; y: number }[] };
    for (const s of speck.specks) expect(data[Math.floor(s.y * info.height) * info.width + Math.floor(s.x * info.width)]).toBeLessThan(118);
    await page.keyboard.press('r');
    await expect.poll(() => rings.count(), patience).toBe(count - 1);
    await page.keyboard.press('n');
    await page.keyboard.press('t');
    await expect.poll(async () => (await first()).repairCount, patience).toBe(1);
    await expect.poll(() => rings.count(), patience).toBe(count - 2);
    await page.getByRole('button', { name: 'Take all' }).click();
    await page.getByText(/specks healed; Undo takes all of them back/).waitFor({ timeout: 30_000 });
    await expect.poll(async () => (await first()).repairCount, patience).toBe(count - 1);
    await page.getByRole('button', { name: 'Done' }).click();
  });
  it('specks that are being healed when another frame is opened are kept with their own frame alone', async () => {
    const shoots = (await (await page.request.get(`${stage.origin}/api/shoots`)).json()) as { id: number; name: string }[],
      shootId = shoots.find((s) => s.name === 'Under dust')!.id,
      skies = async (): Promise<Frame[]> =>
        ((await (await page.request.get(`${stage.origin}/api/shoots/${shootId}`)).json()) as { frames: Frame[] }).frames,
      whole = async (id: number): Promise<Frame> => (await (await page.request.get(`${stage.origin}/api/frames/${id}`)).json()) as Frame,
      [, second, third] = (await skies()) as [Frame, Frame, Frame];
    await page.request.put(`${stage.origin}/api/frames/${third.id}/repairs`, {
      data: {
        version: third.repairVersion,
        repairs: {
          format: 'dyepot-repairs',
          version: 1,
          repairs: [{ id: 'own', kind: 'heal', shape: { kind: 'spot', x: 0.5, y: 0.5, radius: 0.01 }, source: { dx: 0.1, dy: 0 } }],
        },
      },
    });
    await page.goto(`${stage.origin}/ground?shoot=${shootId}&frame=${second.id}`);
    await page.getByRole('tab', { name: /^Repair/ }).click();
    await page.getByRole('button', { name: 'Find dust' }).click();
    await page.locator('[data-speck]').first().waitFor();
    await page.route(/repair-source$/, async (route) => {
      await new Promise((resolve) => setTimeout(resolve, 700));
      await route.continue();
    });
    await page.getByRole('button', { name: 'Take all' }).click();
    await page.getByText(/Healing speck ([3-9]|\d\d) of/).waitFor();
    await page.keyboard.press('PageDown');
    await page.getByText('SKY-3', { exact: true }).first().waitFor();
    await page.unrouteAll({ behavior: 'wait' });
    await expect.poll(async () => (await whole(second.id)).repairs.length, patience).toBeGreaterThan(1);
    expect((await whole(second.id)).repairs.every((r) => r.id.startsWith('dust-'))).toBe(true);
    expect((await whole(third.id)).repairs.map((r) => r.id)).toEqual(['own']);
  });
});
