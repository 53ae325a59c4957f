import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { root } from '@dyepot/server/src/places.ts';
import type { Page } from 'playwright-core';
import { leadAsServer, lookOnBench, meanOf, painted, setStage, still, type Stage } from './stage.ts';

let stage: Stage, page: Page;
beforeAll(async () => {
  stage = await setStage();
  page = await stage.open('/bench?shoot=1&look=6');
  await painted(page);
});
afterAll(() => stage.close());
const settled = (): Promise<void> => still(page);
const fit = async (): Promise<void> => {
  await page.keyboard.press('1');
  await page.waitForFunction(() =>
    /^\d+\/[1-4]\//.test(document.querySelector<HTMLCanvasElement>('canvas[data-testid=lead]')!.dataset['ready'] ?? ''),
  );
  await settled();
};
const chip = (name: RegExp): ReturnType<Page['getByRole']> => page.getByRole('button', { name });
const state = (): Promise<string | null> => page.getByTestId('look-state').textContent();
describe('the bench', () => {
  it('shows the lead, live witnesses, the chain and a histogram', async () => {
    expect(await page.getByTestId('witness').count()).toBe(4);
    expect(await page.getByRole('figure', { name: /Histogram. Clipped/ }).count()).toBe(1);
    expect(await chip(/^(Warmth|Neutral response|Soft paper|Saturation|Grade) \d+ %$/).count()).toBe(5);
  });
  it('at 100 % shows the very bytes the server renders', async () => {
    await page.getByRole('group', { name: 'Zoom' }).getByRole('button', { name: '100 %' }).click();
    await page.waitForFunction(() =>
      /^\d+\/0\//.test(document.querySelector<HTMLCanvasElement>('canvas[data-testid=lead]')!.dataset['ready'] ?? ''),
    );
    await settled();
    const { equal, pixels } = await leadAsServer(page);
    expect(pixels).toBeGreaterThan(400000);
    expect(equal).toBe(true);
    await fit();
  });
  it('changes the picture and every witness under a dragged control, and one undo takes the whole drag back', async () => {
    await chip(/^Warmth/).click();
    const before = await meanOf(page),
      witness = await meanOf(page, 'witness'),
      track = page.getByRole('slider', { name: 'Shift' }),
      box = (await track.boundingBox())!;
    const start = Number(await track.getAttribute('aria-valuenow'));
    await page.mouse.move(box.x + box.width * 0.5, box.y + 8);
    await page.mouse.down();
    for (let i = 1; i <= 10; i++) await page.mouse.move(box.x + box.width * (0.5 + i * 0.025), box.y + 8);
    await page.mouse.up();
    await settled();
    const after = await meanOf(page),
      witnessAfter = await meanOf(page, 'witness');
    expect(after[0]! - after[2]!).toBeGreaterThan(before[0]! - before[2]! + 4);
    expect(witnessAfter[0]! - witnessAfter[2]!).toBeGreaterThan(witness[0]! - witness[2]! + 4);
    expect(await state()).toContain('edited');
    await page.keyboard.press('Control+z');
    await settled();
    expect(Number(await track.getAttribute('aria-valuenow'))).toBe(start);
    expect((await meanOf(page))[0]).toBeCloseTo(before[0]!, 6);
    await page.keyboard.press('Control+Shift+z');
    await settled();
    expect((await meanOf(page))[0]).toBeCloseTo(after[0]!, 6);
  });
  it('however fast the hand was, what stands when it rests is the whole picture of the last move, never a draft or an older one', async () => {
    await chip(/^Saturation/).click();
    const track = page.getByRole('slider', { name: 'Change' });
    await track.focus();
    for (const pause of [0, 10, 25, 45, 90]) {
      for (let i = 0; i < 14; i++) {
        await page.keyboard.press(i % 5 === 4 ? 'ArrowLeft' : 'ArrowRight');
        if (pause) await page.waitForTimeout(pause);
      }
      await settled();
      // the bench keeps itself a moment after the last move
      await page.waitForTimeout(300);
      expect((await leadAsServer(page)).equal, `after a pause of ${pause} ms between moves`).toBe(true);
    }
    await track.dblclick();
    await settled();
  });
  it('the exact view goes as soon as the hand moves, and none of an older look comes while it goes on moving', async () => {
    const track = page.getByRole('slider', { name: 'Change' }),
      covered = (): Promise<boolean> => page.getByTestId('exact').evaluate((c) => !c.classList.contains('hidden'));
    await page.locator('.exact-mark').waitFor();
    expect(await covered()).toBe(true);
    await track.focus();
    const seen: boolean[] = [];
    for (let i = 0; i < 34; i++) {
      await page.keyboard.press(i % 2 ? 'ArrowLeft' : 'ArrowRight');
      await page.waitForTimeout(70);
      seen.push(await covered());
    }
    expect(seen.filter(Boolean)).toHaveLength(0);
    await page.locator('.exact-mark').waitFor();
    expect(await covered()).toBe(true);
  });
  it('the page catches up with the controls: the chain names what the look now is', async () => {
    const strength = page.locator('.tray-strength').getByRole('slider');
    await strength.focus();
    await page.keyboard.press('ArrowLeft');
    await chip(/^Saturation 99 %$/).waitFor();
    await page.keyboard.press('ArrowRight');
    await chip(/^Saturation 100 %$/).waitFor();
  });
  it('a control is nudged by arrows, finer with Shift, typed into, and reset by a double click', async () => {
    await chip(/^Warmth/).click();
    const track = page.getByRole('slider', { name: 'Shift' }),
      value = async (): Promise<number> => Number(await track.getAttribute('aria-valuenow'));
    await track.dblclick();
    expect(await value()).toBe(0);
    await track.focus();
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('Shift+ArrowRight');
    expect(await value()).toBeCloseTo(1.2, 5);
    await page.keyboard.press('Alt+ArrowRight');
    expect(await value()).toBeGreaterThanOrEqual(11);
    await page.keyboard.press('Enter');
    await page.keyboard.type('-12');
    await page.keyboard.press('Enter');
    expect(await value()).toBe(-12);
  });
  it('steps are found by need, added, renamed, switched, duplicated, moved and removed', async () => {
    await page.getByRole('button', { name: 'Add a step to the print lane' }).click();
    await page.getByLabel('What should it do?').fill('dark sky');
    await page.keyboard.press('Enter');
    const added = chip(/^Black and white 100 %/);
    await added.waitFor();
    await page.getByRole('button', { name: 'Dark sky' }).click();
    await page.getByRole('slider', { name: 'Amount' }).focus();
    await settled();
    const grey = await meanOf(page);
    expect(Math.abs(grey[0]! - grey[2]!)).toBeLessThan(1.5);
    await page.getByRole('button', { name: 'Switch Black and white off' }).click();
    await settled();
    expect(Math.abs((await meanOf(page))[0]! - (await meanOf(page))[2]!)).toBeGreaterThan(1.5);
    await chip(/^Black and white off/).dblclick();
    await page.getByLabel('Name of the step').fill('Storm');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'More for Storm' }).click();
    await page.getByRole('menuitem', { name: 'Duplicate' }).click();
    expect(await chip(/^Storm off/).count()).toBe(2);
    await chip(/^Storm off/)
      .last()
      .focus();
    await page.keyboard.press('Alt+ArrowLeft');
    await page.keyboard.press('Delete');
    await chip(/^Storm off/).focus();
    await page.keyboard.press('Delete');
    expect(await chip(/^Storm/).count()).toBe(0);
  });
  it('a curve gets a point by a click and the grade a colour by a drag of its pin', async () => {
    await chip(/^Soft paper/).click();
    const curve = page.getByRole('group', { name: 'Tone curve' }),
      box = (await curve.boundingBox())!,
      points = await curve.getByRole('slider').count();
    await page.mouse.click(box.x + box.width * 0.5, box.y + box.height * 0.3);
    expect(await curve.getByRole('slider').count()).toBe(points + 1);
    await chip(/^Grade/).click();
    const pin = page.getByTestId('pin-darks'),
      at = (await pin.boundingBox())!;
    await page.mouse.move(at.x + at.width / 2, at.y + at.height / 2);
    await page.mouse.down();
    await page.mouse.move(at.x - 20, at.y + 20, { steps: 4 });
    await page.mouse.up();
    await page.getByRole('tab', { name: 'Darks' }).click();
    expect(Number(await page.getByRole('slider', { name: 'Chroma' }).getAttribute('aria-valuenow'))).toBeGreaterThan(0.03);
  });
  it('before and after: a held key, and a wipe that can be dragged', async () => {
    await page.keyboard.down('o');
    await page.waitForSelector('canvas[data-testid=before][data-ready]:not(.hidden)');
    await page.locator('.stage .tag', { hasText: 'groundwork only' }).waitFor();
    await page.keyboard.up('o');
    await page.keyboard.press('w');
    const wipe = page.getByRole('slider', { name: /Wipe/ }),
      box = (await wipe.boundingBox())!;
    await page.mouse.move(box.x + 1, box.y + 200);
    await page.mouse.down();
    await page.mouse.move(box.x + 160, box.y + 200, { steps: 5 });
    await page.mouse.up();
    expect(Number(await wipe.getAttribute('aria-valuenow'))).toBeGreaterThan(60);
    await page.keyboard.press('w');
    expect(await wipe.count()).toBe(0);
  });
  it('when the hand rests the fitted view becomes the exact one: within a code of the delivered file scaled down alike', async () => {
    await page.locator('.exact-mark').waitFor();
    const look = await lookOnBench(page),
      { text, width, height, frame } = await page.evaluate(() => {
        const c = document.querySelector<HTMLCanvasElement>('canvas[data-testid=exact]')!;
        const bytes = c.getContext('2d')!.getImageData(0, 0, c.width, c.height).data;
        let text = '';
        for (let i = 0; i < bytes.length; i += 32768) text += String.fromCharCode(...bytes.subarray(i, i + 32768));
        return {
          text: btoa(text),
          width: c.width,
          height: c.height,
          frame: document.querySelector<HTMLCanvasElement>('canvas[data-testid=lead]')!.dataset['ready']!.split('/')[0]!,
        };
      });
    const data = Buffer.from(text, 'base64'),
      work = mkdtempSync(join(tmpdir(), 'dyepot-exact-')),
      told = (await (await page.request.get(`${stage.origin}/api/frames/${frame}`)).json()) as { path: string; name: string };
    writeFileSync(join(work, 'look.json'), JSON.stringify(look));
    execFileSync(process.execPath, [
      join(root, 'packages/cli/bin/dyepot.mjs'),
      'render',
      told.path,
      '--look',
      join(work, 'look.json'),
      '--format',
      'png',
      '--depth',
      '8',
      '--size',
      String(Math.max(width, height)),
      '--out',
      work,
    ]);
    const { default: sharp } = await import('sharp'),
      file = await sharp(join(work, `${told.name}.png`))
        .removeAlpha()
        .raw()
        .toBuffer();
    expect(file.length).toBe(width * height * 3);
    let worst = 0;
    for (let i = 0; i < width * height; i++)
      for (let c = 0; c < 3; c++) worst = Math.max(worst, Math.abs(file[i * 3 + c]! - data[i * 4 + c]!));
    expect(worst).toBeLessThanOrEqual(1);
  });
  it('200 % pans by dragging', async () => {
    await page.keyboard.press('3');
    await painted(page);
    const piece = (): Promise<string> =>
        page.evaluate(() => document.querySelector<HTMLCanvasElement>('canvas[data-testid=lead]')!.dataset['ready']!),
      before = await piece();
    const box = (await page.getByTestId('stage').boundingBox())!;
    await page.mouse.move(box.x + 600, box.y + 300);
    await page.mouse.down();
    await page.mouse.move(box.x + 100, box.y + 200, { steps: 6 });
    await page.mouse.up();
    await page.waitForFunction(
      (b) => document.querySelector<HTMLCanvasElement>('canvas[data-testid=lead]')!.dataset['ready'] !== b,
      before,
    );
    expect(await page.getByTestId('zoom').textContent()).toBe('200 %');
    await fit();
  });
  it('what is being edited survives a reload, with its undo', async () => {
    const look = await lookOnBench(page);
    await page.reload();
    await painted(page);
    expect(await lookOnBench(page)).toEqual(look);
    expect(await state()).toContain('edited');
    expect(await page.getByRole('button', { name: /^Undo / }).isEnabled()).toBe(true);
  });
  it('is saved as a revision, and the whole shoot can wear it', async () => {
    await page.getByRole('button', { name: 'Apply to shoot' }).click();
    await page.getByText(/now wears Weld morning, revision 2/).waitFor();
    expect(await state()).toBe('revision 2');
    const shoot = (await (await page.request.get(`${stage.origin}/api/shoots/1`)).json()) as { look: { revision: number } };
    expect(shoot.look.revision).toBe(2);
  });
  it('surrounds are dark, mid and light', async () => {
    const tone = (): Promise<string> => page.evaluate(() => getComputedStyle(document.querySelector('.lead')!).backgroundColor),
      seen = new Set<string>();
    for (const name of ['dark', 'mid', 'light']) {
      await page.getByRole('button', { name: `${name} surround` }).click();
      seen.add(await tone());
    }
    expect(seen.size).toBe(3);
  });
  it('nothing was complained of in the browser’s console', () => expect(stage.complaints).toEqual([]));
});
