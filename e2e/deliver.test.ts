import { spawnSync } from 'node:child_process';
import { copyFileSync, mkdtempSync, readdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { root } from '@dyepot/server/src/places.ts';
import { setShoot, type ShootStage } from './shootStage.ts';

let stage: ShootStage;
const folder = mkdtempSync(join(tmpdir(), 'dyepot-delivered-'));
beforeAll(async () => {
  stage = await setShoot();
});
afterAll(() => stage.close());
const deliverTwo = async (): Promise<void> => {
  const { page } = stage;
  await page.goto(`${stage.origin}/shoots/1`);
  await page.locator('[data-frame]').first().click();
  await page
    .locator('[data-frame]')
    .nth(1)
    .click({ modifiers: ['Shift'] });
  await page
    .getByRole('button', { name: /^Deliver 2/ })
    .first()
    .click();
  await page.getByRole('dialog').getByLabel('Format').waitFor();
};

describe('delivering', () => {
  it('shows the name a file gets while its pattern is typed, and what is wrong with it', async () => {
    const { page } = stage;
    await deliverTwo();
    const sheet = page.getByRole('dialog');
    await sheet.getByLabel('File name').fill('{shoot}_{frame');
    await sheet.getByText('A brace stands alone in the file name.').waitFor();
    await sheet.getByLabel('File name').fill('{frame}_');
    await sheet.getByRole('button', { name: '{counter}' }).click();
    expect(await sheet.getByLabel('File name').inputValue()).toBe('{frame}_{counter}');
    await sheet.getByText(/^TR-\d+_001\.jpg$/).waitFor();
  });
  it('settings are kept under a name and taken up again', async () => {
    const { page } = stage,
      sheet = page.getByRole('dialog');
    await sheet.getByLabel('Format').selectOption('webp');
    await sheet.getByLabel('Size measured by').selectOption('short');
    await sheet.getByLabel('Short edge, px').fill('300');
    await sheet.getByRole('button', { name: 'Keep these…' }).click();
    await sheet.getByLabel('Name of the preset').fill('Small for the web');
    await page.keyboard.press('Enter');
    await page.getByTestId('notice').filter({ hasText: 'Small for the web is kept' }).waitFor();
    await page.reload();
    await deliverTwo();
    await sheet.getByLabel('Preset').selectOption('Small for the web');
    expect(await sheet.getByLabel('Short edge, px').inputValue()).toBe('300');
    expect(await sheet.getByLabel('Format').inputValue()).toBe('webp');
  });
  it('files have their names; the record is verified; what has moved since is told', async () => {
    const { page } = stage,
      sheet = page.getByRole('dialog');
    await sheet.getByLabel('Into folder').fill(folder);
    await sheet.getByRole('button', { name: 'Deliver', exact: true }).click();
    await page.getByTestId('delivery').getByText('2 of 2').waitFor();
    expect(readdirSync(folder).filter((f) => /^TR-\d+_00[12]\.webp$/.test(f)).length).toBe(2);
    const waiting = page.waitForEvent('download');
    await page.getByRole('button', { name: /^More for the delivery/ }).click();
    await page.getByRole('menuitem', { name: 'Its record' }).click();
    const record = join(folder, 'record.json');
    await (await waiting).saveAs(record);
    const said = spawnSync(process.execPath, [join(root, 'packages/cli/bin/dyepot.mjs'), 'verify', record], { encoding: 'utf8' });
    expect([said.status, said.stdout]).toEqual([0, expect.stringContaining('2 of 2')]);
    const [first] = await stage.frames();
    const ground = { groundwork: { format: 'dyepot-groundwork', version: 1, exposureEv: 1 } };
    await page.request.put(`${stage.origin}/api/frames/${first!.id}/groundwork`, { data: ground });
    await page.getByRole('button', { name: /^More for the delivery/ }).click();
    await page.getByRole('menuitem', { name: 'What has moved since…' }).click();
    await sheet.getByText('1 of 2 frames would be rendered otherwise now').waitFor();
    await sheet.getByRole('button', { name: 'Deliver it' }).click();
    await page.waitForFunction(() => document.querySelectorAll('[data-testid=delivery]').length === 2);
    await page.getByTestId('delivery').first().getByText('1 of 1').waitFor();
  });
  it('two presets from the same raws: paused with pictures of what is done, gone on with, both there', async () => {
    const { page } = stage,
      sheet = page.getByRole('dialog'),
      dirs = [mkdtempSync(join(tmpdir(), 'dyepot-two-')), mkdtempSync(join(tmpdir(), 'dyepot-two-'))];
    const file = { format: 'png', depth: 16, space: 'srgb', size: null, quality: 92 };
    await page.request.put(`${stage.origin}/api/delivery-presets`, {
      data: { name: 'For print', folder: dirs[1], pattern: '{frame}-p', file },
    });
    await page.goto(`${stage.origin}/shoots/1`);
    await page.locator('[data-frame]').first().focus();
    await page.keyboard.press('Control+a');
    await page
      .getByRole('button', { name: /^Deliver 18/ })
      .first()
      .click();
    await sheet.getByLabel('Format').selectOption('jpeg');
    await sheet.getByLabel('File name').fill('{frame}');
    await sheet.getByLabel('Into folder').fill(dirs[0]!);
    await sheet.getByRole('checkbox', { name: 'For print' }).check();
    await sheet.getByRole('button', { name: 'Deliver', exact: true }).click();
    const card = page.getByTestId('delivery').first();
    await card.getByText('For print: PNG, 16 bit').waitFor();
    await card.getByRole('list', { name: 'Finished last' }).getByRole('img').first().waitFor({ timeout: 30_000 });
    await card.getByRole('button', { name: 'Pause' }).click();
    await card.getByText('resting').waitFor({ timeout: 30_000 });
    const done = readdirSync(dirs[0]!).length;
    expect(done).toBeLessThan(18);
    await page.reload();
    await card.getByRole('button', { name: /^Go on with/ }).click();
    await card.getByText('36 of 36').waitFor({ timeout: 80_000 });
    expect(readdirSync(dirs[0]!).filter((n) => n.endsWith('.jpg'))).toHaveLength(18);
    expect(readdirSync(dirs[1]!).filter((n) => n.endsWith('-p.png'))).toHaveLength(18);
  });
  it('a folder is watched: what arrives comes into the shoot by itself, until the watch is ended', async () => {
    const { page } = stage,
      card = mkdtempSync(join(tmpdir(), 'dyepot-card-'));
    const { id } = (await (await page.request.post(`${stage.origin}/api/shoots`, { data: { name: 'Tethered' } })).json()) as { id: number };
    await page.goto(`${stage.origin}/shoots/${id}`);
    await page.getByRole('button', { name: 'Bring raws in' }).first().click();
    const sheet = page.getByRole('dialog');
    await sheet.getByLabel('From a folder on this machine').fill(card);
    await sheet.getByText('and what arrives there later').click();
    await sheet.getByLabel('They are delivered').selectOption('Small for the web');
    await sheet.getByRole('button', { name: 'Watch this folder' }).click();
    await sheet.waitFor({ state: 'hidden' });
    copyFileSync((await stage.frames())[0]!.path, join(card, 'A-1.dng'));
    await page.locator('[data-frame]').first().waitFor({ timeout: 30_000 });
    await page.getByRole('button', { name: 'Bring raws in' }).first().click();
    await sheet.getByText('brought in, delivered as Small for the web').waitFor();
    await sheet.getByRole('button', { name: 'Stop' }).click();
    await page.getByTestId('notice').filter({ hasText: 'is not watched any more' }).waitFor();
  });
  it('nothing was complained of in the browser’s console', () => expect(stage.complaints).toEqual([]));
});
