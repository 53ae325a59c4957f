import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Page } from 'playwright-core';
import { root } from '@dyepot/server/src/places.ts';
import { benchHand, type BenchHand } from './benchHand.ts';
import { kept, leadAsServer, painted, setStage, still, type Stage } from './stage.ts';

let stage: Stage, hand: BenchHand, page: Page;
beforeAll(async () => {
  stage = await setStage();
  hand = await benchHand(stage, 'TR-0451');
  page = hand.page;
});
afterAll(async () => {
  await stage.close();
});
const settled: BenchHand['settled'] = () => hand.settled();

describe('the stock designer', () => {
  it('takes a stock by its curve from the Shelf into a revision, comes back after a reload, and goes into the look', async () => {
    await page.goto(`${stage.origin}/shelf?stocks=`);
    await page.getByRole('link', { name: 'Open Weld in the designer' }).click();
    await page.getByRole('heading', { name: 'Weld', level: 1 }).waitFor();
    const straight = page.getByRole('slider', { name: 'Straight part, on the curve' }),
      gradient = page.getByRole('row', { name: /average gradient/ });
    const before = await gradient.innerText();
    await straight.focus();
    for (let i = 0; i < 8; i++) await page.keyboard.press('ArrowUp');
    await page.waitForFunction(
      (was) => document.querySelector('.stock-computed')?.textContent?.includes(was) === false,
      before.split('\t')[1]!.trim(),
    );
    expect(await straight.getAttribute('aria-valuetext')).toBe('0.70');
    await page.getByRole('slider', { name: 'The green-sensitive layer’s peak, on the chart' }).focus();
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('Control+z');
    await kept(page);
    await page.reload();
    await straight.waitFor();
    expect(await straight.getAttribute('aria-valuetext')).toBe('0.70');
    await page.getByRole('radio', { name: 'Whole way' }).click();
    await page.getByLabel('Lay another over').selectOption('Woad');
    expect(await page.locator('.stock-computed td.over').count()).toBeGreaterThan(3);
    await page.getByRole('button', { name: 'Save as…' }).click();
    await page.getByLabel('Name').fill('Weld, steeper');
    await page.getByRole('dialog').getByRole('button', { name: 'Save stock' }).click();
    await page.waitForURL(/stock=1/);
    await page.getByRole('button', { name: 'Use in the look' }).click();
    await page.waitForURL(/bench/);
    await painted(page);
    await settled();
    const { params } = (await hand.look()).stock;
    expect(params['sheet']).toMatchObject({ name: 'Weld, steeper', curves: [{ gamma: 0.7 }, { gamma: 0.7 }, { gamma: 0.7 }] });
    expect((await leadAsServer(page)).equal).toBe(true);
  });
  it('keeps what was changed just before another stock is opened; two windows’ work stands side by side; an older revision can be reached', async () => {
    const top = (p: Page): ReturnType<Page['getByRole']> => p.getByRole('slider', { name: 'Top, on the curve' }),
      designer = await stage.open('/stock?name=Cutch');
    await top(designer).focus();
    await designer.keyboard.press('ArrowDown');
    // at once to another: nothing rests in between
    await designer.getByRole('link', { name: 'Shelf', exact: true }).click();
    await designer.getByRole('radio', { name: 'Stocks' }).click();
    await designer.getByRole('link', { name: 'Open Woad in the designer' }).click();
    await designer.getByRole('heading', { name: 'Woad', level: 1 }).waitFor();
    await kept(designer);
    await designer.goto(`${stage.origin}/stock?name=Cutch`);
    await top(designer).waitFor();
    expect(await top(designer).getAttribute('aria-valuetext')).toContain('2.39');
    const other = await stage.open('/stock?name=Cutch');
    await top(other).focus();
    await other.keyboard.press('ArrowDown');
    await kept(other);
    await top(designer).focus();
    await designer.keyboard.press('ArrowUp');
    await designer.getByText('is on the Shelf as Cutch, other window').waitFor();
    await other.reload();
    await top(other).waitFor();
    expect(await top(other).getAttribute('aria-valuetext')).toContain('2.38');
    await other.close();
    await designer.goto(`${stage.origin}/stock?stock=1`);
    await top(designer).focus();
    await designer.keyboard.press('ArrowDown');
    await designer.getByRole('button', { name: 'Save revision' }).click();
    await designer.getByText('sheet revision 2').waitFor();
    await designer.getByRole('combobox', { name: 'Revision', exact: true }).selectOption('1');
    await designer.getByText('sheet revision 1 of 2').waitFor();
    await designer.close();
  });
  it('on the bench its grain can be left out, and it leads back to the designer', async () => {
    await page.getByLabel('Grain', { exact: true }).selectOption('left out');
    await settled();
    expect((await hand.look()).stock.params['grain']).toBe('left out');
    expect((await leadAsServer(page)).equal).toBe(true);
    await page.getByRole('link', { name: 'Open in the stock designer' }).click();
    await page.getByRole('heading', { name: 'Weld, steeper', level: 1 }).waitFor();
    await page.goBack();
    await painted(page);
    await settled();
  });
});

