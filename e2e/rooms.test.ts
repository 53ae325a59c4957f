import { copyFileSync, existsSync, mkdtempSync, readdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { root } from '@dyepot/server/src/places.ts';
import { setStage, type Stage } from './stage.ts';

let stage: Stage, page: Page;
/** where a raw lies that was found again */
let walked = '';
interface FrameState {
  id: number;
  name: string;
  light: string;
  rating: number;
  missing: boolean;
}
interface ShootState {
  leadFrameId: number;
  look: { name: string } | null;
  frames: FrameState[];
}
const shoot = async (id = 1): Promise<ShootState> =>
  (await (await page.request.get(`${stage.origin}/api/shoots/${id}`)).json()) as ShootState;
const frame = (name: string): ReturnType<Page['locator']> => page.locator(`[role=option][title="${name}"]`);
/** Does what says something of frames, and waits until the page has its answer: what can be undone is known only then. */
async function answered(act: () => Promise<void>): Promise<void> {
  const said = page.waitForResponse((r) => r.url().endsWith('/api/frames/say'));
  await act();
  await (await said).finished();
}
/** A part of the path of the work. */
const path = (name: RegExp): ReturnType<Page['getByRole']> => page.locator('.work-path').getByRole('button', { name });
const bar = (): ReturnType<Page['getByRole']> => page.getByRole('toolbar', { name: 'Chosen frames' });
beforeAll(async () => {
  stage = await setStage();
  page = await stage.open('/shoots/1');
  await frame('TR-0412').waitFor();
});
afterAll(async () => {
  await stage.close();
});

describe('the shoot', () => {
  it('frames are chosen one by one, by toggling, and as a range', async () => {
    await frame('TR-0412').click();
    expect(await bar().textContent()).toContain('1 chosen');
    await frame('TR-0419').click({ modifiers: ['Shift'] });
    expect(await bar().textContent()).toContain('4 chosen');
    await frame('TR-0413').click({ modifiers: ['Control'] });
    expect(await bar().textContent()).toContain('3 chosen');
    expect(await page.getByRole('button', { name: 'Deliver 3 frames' }).count()).toBe(1);
    await bar().getByRole('button', { name: 'Clear' }).click();
    expect(await bar().count()).toBe(0);
  });
  it('any frame can lead', async () => {
    await frame('TR-0413').click();
    await bar().getByRole('button', { name: 'Make it the lead' }).click();
    await page.getByText('TR-0413 leads').waitFor();
    const s = await shoot();
    expect(s.frames.find((f) => f.id === s.leadFrameId)!.name).toBe('TR-0413');
    await expect.poll(() => frame('TR-0413').locator('.lead-tag').count()).toBe(1);
  });
  it('a light is renamed for the frames chosen and they gather under it', async () => {
    await bar().getByRole('button', { name: 'Light…' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Light', { exact: true }).fill('Doorway');
    await dialog.getByRole('button', { name: 'Set' }).click();
    await page.locator('.light-name').getByText('Doorway').waitFor();
    expect((await shoot()).frames.find((f) => f.name === 'TR-0413')!.light).toBe('Doorway');
  });
  it('a frame dragged among those of another light stands in it, and goes back', async () => {
    const light = async (): Promise<string> => (await shoot()).frames.find((f) => f.name === 'TR-0412')!.light,
      before = await light();
    await answered(() => frame('TR-0412').dragTo(page.locator('.light-name').filter({ hasText: 'Doorway' })));
    await expect.poll(light).toBe('Doorway');
    await page.keyboard.press('Control+z');
    await expect.poll(light).toBe(before);
  });
  it('a frame dragged to a part of the work is what that part asks about', async () => {
    await frame('TR-0412').dragTo(path(/^Look/));
    await page.getByRole('dialog', { name: /TR-0412/ }).waitFor();
    await page.keyboard.press('Escape');
    await page.getByRole('dialog').waitFor({ state: 'hidden' });
    await frame('TR-0415').dragTo(path(/^Deliver/));
    await page
      .getByRole('dialog')
      .getByText(/Deliver 1 frame|1 frame/)
      .first()
      .waitFor();
    await page.keyboard.press('Escape');
    await page.getByRole('dialog').waitFor({ state: 'hidden' });
    await frame('TR-0415').click();
  });
  it('a look is chosen for the whole shoot, and taken off again', async () => {
    await path(/^Look/).click();
    await page
      .getByRole('dialog')
      .getByRole('button', { name: /^Oak gall\s*revision/ })
      .click();
    await page.getByRole('button', { name: 'Let the shoot wear it' }).click();
    await page.locator('.work-path').getByText('Oak gall, revision 1').waitFor();
    await path(/^Look/).click();
    await page
      .getByRole('dialog')
      .getByRole('button', { name: /Neutral response/ })
      .click();
    await page.getByRole('button', { name: 'Take the look off' }).click();
    await page.locator('.work-path').getByText('neutral response').waitFor();
    expect((await shoot()).look).toBe(null);
  });
  it('a frame is dipped again and wears a look of its own; both are taken back from the notice', async () => {
    await frame('TR-0419').click();
    await bar().getByRole('button', { name: 'Dip again' }).click();
    await frame('TR-0419 dip 2').click();
    await bar().getByRole('button', { name: 'Own look…' }).click();
    await page
      .getByRole('dialog')
      .getByRole('button', { name: /Oak gall, soft/ })
      .click();
    await page
      .locator('.change-strip small', { hasText: /^ΔE \d/ })
      .first()
      .waitFor();
    await page.getByRole('button', { name: 'Let them wear it' }).click();
    await frame('TR-0419 dip 2').getByText('own look').waitFor();
    const pictureOf = (name: string): Promise<string | null> => frame(name).locator('img').getAttribute('src');
    expect(await pictureOf('TR-0419 dip 2')).toMatch(/look=\d+/);
    expect(await pictureOf('TR-0419 dip 2')).not.toBe(await pictureOf('TR-0419'));
    await page.getByRole('button', { name: 'Undo', exact: true }).first().click();
    await frame('TR-0419 dip 2').getByText('own look').waitFor({ state: 'detached' });
    expect((await shoot()).frames.map((f) => f.name)).toContain('TR-0419 dip 2');
    await bar().getByRole('button', { name: 'Take out', exact: true }).click();
    await frame('TR-0419 dip 2').waitFor({ state: 'detached' });
    expect((await shoot()).frames.filter((f) => f.name.startsWith('TR-0419'))).toHaveLength(1);
  });
  it('a frame is taken out, its raw staying where it is', async () => {
    const before = (await shoot()).frames.length;
    await frame('TR-0437').click();
    await bar().getByRole('button', { name: 'Take out' }).click();
    await page.getByText(/TR-0437 taken out; the raw files stay where they are/).waitFor();
    await page.waitForFunction((n) => document.querySelectorAll('.sheet-frame').length < n, before);
    expect((await shoot()).frames.length).toBe(before - 1);
    expect(existsSync(join(root, 'packages/camera/frames/TR-0437.dng'))).toBe(true);
  });
  it('a raw that moved is missing, and is found again', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'dyepot-moved-')),
      from = join(folder, 'walk.dng'),
      to = join(folder, 'walked.dng');
    copyFileSync(join(root, 'packages/camera/frames/TR-0437.dng'), from);
    await path(/^In /).click();
    await page.getByLabel('From a folder on this machine').fill(folder);
    await page.getByRole('button', { name: 'Use this folder' }).click();
    const only = (): Promise<void> => page.getByLabel('Words in name, light, camera, lens, ISO or time').fill('walk');
    await page
      .getByText(/1[67] raws/)
      .first()
      .waitFor();
    await only();
    await frame('walk').waitFor();
    await page.waitForFunction(() => document.querySelector('[title="walk"] .picture.ready') !== null);
    renameSync(from, to);
    await page.reload();
    await page.getByTestId('contact-sheet').waitFor();
    await only();
    await page.getByRole('option', { name: /walk/ }).filter({ hasText: 'missing' }).waitFor();
    await page.getByRole('option', { name: /walk/ }).filter({ hasText: 'missing' }).dblclick();
    await page.getByLabel('It is now at').fill(join(folder, 'nowhere.dng'));
    await page.getByRole('button', { name: 'Find', exact: true }).click();
    await page
      .getByText(/nowhere\.dng/)
      .last()
      .waitFor();
    await page.getByLabel('It is now at').fill(to);
    await page.getByRole('button', { name: 'Find', exact: true }).click();
    await page.getByText('walk is found').waitFor();
    expect((await shoot()).frames.find((f) => f.name === 'walk')!.missing).toBe(false);
    walked = to;
  });
  it('ratings and marks go beside the raw when they are asked to, come from there again, and that is taken back', async () => {
    const sidecar = walked.replace(/\.dng$/, '.xmp'),
      rating = async (): Promise<number> => (await shoot()).frames.find((f) => f.name === 'walk')!.rating,
      from = async (way: RegExp): Promise<void> => {
        await bar().getByRole('button', { name: 'More…' }).click();
        await page.getByRole('menuitem', { name: way }).click();
        // keys are the menu's until it is gone
        await page.getByRole('menuitem', { name: way }).waitFor({ state: 'hidden' });
      };
    await frame('walk').click();
    await page.keyboard.press('4');
    await expect.poll(rating).toBe(4);
    expect(existsSync(sidecar)).toBe(false);
    await from(/^Write ratings/);
    await page.getByText('one sidecar written').waitFor();
    const text = readFileSync(sidecar, 'utf8');
    expect(text).toContain('xmp:Rating="4"');
    writeFileSync(sidecar, text.replace('xmp:Rating="4"', 'xmp:Rating="2"'));
    await answered(() => from(/^Take ratings/));
    await expect.poll(rating).toBe(2);
    await page.keyboard.press('Control+z');
    await expect.poll(rating).toBe(4);
    writeFileSync(sidecar, '<nothing');
    await from(/^Take ratings/);
    await page.getByText(/walked\.xmp: line 1/).waitFor();
    await frame('walk').click({ modifiers: ['Control'] });
  });
});

