import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Page } from 'playwright-core';
import { root } from '@dyepot/server/src/places.ts';
import { setStage, type Stage } from './stage.ts';

let one: Stage, other: Stage, page: Page;
beforeAll(async () => {
  [one, other] = [await setStage(), await setStage()];
  page = await one.open('/shelf');
  await page.getByRole('article').first().waitFor();
});
afterAll(async () => {
  await one.close();
  await other.close();
});
const folder = mkdtempSync(join(tmpdir(), 'dyepot-studio-')),
  parcel = join(folder, 'sent.dyelook');
const menu = async (name: string, item: string): Promise<void> => {
  await page.getByRole('button', { name: `More for ${name}`, exact: true }).click();
  await page.getByRole('menuitem', { name: item }).click();
};
const notice = (words: RegExp): Promise<void> => page.getByTestId('notice').filter({ hasText: words }).first().waitFor();
const sheet = (): ReturnType<Page['getByRole']> => page.getByRole('dialog');
const looks = async (stage: Stage): Promise<{ id: number; name: string; revision: number }[]> =>
  (await (await page.request.get(`${stage.origin}/api/looks`)).json()) as { id: number; name: string; revision: number }[];

it('a look is found, given a step of another, checked, and leaves as a file', async () => {
  const [first, second] = await looks(one);
  await page.getByRole('searchbox').fill(first!.name);
  await page.getByRole('article', { name: first!.name, exact: true }).waitFor();
  await menu(first!.name, 'Give steps to…');
  await sheet().getByLabel('Given to').selectOption({ label: second!.name });
  await sheet().locator('.check-grid label').first().click();
  await sheet().locator('.picture.ready').waitFor();
  await sheet().getByRole('button', { name: 'Save as its next revision' }).click();
  await notice(new RegExp(`${second!.name} has the step now, as revision ${second!.revision + 1}`));
  await page.getByRole('searchbox').fill(second!.name);
  await menu(second!.name, 'Look check…');
  await sheet().getByText('Worth knowing').or(sheet().getByText('Nothing weak was found')).first().waitFor();
  await page.keyboard.press('Escape');
  await sheet().waitFor({ state: 'hidden' });
  const waiting = page.waitForEvent('download');
  await menu(second!.name, 'Share (.dyelook)');
  await (await waiting).saveAs(parcel);
});
it('elsewhere it is seen first, taken in as a newer revision, and worn', async () => {
  const [, second] = await looks(other);
  page = await other.open('/shelf');
  await page.getByRole('article').first().waitFor();
  await page.getByLabel('Look file').setInputFiles(parcel);
  await sheet().locator('.arrivals .picture.ready img').waitFor();
  await sheet()
    .getByText(new RegExp(`Next revision of ${second!.name}`))
    .waitFor({ state: 'attached' });
  await sheet()
    .getByRole('button', { name: /^Take in 1/ })
    .click();
  await expect.poll(async () => (await looks(other)).find((l) => l.id === second!.id)!.revision).toBe(second!.revision + 1);
  await page.goto(`${other.origin}/shoots/1`);
  await page.getByRole('button', { name: /^Look/ }).first().click();
  await sheet()
    .getByRole('button', { name: new RegExp(`^${second!.name}\\s*revision`) })
    .click();
  await page.getByRole('button', { name: 'Let the shoot wear it' }).click();
  await page
    .locator('.work-path')
    .getByText(`${second!.name}, revision ${second!.revision + 1}`)
    .waitFor();
});
it('three presets are delivered from the same raws; paused, killed and gone on with, every file is there and verified', async () => {
  const into = ['plain', 'print', 'page'].map((n) => join(folder, n)),
    kinds = [
      { name: 'Print', file: { format: 'tiff', depth: 16, space: 'oprgb', size: 900, quality: 92 } },
      { name: 'Page', file: { format: 'webp', depth: 8, space: 'srgb', size: 600, quality: 80 } },
    ];
  for (const [i, k] of kinds.entries())
    await page.request.put(`${other.origin}/api/delivery-presets`, { data: { ...k, folder: into[i + 1], pattern: '{frame}' } });
  await page.goto(`${other.origin}/shoots/1`);
  await page.locator('[data-frame]').first().waitFor();
  await page
    .getByRole('button', { name: /^Deliver \d+/ })
    .first()
    .click();
  await sheet().getByLabel('Into folder').fill(into[0]!);
  for (const { name } of kinds) await sheet().getByRole('checkbox', { name }).check();
  await sheet().getByRole('button', { name: 'Deliver', exact: true }).click();
  const card = page.getByTestId('delivery').first();
  await card.getByRole('list', { name: 'Finished last' }).getByRole('img').first().waitFor();
  await card.getByRole('button', { name: 'Pause' }).click();
  await card.getByText('resting').waitFor();
  await card.getByRole('button', { name: /^Go on with/ }).click();
  await card.getByText('under way').waitFor();
  await other.killServer();
  await page.getByText('The server does not answer').waitFor();
  await other.resumeServer();
  await card.getByText('54 of 54').waitFor({ timeout: 120_000 });
  for (const at of into) expect(readdirSync(at).filter((f) => !f.startsWith('.writing'))).toHaveLength(18);
  const waiting = page.waitForEvent('download'),
    record = join(folder, 'record.json');
  await card.getByRole('button', { name: /^More for the delivery/ }).click();
  await page.getByRole('menuitem', { name: 'Its record' }).click();
  await (await waiting).saveAs(record);
  const said = spawnSync(process.execPath, [join(root, 'dist/dyepot.mjs'), 'verify', record], { encoding: 'utf8' });
  expect([said.status, said.stdout]).toEqual([0, expect.stringContaining('54 of 54')]);
  const pdf = await page.request.get(`${other.origin}/api/jobs/${await lastJob()}/sheet.pdf`);
  expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-');
});
const lastJob = async (): Promise<number> =>
  ((await (await page.request.get(`${other.origin}/api/jobs`)).json()) as { id: number }[])[0]!.id;
