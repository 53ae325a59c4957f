import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Page } from 'playwright-core';
import { complaintsOf } from './accessWalk.ts';
import { painted, setStage, someone, type Stage } from './stage.ts';

let stage: Stage, page: Page;
const password = 'the heron stands in green water';
const logIn = async (p: Page, name: string, given: string): Promise<void> => {
  const door = p.getByRole('dialog', { name: 'Log in to Dyepot' });
  await door.getByLabel('Name').fill(name);
  await door.getByLabel('Password').fill(given);
  await p.keyboard.press('Enter');
};
const item = async (p: Page, menu: RegExp, name: string): Promise<void> => {
  await p.getByRole('button', { name: menu }).click();
  await p.getByRole('menuitem', { name, exact: true }).click();
};
beforeAll(async () => {
  stage = await setStage({ demo: true, away: true });
  page = await stage.open('/shoots/1');
});
afterAll(() => stage.close());

describe('met from other machines', () => {
  it('asks who one is before it shows anything, and says plainly what does not fit', async () => {
    await page.getByRole('heading', { name: 'Log in to Dyepot' }).waitFor();
    expect(await page.locator('[data-frame]').count()).toBe(0);
    expect(await complaintsOf(page)).toEqual([]);
    await logIn(page, someone.name, 'not that one, surely');
    await page.getByText('this name and password do not belong together').waitFor();
    await logIn(page, someone.name, someone.password);
    await page.locator('[data-frame]').first().waitFor();
    await page.getByRole('button', { name: someone.name }).waitFor();
  });
  it('adds someone who may look; they see everything and change nothing', async () => {
    await item(page, /^Ines Fell$/, 'People and links');
    await page.getByRole('button', { name: 'Add someone' }).click();
    await page.getByLabel('Name', { exact: true }).fill('Odo');
    await page.getByLabel(/^Password/).fill('odo12345odo');
    await page.getByRole('button', { name: 'Add', exact: true }).click();
    await page.getByText(/at least 12 letters/).waitFor();
    await page.getByLabel(/^Password/).fill(password);
    await page.getByRole('button', { name: 'Add', exact: true }).click();
    await page.getByText('was not here yet').waitFor();
    await page.getByRole('dialog').waitFor({ state: 'detached' });
    expect(await complaintsOf(page)).toEqual([]);
    const theirs = await stage.browser.newPage({ ignoreHTTPSErrors: true, viewport: { width: 1280, height: 800 } });
    await theirs.goto(`${stage.origin}/bench?shoot=1&look=1`);
    await logIn(theirs, 'odo', password);
    await painted(theirs);
    await theirs.getByText('looking').waitFor();
    await theirs.goto(`${stage.origin}/people`);
    await theirs.getByText('you may look here, and not change anything').waitFor();
    await theirs.close();
  });
  it('keeps what was done while a session ran out, until one is in again', async () => {
    const frame = ((await (await page.request.get(`${stage.origin}/api/shoots/1`)).json()) as { frames: { id: number }[] }).frames[0]!,
      exposure = async (): Promise<number> =>
        ((await (await page.request.get(`${stage.origin}/api/frames/${frame.id}`)).json()) as { groundwork?: { exposureEv: number } })
          .groundwork?.exposureEv ?? 0;
    await page.goto(`${stage.origin}/ground?shoot=1&frame=${frame.id}`);
    await painted(page);
    await page.getByRole('tab', { name: /^Exposure/ }).click();
    await page.context().clearCookies();
    await page.getByRole('slider', { name: 'Exposure', exact: true }).focus();
    for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowRight');
    await page.getByText(/What you did is not saved yet; it will be when you are in/).waitFor();
    await logIn(page, someone.name, someone.password);
    await page.getByRole('heading', { name: 'Log in to Dyepot' }).waitFor({ state: 'detached' });
    await expect.poll(exposure).toBeGreaterThan(0);
  });
  it('makes a link to one look, which opens that and nothing else, and is taken back', async () => {
    await page.goto(`${stage.origin}/shelf`);
    await item(page, /^More for Madder dusk/, 'Link for someone…');
    await page.getByRole('button', { name: 'Make the link' }).click();
    const address = await page.getByLabel('Address of the link').inputValue(),
      guest = await (await stage.browser.newContext({ ignoreHTTPSErrors: true })).newPage();
    await guest.goto(address);
    await guest.getByRole('heading', { name: 'Madder dusk', level: 1 }).waitFor();
    await guest.locator('.link-picture .ready').first().waitFor();
    expect(await complaintsOf(guest)).toEqual([]);
    await guest
      .getByRole('button', { name: /, Madder dusk, large$/ })
      .first()
      .click();
    await guest.locator('.link-large .picture.ready').waitFor();
    await guest.keyboard.press('ArrowUp');
    await guest.getByRole('dialog', { name: /, Without it$/ }).waitFor();
    await guest.keyboard.press('Escape');
    expect((await guest.request.get(`${stage.origin}/api/looks/1`)).status()).toBe(401);
    await guest.goto(`${stage.origin}/shelf`);
    await guest.getByRole('heading', { name: 'Log in to Dyepot' }).waitFor();
    await page.getByRole('button', { name: 'Close' }).first().click();
    await page.goto(`${stage.origin}/people`);
    await page.getByRole('button', { name: /^Take back the link to Madder dusk/ }).click();
    await page.getByText('None is open').waitFor();
    await guest.goto(address);
    await guest.getByRole('heading', { name: 'This link is not open' }).waitFor();
    await guest.close();
  });
  it('is left by logging out: nothing of the shoots stays on the page', async () => {
    await item(page, /^Ines Fell$/, 'Log out');
    await page.getByRole('heading', { name: 'Log in to Dyepot' }).waitFor();
    expect(await page.getByText(/Tansy Row/).count()).toBe(0);
  });
});