describe('the shelf', () => {
  it('a look is duplicated, found by its family, and taken off', async () => {
    await page.goto(`${stage.origin}/shelf`);
    await page.getByRole('button', { name: 'More for Oak gall', exact: true }).click();
    await page.getByRole('menuitem', { name: 'Duplicate' }).click();
    await page.getByRole('heading', { name: 'Oak gall, copy' }).waitFor();
    await page.getByRole('button', { name: 'More for Oak gall, copy' }).click();
    await page.getByRole('menuitem', { name: 'Take out' }).click();
    await page.getByText(/Oak gall, copy is in the trash/).waitFor();
    await page.getByRole('heading', { name: 'Oak gall, copy' }).waitFor({ state: 'detached' });
  });
  it('a look a shoot wears stays, and is said to be worn', async () => {
    const looks = (await (await page.request.get(`${stage.origin}/api/looks`)).json()) as { id: number; name: string; revision: number }[],
      worn = looks[0]!;
    await page.request.post(`${stage.origin}/api/shoots/1/look`, {
      data: { lookId: worn.id, revision: worn.revision },
      headers: { Origin: stage.origin },
    });
    await page.getByRole('button', { name: `More for ${worn.name}`, exact: true }).click();
    await page.getByRole('menuitem', { name: 'Take out' }).click();
    await page.getByText(/worn by/i).waitFor();
    expect(await page.getByRole('heading', { name: worn.name, exact: true }).count()).toBe(1);
  });
  it('cards can all be shown on one frame', async () => {
    const pictures = (): Promise<string[]> =>
      page.evaluate(() => [...document.querySelectorAll<HTMLImageElement>('.look-card img')].map((i) => /frames\/(\d+)/.exec(i.src)![1]!));
    expect(new Set(await pictures()).size).toBeGreaterThan(1);
    await page.getByLabel('shown on').selectOption({ index: 2 });
    await page.waitForFunction(
      () =>
        new Set([...document.querySelectorAll<HTMLImageElement>('.look-card img')].map((i) => /frames\/(\d+)/.exec(i.src)![1])).size === 1,
    );
    await page.reload();
    await page.waitForFunction(() => {
      const all = [...document.querySelectorAll<HTMLImageElement>('.look-card img')];
      return all.length > 3 && new Set(all.map((i) => /frames\/(\d+)/.exec(i.src)![1])).size === 1;
    });
  });
});

