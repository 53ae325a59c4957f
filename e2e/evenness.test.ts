import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Page } from 'playwright-core';
import type { Frame } from '@dyepot/web/src/types.ts';
import { setShoot, type ShootStage } from './shootStage.ts';
import { still } from './stage.ts';

let stage: ShootStage, page: Page;
beforeAll(async () => {
  stage = await setShoot();
  page = stage.page;
});
afterAll(async () => {
  await stage.close();
});
const frames = (): Promise<Frame[]> => stage.frames(),
  named = (name: string): Promise<Frame> => stage.named(name);

describe('choosing', () => {
  it('rates, rejects and marks with the keys alone, filters by it, and takes it back', async () => {
    await page.locator('[data-frame] .picture.ready').first().waitFor();
    await page.locator('[data-frame]').first().focus();
    await page.keyboard.press('5');
    await expect.poll(async () => (await named('TR-0412')).rating).toBe(5);
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('r');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('m');
    await expect.poll(async () => (await named('TR-0412')).rating).toBe(5);
    await expect.poll(async () => (await named('TR-0413')).rating).toBe(-1);
    await expect.poll(async () => (await named('TR-0415')).mark).toBe('ask');
    await page.getByLabel('Rating').selectOption('not rejected');
    await page.getByText('17 of 18').waitFor();
    await page.getByLabel('Rating').selectOption('5');
    await page.getByText('1 of 18').waitFor();
    expect(await page.locator('[data-frame]').count()).toBe(1);
    await page.getByRole('button', { name: 'Show all' }).click();
    await page.locator('[data-frame]').first().focus();
    for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
    await expect.poll(async () => (await frames()).every((f) => f.rating === 0 && f.mark === '')).toBe(true);
  });
  it('proposes groups of light, which are named and taken, and taken back', async () => {
    await page.getByRole('button', { name: 'Group by light…' }).click();
    const first = page.getByLabel('Name of group 1'),
      before = (await named('TR-0412')).light;
    await first.waitFor();
    expect(await page.getByLabel(/^Name of group/).count()).toBe(6);
    await page.getByText('The frames are grouped so already.').waitFor();
    await first.fill('By the north window');
    await page.getByRole('button', { name: 'Move 5 frames' }).click();
    await expect.poll(async () => (await named('TR-0412')).light).toBe('By the north window');
    await page.getByRole('button', { name: 'Undo' }).first().click();
    await expect.poll(async () => (await named('TR-0412')).light).toBe(before);
  });
});

describe('evenness', () => {
  it('compares the shoot once; walks through what stands out by keys; takes, undoes, takes all and undoes all in one step; goes before the look', async () => {
    await page.getByRole('link', { name: /^Match/ }).click();
    await page.getByRole('button', { name: /^Take [1-9]\d* proposals$/ }).waitFor({ timeout: 90_000 });
    await page.getByText('comparing').waitFor({ state: 'detached', timeout: 90_000 });
    await page.keyboard.press('n');
    const shown = (): Promise<string | null> => page.locator('.even-side h2').textContent(),
      first = (await shown())!;
    await page.getByRole('img', { name: /as it is proposed/ }).waitFor();
    const picture = page.getByRole('img', { name: `${first} as it is proposed` });
    await expect.poll(() => picture.evaluate((img: HTMLImageElement) => img.naturalWidth)).toBeGreaterThan(300);
    const heading = async (): Promise<number> => parseInt((await page.locator('.even-main h2').textContent())!);
    const before = await heading();
    await page.keyboard.press('t');
    await expect.poll(async () => (await named(first)).groundwork?.balance.kind).toBe('own');
    await expect.poll(heading).toBe(before + 1);
    expect(await shown()).not.toBe(first);
    await page.getByRole('button', { name: 'Undo' }).first().click();
    await expect.poll(async () => (await named(first)).groundwork).toBeNull();
    await expect.poll(heading).toBe(before);
    await page.getByRole('button', { name: /^Take \d+ proposals$/ }).click();
    await expect.poll(async () => (await frames()).filter((f) => f.groundwork).length).toBeGreaterThan(8);
    await expect.poll(heading).toBeGreaterThan(before + 8);
    await page.getByRole('button', { name: 'Undo' }).first().click();
    await expect.poll(async () => (await frames()).filter((f) => f.groundwork).length).toBe(0);
    await page.getByRole('radio', { name: 'Before the look' }).click();
    await page.getByText('before any look').waitFor();
    expect(page.url()).toContain('under=none');
  });
  it('a patch is pointed at in the anchor, by click and by arrows; what is found in others is shown; one that is not can be pointed at there', async () => {
    await page.getByRole('radio', { name: 'A patch' }).click();
    await page.locator('.even-thumbs button', { hasText: 'anchor' }).first().click();
    await page.getByText('Point at something that stands in every frame of this light').waitFor();
    const anchor = page.locator('.patch-picture');
    await still(page);
    const box = (await anchor.boundingBox())!;
    await page.mouse.click(box.x + box.width * 0.5, box.y + box.height * 0.2);
    await page.getByText('The patch the others are brought to').waitFor({ timeout: 60_000 });
    const left = (): Promise<string> => page.getByTestId('patch').evaluate((i: HTMLElement) => i.style.left),
      before = parseFloat(await left());
    expect(before).toBeGreaterThan(48);
    expect(before).toBeLessThan(52);
    await anchor.focus();
    await page.keyboard.press('Shift+ArrowLeft');
    await expect.poll(async () => parseFloat(await left())).toBeLessThan(before - 4);
    await page.getByText('comparing').waitFor({ state: 'detached', timeout: 90_000 });
    await page.locator('.even-thumbs button').first().click();
    const own = page.getByRole('button', { name: /as it is; / });
    await own.click();
    await page.getByTestId('patch').waitFor({ timeout: 60_000 });
    await page.getByRole('radio', { name: 'What both show' }).click();
    await page.getByTestId('patch').waitFor({ state: 'detached' });
  });
});

