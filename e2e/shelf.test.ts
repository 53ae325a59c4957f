import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Page } from 'playwright-core';
import type { Look } from '@dyepot/core';
import { setStage, type Stage } from './stage.ts';

interface Card {
  id: number;
  name: string;
  family: string;
  favourite: boolean;
  revision: number;
}
let stage: Stage, page: Page;
beforeAll(async () => {
  stage = await setStage();
  page = await stage.open('/shelf');
  await page.getByRole('article').first().waitFor();
});
afterAll(() => stage.close());
const get = async <T>(path: string): Promise<T> => (await (await page.request.get(`${stage.origin}/api${path}`)).json()) as T;
const cards = (): Promise<Card[]> => get<Card[]>('/looks');
const named = async (name: string): Promise<Card> => (await cards()).find((c) => c.name === name)!;
const names = (): Promise<string[]> => page.getByRole('article').evaluateAll((list) => list.map((a) => a.getAttribute('aria-label')!));
async function menu(name: string, item: string): Promise<void> {
  await page.getByRole('button', { name: `More for ${name}` }).click();
  await page.getByRole('menuitem', { name: item }).click();
}
const notice = (words: RegExp): Promise<void> => page.getByTestId('notice').filter({ hasText: words }).first().waitFor();
const close = async (): Promise<void> => {
  await page.keyboard.press('Escape');
  await page.getByRole('dialog').waitFor({ state: 'hidden' });
};

