import { execFileSync } from 'node:child_process';
import { copyFileSync, mkdirSync, mkdtempSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { root } from '@dyepot/server/src/places.ts';
import { takeBracket } from '@dyepot/server/test/bracketTrial.ts';
import { painted, setStage, type Stage } from './stage.ts';

let stage: Stage, page: Page;
const frames = join(root, 'packages/camera/frames'),
  names = readdirSync(frames)
    .filter((f) => f.endsWith('.dng'))
    .sort(),
  work = mkdtempSync(join(tmpdir(), 'dyepot-journey-')),
  out = join(work, 'delivered');
beforeAll(async () => {
  mkdirSync(join(work, 'raws'));
  for (const n of names.slice(0, 3)) copyFileSync(join(frames, n), join(work, 'raws', n));
  writeFileSync(join(work, 'raws', 'broken.dng'), readFileSync(join(frames, names[0]!)).subarray(0, 9000));
  stage = await setStage({ demo: false });
  page = await stage.open('/');
});
afterAll(async () => {
  await stage.close();
});

describe('from a folder of raws to a folder of pictures, beginning with nothing', () => {
  it('empty screens say what to do', async () => {
    await page.getByRole('heading', { name: 'Start here' }).waitFor();
    await page.getByRole('link', { name: 'Shelf' }).click();
    await page.getByText('The shelf is empty').waitFor();
    await page.getByRole('link', { name: 'Deliveries' }).click();
    await page.getByText('Nothing delivered yet').waitFor();
    await page.getByRole('link', { name: 'Bench' }).click();
    await page.getByText('Nothing on the bench yet').waitFor();
  });
  it('a shoot is started and a folder of raws brought in; the broken one is named', async () => {
    await page.getByRole('link', { name: 'Shoots', exact: true }).click();
    await page.getByRole('button', { name: 'New shoot' }).first().click();
    await page.getByLabel('Name').fill('First <b>shoot</b>');
    await page.getByRole('button', { name: 'Start' }).click();
    await page.getByLabel('From a folder on this machine').fill('/nowhere/at/all');
    await page.getByRole('button', { name: 'Use this folder' }).click();
    await page.getByText('/nowhere/at/all is not a folder on this machine').waitFor();
    await page.getByLabel('From a folder on this machine').fill(join(work, 'raws'));
    await page.getByRole('button', { name: 'Use this folder' }).click();
    await page.getByText('1 could not be read').waitFor();
    await page.getByText(/broken\.dng is damaged/).waitFor();
    await page.waitForFunction(() => document.querySelectorAll('.sheet-frame .picture.ready').length === 3);
    expect(await page.getByText('First <b>shoot</b>').count()).toBeGreaterThan(0);
  });
  it('a raw is uploaded through the page', async () => {
    await page.locator('.work-path').getByRole('button', { name: /^In / }).click();
    await page.getByLabel('Raw files or finished pictures to upload').setInputFiles(join(frames, names[3]!));
    await page.waitForFunction(() => document.querySelectorAll('.sheet-frame').length === 4);
  });
  it('a look is designed, put on the shelf and worn by the shoot', async () => {
    await page
      .getByRole('option', { name: names[1]!.replace('.dng', ''), exact: false })
      .first()
      .dblclick();
    await painted(page);
    await page.getByRole('button', { name: 'Add a step to the print lane' }).click();
    await page.getByLabel('What should it do?').fill('muted');
    await page.keyboard.press('Enter');
    await page.getByRole('slider', { name: 'Change' }).focus();
    await page.keyboard.press('Enter');
    await page.keyboard.type('-40');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Save look' }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'Save look' }).click();
    await page.getByText('a look needs a name').waitFor();
    await page.getByLabel('Name', { exact: true }).fill('Quiet walnut');
    await page.getByRole('dialog').getByRole('button', { name: 'Save look' }).click();
    await page.getByText('Quiet walnut is on the shelf').waitFor();
    await page.getByRole('button', { name: 'Apply to shoot' }).click();
    await page.getByText(/now wears Quiet walnut, revision 1/).waitFor();
  });
  it('the shelf finds it by a step, shows its dye strip, and takes in a look file but not a bad one', async () => {
    await page.getByRole('link', { name: 'Shelf' }).click();
    await page.getByLabel('Find a look, a step or a note').fill('saturation');
    await page.getByRole('heading', { name: 'Quiet walnut' }).waitFor();
    expect(
      await page
        .getByRole('article')
        .getByRole('img', { name: /Dye strip/ })
        .locator('i')
        .count(),
    ).toBe(14);
    await page.getByLabel('Find a look, a step or a note').fill('');
    const file = page.getByLabel('Look file');
    await file.setInputFiles(join(root, 'e2e/looks/oak-gall.json'));
    await page.getByRole('heading', { name: 'Oak gall' }).waitFor();
    const bad = join(work, 'bad.json');
    writeFileSync(
      bad,
      JSON.stringify({
        ...JSON.parse(readFileSync(join(root, 'e2e/looks/oak-gall.json'), 'utf8')),
        print: [{ id: 'x', kind: 'sparkle', params: {} }],
      }),
    );
    await file.setInputFiles(bad);
    await page.getByText(/bad\.json: step 1 of the print lane: there is no step kind called “sparkle”/).waitFor();
  });
  it('the shoot is delivered into a folder, and downloaded as a zip', async () => {
    await page.getByRole('link', { name: 'Shoots', exact: true }).click();
    await page.getByRole('link', { name: /First/ }).click();
    await page.getByRole('button', { name: 'Deliver 4 frames' }).click();
    await page.getByLabel('Into folder').fill(out);
    await page.getByLabel('Long edge, px').fill('5');
    await page.getByRole('button', { name: 'Deliver', exact: true }).click();
    await page.getByText(/long edge is a whole number/).waitFor();
    await page.getByLabel('Long edge, px').fill('800');
    await page.getByRole('button', { name: 'Deliver', exact: true }).click();
    await page.getByRole('link', { name: 'Download zip' }).waitFor();
    const files = readdirSync(out).sort();
    expect(files).toEqual(
      names
        .slice(0, 4)
        .map((n) => n.replace('.dng', '.jpg'))
        .sort(),
    );
    expect(execFileSync('/usr/bin/exiftool', ['-T', '-ImageWidth', '-ProfileDescription', join(out, files[0]!)]).toString()).toMatch(
      /^800\tsRGB/,
    );
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Download zip' }).click()]);
    expect(download.suggestedFilename()).toBe('delivery-3.zip');
  });
  it('the command line makes the same file from the same look', () => {
    const look = join(work, 'look.json'),
      cli = join(work, 'cli');
    const file = execFileSync('curl', ['-s', `${stage.origin}/api/looks/1/file`]);
    writeFileSync(look, file);
    execFileSync(process.execPath, [
      join(root, 'packages/cli/bin/dyepot.mjs'),
      'render',
      join(frames, names[0]!),
      '--look',
      look,
      '--out',
      cli,
      '--size',
      '800',
    ]);
    const name = names[0]!.replace('.dng', '.jpg');
    expect(readFileSync(join(cli, name)).equals(readFileSync(join(out, name)))).toBe(true);
  });
  it('what was delivered stands in a shoot of its own as finished pictures; what they cannot is said', async () => {
    await page.getByRole('link', { name: 'Shoots', exact: true }).click();
    await page.getByRole('button', { name: 'New shoot' }).first().click();
    await page.getByLabel('Name').fill('Second photographer');
    await page.getByRole('button', { name: 'Start' }).click();
    await page.getByLabel('From a folder on this machine').fill(out);
    await page.getByRole('button', { name: 'Use this folder' }).click();
    await page.getByText('but 4 finished pictures: ask for those too').waitFor();
    await page.getByText('and finished pictures').click();
    await page.getByRole('button', { name: 'Look through folders…' }).click();
    await page.getByText('0 raws, 4 finished pictures here').waitFor();
    await page.getByRole('button', { name: 'Use this folder' }).click();
    await page.waitForFunction(() => document.querySelectorAll('.sheet-frame .picture.ready').length === 4);
    expect(await page.locator('.sheet-frame small').allTextContents()).toEqual(['JPEG', 'JPEG', 'JPEG', 'JPEG']);
    await page.getByRole('button', { name: /^In 0 raws, 4 finished/ }).waitFor();
    await page.getByRole('link', { name: /^Ground 0 of 4 done/ }).click();
    await painted(page);
    await page.getByText('A finished JPEG: its light is read back from the picture').waitFor();
    await page.getByRole('tab', { name: /^Exposure/ }).click();
    await page.getByText('there are no highlights to recover').waitFor();
    expect(await page.getByText('Highlight recovery').count()).toBe(0);
  });
  it('three exposures of one view are found, merged and stand in the shoot', async () => {
    await takeBracket(join(work, 'bracket'));
    await page.getByRole('link', { name: 'Shoots', exact: true }).click();
    await page.getByRole('button', { name: 'New shoot' }).first().click();
    await page.getByLabel('Name').fill('Three exposures');
    await page.getByRole('button', { name: 'Start' }).click();
    await page.getByLabel('From a folder on this machine').fill(join(work, 'bracket'));
    await page.getByRole('button', { name: 'Use this folder' }).click();
    await page.waitForFunction(() => document.querySelectorAll('.sheet-frame .picture.ready').length === 3);
    await page.getByRole('option', { name: /B1/ }).click();
    await page.getByRole('button', { name: 'More…' }).click();
    await page.getByRole('menuitem', { name: 'Merge exposures…' }).click();
    const sheet = page.getByRole('dialog', { name: 'Merge exposures' });
    await sheet.getByRole('checkbox', { name: 'Merge B0, B1, B2' }).waitFor({ timeout: 60_000 });
    expect(await sheet.locator('figcaption').allTextContents()).toEqual(['B0 −2.5 EV', 'B1 middle', 'B2 +2.5 EV']);
    await sheet.getByRole('button', { name: 'Merge', exact: true }).click();
    await sheet.getByText(/^Merging 1 of 1, about \d+ s left/).waitFor();
    await page.getByText('B0-merged.dng is merged').waitFor({ timeout: 60_000 });
    await page.waitForFunction(() => document.querySelectorAll('.sheet-frame .picture.ready').length === 4);
    expect(readdirSync(join(work, 'bracket')).sort()).toEqual(['B0-merged.dng', 'B0.dng', 'B1.dng', 'B2.dng']);
  });
  it('the demo looks and frames also carry no console complaint', () => expect(stage.complaints).toEqual([]));
});