describe('deliveries', () => {
  it('one under way can be stopped; what is finished stays and no half-written file is left', async () => {
    const out = mkdtempSync(join(tmpdir(), 'dyepot-stopped-'));
    await page.goto(`${stage.origin}/shoots/1`);
    await page.getByRole('button', { name: /^Deliver \d+ frames/ }).click();
    await page.getByLabel('Format').selectOption('png');
    await page.getByLabel('Into folder').fill(out);
    await page.getByRole('button', { name: 'Deliver', exact: true }).click();
    await page.getByRole('button', { name: 'Stop' }).click();
    await page.getByTestId('delivery').first().getByText('stopped', { exact: true }).waitFor();
    // frames under way when it was stopped are still finished
    const jobs = async (): Promise<{ items?: { state: string }[]; id: number }> => {
      const [{ id }] = (await (await page.request.get(`${stage.origin}/api/jobs`)).json()) as [{ id: number }];
      return (await (await page.request.get(`${stage.origin}/api/jobs/${id}`)).json()) as { id: number; items: { state: string }[] };
    };
    while ((await jobs()).items!.some((i) => i.state === 'running')) await page.waitForTimeout(100);
    const files = readdirSync(out),
      counted = (await jobs()).items!.filter((i) => i.state === 'done').length;
    expect(files.length).toBe(counted);
    await page
      .getByTestId('delivery')
      .first()
      .locator('.delivery-line')
      .getByText(new RegExp(`^${counted} of`))
      .waitFor();
    expect(files.every((f) => f.endsWith('.png'))).toBe(true);
  });
  it('nothing was complained of in the browser’s console', () => expect(stage.complaints).toEqual([]));
});