describe('finishing', () => {
  it('grain, halation, glow, a leak, a vignette put on the picture and a border: the screen is the server’s, magnified too', async () => {
    for (const [words, slider, value] of [
      ['grain', 'Granularity', 14],
      ['halation', 'Share scattered', 20],
      ['glow', 'Share scattered', 25],
      ['leak', 'Light', 40],
      ['border', 'Width', 2],
      ['vignette', 'At the edges', -1.5],
    ] as const) {
      await hand.add('print', words);
      await hand.type(slider, value);
    }
    await settled();
    await page.getByRole('button', { name: 'Put on the picture' }).click();
    const lead = await hand.lead();
    await page.mouse.click(lead.x + lead.width * 0.25, lead.y + lead.height * 0.4);
    await settled();
    const placed = (await hand.step('vignette')).params;
    expect(placed['x'] as number).toBeCloseTo(25, 0);
    expect(placed['y'] as number).toBeCloseTo(40, 0);
    const [near, far] = [await hand.patch(0.25, 0.4), await hand.patch(0.95, 0.9)];
    expect(near[1]!).toBeGreaterThan(far[1]!);
    expect((await leadAsServer(page)).equal).toBe(true);
    await page.getByRole('button', { name: '100 %', exact: true }).click();
    await painted(page);
    await settled();
    expect((await leadAsServer(page)).equal).toBe(true);
    await page.getByRole('button', { name: 'Fit', exact: true }).click();
    await painted(page);
    await hand.undoAll();
  });
  it('a picture is laid over, and one that is none says so', async () => {
    await hand.add('print', 'overprint');
    const wrong = join(stage.data, 'wrong.png'),
      right = join(stage.data, 'paper.png');
    writeFileSync(wrong, 'not a picture');
    writeFileSync(
      right,
      await sharp({ create: { width: 60, height: 40, channels: 3, background: '#ffffff' } })
        .png()
        .toBuffer(),
    );
    const before = await hand.patch(0.5, 0.8);
    await page.getByLabel('File of the picture').setInputFiles(wrong);
    await page.getByText('is not a picture that can be read').waitFor();
    const kept = page.waitForRequest((r) => /api\/drafts\/?\d*$/.test(r.url()) && /"kept":"[0-9a-f]{64}"/.test(r.postData() ?? ''));
    await page.getByLabel('File of the picture').setInputFiles(right);
    await page.getByRole('img', { name: 'The picture paper.png' }).waitFor();
    // it goes to the draft by its hash, and comes back whole
    expect((await kept).postData()).not.toContain('dyepot-picture');
    await settled();
    expect((await hand.patch(0.5, 0.8))[1]!).toBeGreaterThan(before[1]! + 40);
    expect((await leadAsServer(page)).equal).toBe(true);
    await page.reload();
    await painted(page);
    await settled();
    expect((await hand.patch(0.5, 0.8))[1]!).toBeGreaterThan(before[1]! + 40);
    expect((await leadAsServer(page)).equal).toBe(true);
    await hand.undoAll();
  });
  it('steps are proposed towards a finished picture, seen beside it, left or taken, and undone in one', async () => {
    const reference = join(stage.data, 'reference.jpg'),
      wrong = join(stage.data, 'wrong.jpg'),
      airy = JSON.parse(readFileSync(join(root, 'demo/looks/chalk-high.json'), 'utf8')) as object;
    writeFileSync(wrong, 'not a picture');
    writeFileSync(reference, await (await page.request.post(`${stage.origin}/api/frames/1/picture`, { data: { look: airy } })).body());
    const kinds = async (): Promise<string[]> => (await hand.look()).print.map((s) => s.kind),
      before = await kinds();
    await page.getByRole('button', { name: 'Add a step to the print lane' }).click();
    await page.getByRole('button', { name: /^Towards a finished picture/ }).click();
    const sheet = page.getByRole('dialog', { name: 'Towards a finished picture' }),
      file = sheet.getByLabel('The picture');
    await file.setInputFiles(wrong);
    await page.getByText('wrong.jpg is not a picture that can be read').waitFor();
    await file.setInputFiles(reference);
    const said = sheet.getByText(/apart; with all the steps/);
    await said.waitFor();
    const [was, is] = [.../(\d+\.\d) apart; with all the steps (\d+\.\d)/.exec((await said.textContent())!)!].slice(1).map(Number);
    expect(is!).toBeLessThan(was! / 2);
    await sheet.getByRole('img', { name: 'The lead with the steps proposed' }).waitFor();
    await sheet.getByLabel(/Saturation/).uncheck();
    await sheet.getByRole('button', { name: 'Add the steps' }).click();
    await settled();
    const added = (await kinds()).slice(before.length);
    expect(added[0]).toBe('curve');
    expect(added).not.toContain('saturation');
    expect((await leadAsServer(page)).equal).toBe(true);
    await page.keyboard.press('Control+z');
    await settled();
    expect(await kinds()).toEqual(before);
  });
  it('black and white: a hue dragged down on the picture is darker, and the picture is toned', async () => {
    await hand.add('print', 'black and white');
    await hand.type('Amount', 100);
    await settled();
    const before = await hand.patch(0.49, 0.5);
    await page.getByRole('button', { name: 'Drag a hue on the picture' }).click();
    const lead = await hand.lead();
    await still(page);
    await page.mouse.move(lead.x + lead.width * 0.49, lead.y + lead.height * 0.5);
    await page.mouse.down();
    await page.mouse.move(lead.x + lead.width * 0.49, lead.y + lead.height * 0.5 + 70, { steps: 5 });
    await page.mouse.up();
    await page.getByRole('slider', { name: /on the ring/ }).waitFor();
    await settled();
    const darker = await hand.patch(0.49, 0.5);
    expect(darker[1]!).toBeLessThan(before[1]! - 12);
    await hand.add('print', 'toning');
    await page.getByRole('button', { name: 'sepia' }).click();
    await settled();
    const toned = await hand.patch(0.49, 0.5);
    expect(toned[0]! - toned[2]!).toBeGreaterThan(8);
    expect((await leadAsServer(page)).equal).toBe(true);
    await hand.undoAll();
  });
  it('zones lie over the picture and say how much is in each; a starting point is ordinary steps in one undo', async () => {
    await page.getByRole('button', { name: 'Zones 0 to X over the picture' }).click();
    await page.getByRole('list', { name: /Zones/ }).waitFor();
    const shares = await page.locator('.zone-scale small').allInnerTexts();
    const sum = shares.reduce((s, t) => s + (Number(t.replace('<1', '0.5')) || 0), 0);
    expect(Math.abs(sum - 100)).toBeLessThan(6);
    await page.getByRole('button', { name: 'Zones 0 to X over the picture' }).click();
    await hand.add('print', 'polarising');
    expect((await hand.look()).print.map((s) => s.name)).toContain('Sky deepened');
    expect((await hand.look()).scene.map((s) => s.name)).toContain('Air cleared');
    await page.keyboard.press('Control+z');
    await settled();
    expect((await hand.look()).print.map((s) => s.name)).not.toContain('Sky deepened');
  });
});