describe('by the chart', () => {
  const groundworks = async (): Promise<({ colours: object | null; exposureEv: number } | null)[]> =>
    (await stage.frames()).map((f) => f.groundwork);
  const undo = (words: string): Promise<void> =>
    page.locator('[data-scope=toast][data-part=root]', { hasText: words }).getByRole('button', { name: 'Undo' }).click();
  it('what charts say of the camera is kept for the shoot, and taken back; lights are brought to one another in one step', async () => {
    await page.goto(`${stage.origin}/shoots/1/evenness`);
    await page.getByRole('radio', { name: 'The chart' }).click();
    await page.locator('.even-thumbs button', { hasText: 'TR-0419' }).click();
    const said = page.getByRole('region', { name: 'The camera’s colours' });
    await said.getByRole('button', { name: 'Keep the root polynomial by this chart for the shoot' }).click({ timeout: 90_000 });
    await said.getByText(/^Kept for the shoot: root polynomial by TR-0419/).waitFor();
    expect((await groundworks()).every((g) => g?.colours)).toBe(true);
    await said.getByRole('button', { name: 'Take it off' }).click();
    await expect.poll(async () => (await groundworks()).some((g) => g?.colours)).toBe(false);
    await undo('as its profile says again');
    await expect.poll(async () => (await groundworks()).every((g) => g?.colours)).toBe(true);
    await said.getByRole('button', { name: 'Take it off' }).click();
    await said.getByText(/^Kept for the shoot/).waitFor({ state: 'detached' });
    const before = await groundworks();
    await page.getByRole('button', { name: 'Light to light…' }).click();
    const sheet = page.getByRole('dialog', { name: 'Light to light' });
    await sheet.getByRole('button', { name: /^Bring \d+ lights?$/ }).click({ timeout: 90_000 });
    await expect.poll(async () => JSON.stringify(await groundworks())).not.toBe(JSON.stringify(before));
    await undo('brought to');
    await expect.poll(groundworks).toEqual(before);
    await page.getByRole('radio', { name: 'What both show' }).click();
  });
  it('what is not even with its light says so on its picture, is let through alone, and says it on Ground, Bench and swatch card too', async () => {
    await page.goto(`${stage.origin}/shoots/1`);
    const marks = page.locator('.sheet-frame .even-mark');
    await marks.first().waitFor();
    const { off } = (await (await page.request.get(`${stage.origin}/api/shoots/1/even`)).json()) as { off: Record<string, number> },
      uneven = Object.keys(off).filter((id) => off[id]! > 2),
      out = uneven.length;
    await page.getByLabel('Evenness').selectOption('out');
    await page.getByText(new RegExp(`^${out} of \\d+$`)).waitFor();
    await page.goto(`${stage.origin}/ground?shoot=1`);
    await page.locator('.column-frame .even-mark').first().waitFor();
    // of those that stand there, just those that are off say so
    for (const [at, one, name] of [
      ['/bench?shoot=1', '.witness', '.witness-line span'],
      ['/shoots/1/swatches', '.swatch-table thead th + th', ''],
    ] as const) {
      await page.goto(stage.origin + at);
      await page.locator(`${one} .even-mark`).first().waitFor();
      const { frames } = (await (await page.request.get(`${stage.origin}/api/shoots/1`)).json()) as {
          frames: { id: number; name: string }[];
        },
        all = await page.locator(one).all();
      for (const place of all) {
        const words = await (name ? place.locator(name).first() : place).textContent(),
          { id } = frames.find((f) => words!.startsWith(f.name))!;
        await expect.poll(() => place.locator('.even-mark').count()).toBe(uneven.includes(String(id)) ? 1 : 0);
      }
    }
  });
});

describe('the swatch card', () => {
  it('lays frames across and looks down; favours and strikes out by keys, kept on the server; opens a cell on the Bench; leaves as a file', async () => {
    await page.goto(`${stage.origin}/shoots/1/swatches`);
    const cell = page.locator('[data-cell="0 0"]');
    await cell.locator('.picture.ready').waitFor();
    const card = async (): Promise<{ frames: number[]; looks: number[]; said: Record<string, string> }> =>
      (await (await page.request.get(`${stage.origin}/api/shoots/1/swatches`)).json()) as Awaited<ReturnType<typeof card>>;
    await expect.poll(async () => (await card()).frames.length).toBeGreaterThan(2);
    await cell.focus();
    await page.keyboard.press('f');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('s');
    await expect.poll(async () => Object.values((await card()).said).sort()).toEqual(['best', 'out']);
    await page.reload();
    await page.getByRole('button', { name: /, a favourite$/ }).waitFor();
    await page.getByRole('button', { name: 'Looks…' }).click();
    await page.getByRole('checkbox', { name: /Neutral response/ }).check();
    await page.getByRole('button', { name: /^Lay \d+$/ }).click();
    await page.getByRole('rowheader', { name: 'Neutral response' }).waitFor();
    for (const [kind, start] of [
      ['png', '\u0089PNG'],
      ['pdf', '%PDF'],
    ] as const) {
      const file = await page.request.get(`${stage.origin}/api/shoots/1/swatches.${kind}`);
      expect([file.status(), (await file.body()).subarray(0, 4).toString('latin1')]).toEqual([200, start]);
    }
    await cell.click();
    await page.waitForURL(/\/bench\?/);
  });
});