describe('the shelf', () => {
  it('finds looks by what they do, while words are typed', async () => {
    const all = await names();
    await page.getByRole('searchbox').fill('black and w');
    await page.waitForFunction((n) => document.querySelector('article')?.getAttribute('aria-label') !== n, all[0]);
    const found = await names();
    expect(found.length).toBeGreaterThan(0);
    const { ids } = await get<{ ids: number[] }>('/looks/found?words=black%20and%20w');
    expect(found).toEqual(
      (await Promise.all(ids.map(async (id) => (await cards()).find((c) => c.id === id)!.name))).slice(0, found.length),
    );
    await page.getByRole('searchbox').fill('');
    await page.waitForFunction((n) => document.querySelector('article')?.getAttribute('aria-label') === n, all[0]);
  });
  it('shows the look that is pointed at large on the lead frame; it is tried on the shoot, worn, and taken back', async () => {
    const [before] = await names(),
      large = page.getByRole('complementary');
    await page.getByRole('article').nth(1).hover();
    const name = (await names())[1]!;
    await large.getByText(name, { exact: true }).waitFor();
    await page.waitForFunction(() => document.querySelector('.large-look .picture.ready'));
    expect(before).not.toBe(name);
    await large.getByRole('button', { name: /^Try on/ }).click();
    await page
      .getByRole('dialog')
      .getByRole('button', { name: `Wear ${name}` })
      .click();
    await notice(new RegExp(`wears ${name}`));
    expect((await get<{ look: { name: string } }>('/shoots/1')).look.name).toBe(name);
    await page.getByRole('button', { name: 'Undo', exact: true }).first().click();
    await page.waitForFunction(
      (n) => fetch('/api/shoots/1').then(async (r) => ((await r.json()) as { look: { name: string } }).look.name !== n),
      name,
    );
  });
  it('checks a look: what is weak has its figure, and is shown', async () => {
    const { id, name } = (await cards()).find((c) => c.name.startsWith('Weld'))!;
    await menu(name, 'Look check…');
    const sheet = page.getByRole('dialog');
    await sheet.getByText('Worth knowing').or(sheet.getByText('Nothing weak was found')).first().waitFor();
    const { findings, frames } = await get<{ findings: { words: string }[]; frames: object[] }>(`/looks/${id}/check`);
    for (const f of findings) expect(await sheet.getByText(f.words).count(), f.words).toBe(1);
    expect(await sheet.locator('tbody tr').count()).toBe(frames.length);
    const [first] = await sheet.locator('summary').all();
    if (first) {
      await first.click();
      await sheet.locator('.check-shown').first().waitFor();
    }
    await close();
  });
  it('blends two looks under one slider, and puts what comes of it on the shelf', async () => {
    const [a] = await names();
    await menu(a!, 'Blend with…');
    const sheet = page.getByRole('dialog'),
      slider = sheet.getByRole('slider');
    await page.waitForFunction(() => document.querySelector('.blend .picture.ready img'));
    const shown = await sheet.getByRole('img').first().getAttribute('src');
    await slider.focus();
    for (let i = 0; i < 20; i++) await page.keyboard.press('ArrowLeft');
    await page.waitForFunction((src) => document.querySelector('.blend .picture.ready img')?.getAttribute('src') !== src, shown);
    expect(await sheet.locator('output').textContent()).toBe('30 %');
    await sheet.getByLabel('Name of the blend').fill('Between the two');
    await sheet.getByRole('button', { name: 'Put on the shelf' }).click();
    await notice(/Between the two is on the shelf/);
    const made = await get<{ document: Look }>(`/looks/${(await named('Between the two')).id}`);
    expect(made.document.notes).toMatch(/^70 % .*, 30 % /);
  });
  it('several are chosen, given a family and a tag, and made favourites', async () => {
    await menu('Between the two', 'Choose (Ctrl click)');
    const other = (await names()).find((n) => n !== 'Between the two')!;
    await page.getByRole('article', { name: other, exact: true }).getByRole('checkbox').check();
    await page.getByLabel('Family of the chosen looks').fill('Trial');
    await page.getByRole('button', { name: 'Set', exact: true }).click();
    await notice(/2 looks: family Trial/);
    await page.getByRole('toolbar').getByRole('button', { name: 'Favourite' }).click();
    await notice(/2 looks: a favourite/);
    for (const n of ['Between the two', other]) expect(await named(n)).toMatchObject({ family: 'Trial', favourite: true });
    await page.keyboard.press('Escape');
    await page.getByRole('toolbar').waitFor({ state: 'hidden' });
  });
  it('revisions say what they changed, take names, and are brought back', async () => {
    await menu('Between the two', 'Revisions…');
    const sheet = page.getByRole('dialog');
    await sheet.getByText(/Family none → Trial|Family .* → Trial/).waitFor();
    await sheet.getByLabel('Name of revision 1').fill('The first trial');
    await page.keyboard.press('Enter');
    await sheet.getByRole('button', { name: 'Bring back' }).first().click();
    await notice(/Revision 3 of Between the two says what revision 1 said/);
    const lines = await get<{ label: string }[]>(`/looks/${(await named('Between the two')).id}/revisions`);
    expect(lines.map((l) => l.label)).toEqual(['', '', 'The first trial']);
    await close();
  });
  it('is sent as one file and taken in where it is seen first: what is there already is left alone', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'dyepot-parcel-')),
      waiting = page.waitForEvent('download');
    await menu('Between the two', 'Share (.dyelook)');
    const file = join(folder, 'between.dyelook');
    await (await waiting).saveAs(file);
    expect(readFileSync(file).subarray(0, 2).toString()).toBe('PK');
    await page.getByLabel('Look file').setInputFiles(file);
    const sheet = page.getByRole('dialog');
    await sheet.getByText(/The shelf has it already/).waitFor();
    expect(await sheet.getByRole('button', { name: 'Nothing is taken in' }).isDisabled()).toBe(true);
    await close();
    await menu('Between the two', 'Take out');
    await notice(/is in the trash/);
    await page.getByLabel('Look file').setInputFiles(file);
    await sheet.getByText('Not on this shelf.').waitFor();
    await page.waitForFunction(() => document.querySelector('.arrivals .picture.ready img'));
    await sheet.getByRole('button', { name: 'Take in 1' }).click();
    await notice(/Between the two is on the shelf/);
    expect((await named('Between the two')).revision).toBe(1);
  });
  it('a look sheet shows the frames that are chosen, as a page or a picture', async () => {
    const [name] = await names(),
      heights: number[] = [];
    for (const frames of [2, 4]) {
      const waiting = page.waitForEvent('download');
      await menu(name!, 'Look sheet (picture)…');
      const sheet = page.getByRole('dialog');
      const chosen = sheet.getByRole('checkbox', { checked: true });
      await chosen.first().waitFor();
      while ((await chosen.count()) > 0) await chosen.first().uncheck();
      for (let i = 0; i < frames; i++) await sheet.getByRole('checkbox').nth(i).check();
      await sheet.locator('button[type=submit]').click();
      const file = join(mkdtempSync(join(tmpdir(), 'dyepot-sheet-')), 'sheet.png');
      await (await waiting).saveAs(file);
      // a PNG says its height in its first chunk (W3C PNG, 11.2.2)
      heights.push(readFileSync(file).readUInt32BE(20));
    }
    expect(heights[1]!).toBeGreaterThan(heights[0]!);
  });
  it('nothing was complained of in the browser’s console', () => expect(stage.complaints).toEqual([]));
});
