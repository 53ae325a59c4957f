import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Page } from 'playwright-core';
import { root } from '@dyepot/server/src/places.ts';
import { join } from 'node:path';
import { lookOnBench, painted, setStage, still, type Stage } from './stage.ts';

let stage: Stage;
beforeAll(async () => {
  stage = await setStage();
});
afterAll(() => stage.close());
const api = async <T>(page: Page, path: string): Promise<T> => (await (await page.request.get(`${stage.origin}/api${path}`)).json()) as T;
const bench = async (query: string): Promise<Page> => {
  const page = await stage.open(`/bench?${query}`);
  await painted(page);
  return page;
};
const nudge = async (page: Page, slider: string, key = 'ArrowRight'): Promise<void> => {
  await page.getByRole('slider', { name: slider, exact: true }).first().focus();
  await page.keyboard.press(key);
};
const strengthOf = async (page: Page): Promise<number> => (await lookOnBench(page)).strength;
const notice = (page: Page, words: RegExp): Promise<void> => page.getByTestId('notice').filter({ hasText: words }).waitFor();

describe('work on the bench is never lost', () => {
  it('an edit stays when another look is opened: it is a draft, listed on the Shelf, with its undo', async () => {
    const page = await bench('shoot=1&look=2');
    await nudge(page, 'Look strength', 'ArrowLeft');
    // at once, before the hand has rested
    await page.goto(`${stage.origin}/bench?shoot=1&look=3`);
    await painted(page);
    await page.goto(`${stage.origin}/shelf`);
    const draft = page.getByTestId('draft');
    await draft.waitFor();
    expect(await draft.textContent()).toMatch(/Madder slide.*from revision 1/);
    await draft.getByRole('link').click();
    await painted(page);
    expect(await strengthOf(page)).toBe(0.99);
    await page.getByRole('button', { name: /^Undo Look strength/ }).click();
    await page.waitForFunction(() => document.querySelector('[data-testid=look-state]')?.textContent === 'revision 1');
    await page.close();
  });
  it('“Design a look” from a shoot does not throw a new look away', async () => {
    const page = await bench('shoot=1&look=new');
    await page.getByRole('button', { name: 'Add a step to the print lane' }).click();
    await page.getByLabel('What should it do?').fill('vibrance');
    await page.keyboard.press('Enter');
    await page.waitForFunction(() => /draft=/.test(location.search));
    await page.goto(`${stage.origin}/shoots/1`);
    await page.getByRole('button', { name: 'Design a look' }).click();
    await painted(page);
    const drafts = await api<{ name: string; steps: number }[]>(page, '/drafts');
    expect(drafts.some((d) => d.name === 'New look' && d.steps === 2)).toBe(true);
    await page.close();
  });
  it('two windows on one look keep both: the later goes on as a draft of its own, and says so', async () => {
    const first = await bench('shoot=1&look=4'),
      second = await bench('shoot=1&look=4');
    await nudge(first, 'Look strength', 'ArrowLeft');
    await first.waitForFunction(() => /draft=/.test(location.search));
    await nudge(second, 'Look strength', 'ArrowRight');
    await notice(second, /was changed in another window/);
    await second.waitForFunction(() => /draft=/.test(location.search));
    expect([await strengthOf(first), await strengthOf(second)]).toEqual([0.99, 1.01]);
    const kept = (await api<{ lookId: number | null; name: string }[]>(first, '/drafts')).filter(
      (d) => d.name.startsWith('Oak gall, soft') || d.name.startsWith('Oak gall'),
    );
    expect(kept.map((d) => d.lookId === null).sort()).toEqual([false, true]);
    await first.close();
    await second.close();
  });
  it('a shoot that wears revision 1 opens revision 1, though there is a newer one; older ones can be reached', async () => {
    const page = await bench('shoot=1&look=5');
    await page.request.post(`${stage.origin}/api/looks/5/revisions`, {
      data: { look: { ...(await lookOnBench(page)), strength: 0.5 }, from: 1 },
    });
    await page.request.post(`${stage.origin}/api/shoots/1/look`, { data: { lookId: 5, revision: 1 } });
    await page.goto(`${stage.origin}/shoots/1`);
    await page.getByRole('button', { name: 'Design a look' }).click();
    await painted(page);
    await page.getByText('revision 1, newest is 2').waitFor();
    await page.getByRole('button', { name: /^revision 1/ }).click();
    await page.getByRole('menuitem', { name: /^Revision 2/ }).click();
    await page.waitForURL(/revision=2/);
    await page.waitForFunction(() => document.querySelector('[data-testid=look-state]')?.textContent === 'revision 2');
    await page.close();
  });
  it('saving onto a revision that is not the newest offers both ways', async () => {
    const page = await bench('shoot=1&look=5&revision=1');
    await nudge(page, 'Look strength', 'ArrowLeft');
    await page.keyboard.press('Control+s');
    await page.getByRole('dialog', { name: 'There is a newer revision' }).waitFor();
    await page.getByRole('button', { name: 'Save as another look…' }).waitFor();
    await page.getByRole('button', { name: 'Save as the next revision' }).click();
    await notice(page, /saved as revision 3/);
    expect(await page.getByTestId('look-state').textContent()).toBe('revision 3');
    await page.close();
  });
  it('“Apply to shoot” on a look without a name asks for it, then applies; no undo takes the name away', async () => {
    const page = await bench('shoot=1&look=new');
    await nudge(page, 'Look strength', 'ArrowLeft');
    await page.getByRole('button', { name: 'Apply to shoot' }).click();
    await page.getByLabel('Name').fill('Tansy');
    await page.getByRole('dialog').getByRole('button', { name: 'Save look' }).click();
    await notice(page, /now wears Tansy, revision 1/);
    await page.keyboard.press('Control+z');
    expect(await page.getByTestId('look-name').textContent()).toBe('Tansy');
    expect(await page.getByTestId('look-state').textContent()).toBe('revision 1, edited');
    await page.keyboard.press('Control+Shift+z');
    await page.waitForFunction(() => document.querySelector('[data-testid=look-state]')?.textContent === 'revision 1');
    expect(await page.evaluate(() => Object.values({ ...localStorage }).some((v: string) => v.includes('"params"')))).toBe(false);
    await page.close();
  });
});

describe('groundwork is never lost', () => {
  const exposure = async (page: Page, id: number): Promise<number | undefined> =>
    (await api<{ groundwork: { exposureEv: number } | null }>(page, `/frames/${id}`)).groundwork?.exposureEv;
  const onGround = async (frame: number): Promise<Page> => {
    const page = await stage.open(`/ground?shoot=1&frame=${frame}`);
    await painted(page);
    await page.getByRole('tab', { name: /^Exposure/ }).click();
    return page;
  };
  it('a change made just before leaving is there', async () => {
    const page = await onGround(2);
    await nudge(page, 'Exposure');
    await page.getByRole('navigation', { name: 'Main' }).getByRole('link', { name: 'Shelf' }).click();
    await page.getByRole('searchbox').waitFor();
    await expect.poll(() => exposure(page, 2)).toBeGreaterThan(0);
    await page.close();
  });
  it('a change made just before a reload is there too', async () => {
    const page = await onGround(3);
    await nudge(page, 'Exposure');
    await page.reload();
    await painted(page);
    await expect.poll(() => exposure(page, 3)).toBeGreaterThan(0);
    expect(page.url()).toMatch(/frame=3/);
    await page.close();
  });
  it('while the server is away it says so, goes on, and saves when it is back', async () => {
    const page = await onGround(4),
      silent = (): Promise<void> => page.getByTestId('away-sign').filter({ hasText: 'The server does not answer' }).waitFor();
    // the other pages have been fetched by then, with all they are made of
    await page.waitForFunction(() => {
      const pieces = performance.getEntriesByType('resource').filter((r) => r.name.includes('/assets/')) as PerformanceResourceTiming[];
      const last = Math.max(...pieces.map((r) => r.responseEnd));
      return pieces.some((r) => r.name.includes('DeliveriesScreen')) && performance.now() - last > 800;
    });
    await stage.pauseServer();
    await silent();
    await nudge(page, 'Exposure');
    await nudge(page, 'Exposure');
    await page.getByTestId('away-sign').filter({ hasText: 'not saved yet' }).waitFor();
    await page.getByRole('navigation', { name: 'Main' }).getByRole('link', { name: 'Deliveries' }).click();
    await page.getByRole('heading', { name: 'Deliveries', level: 1 }).waitFor();
    await stage.resumeServer();
    await expect.poll(() => exposure(page, 4), { timeout: 20000 }).toBeGreaterThan(0);
    await page.getByRole('heading', { name: 'Deliveries', level: 1 }).waitFor({ timeout: 20000 });
    await expect.poll(() => page.getByTestId('away-sign').textContent(), { timeout: 20000 }).toBe('');
    await page.close();
  });
  it('nonsense typed into a number changes nothing and says so; the focus stays; Ctrl Z works on a choice', async () => {
    const page = await onGround(5),
      slider = page.getByRole('slider', { name: 'Exposure', exact: true });
    await nudge(page, 'Exposure');
    const before = await slider.getAttribute('aria-valuenow');
    await page.keyboard.press('Enter');
    await page.keyboard.type('about two');
    await page.keyboard.press('Enter');
    await notice(page, /Exposure: “about two” is no number; it stays at/);
    expect(await slider.getAttribute('aria-valuenow')).toBe(before);
    expect(await page.evaluate(() => document.activeElement?.getAttribute('aria-label'))).toBe('Exposure');
    await page.getByLabel('Other zooms').focus();
    await page.keyboard.press('Control+z');
    await expect.poll(() => slider.getAttribute('aria-valuenow')).toBe('0');
    await page.close();
  });
  it('two windows on one frame: what the other did is shown, and is one undo away from what was here', async () => {
    const [a, b] = [await onGround(6), await onGround(6)];
    await nudge(a, 'Exposure');
    await expect.poll(() => b.getByRole('slider', { name: 'Exposure', exact: true }).getAttribute('aria-valuenow')).not.toBe('0');
    await b.getByRole('button', { name: /^Undo Changed elsewhere/ }).click();
    await expect.poll(() => a.getByRole('slider', { name: 'Exposure', exact: true }).getAttribute('aria-valuenow')).toBe('0');
    await a.close();
    await b.close();
  });
});

describe('what is taken out comes back', () => {
  it('from the notice, and from the trash', async () => {
    const page = await stage.open('/shoots/1');
    await page.getByRole('option', { name: /TR-0419/ }).click();
    await page.keyboard.press('Delete');
    await notice(page, /TR-0419 taken out; the raw files stay where they are/);
    await page.getByRole('option', { name: /TR-0419/ }).waitFor({ state: 'detached' });
    await page.getByRole('button', { name: 'Undo' }).click();
    await page.getByRole('option', { name: /TR-0419/ }).waitFor();
    await page.goto(`${stage.origin}/shelf`);
    await page.getByRole('button', { name: 'More for Walnut wash' }).click();
    await page.getByRole('menuitem', { name: 'Take out' }).click();
    await notice(page, /Walnut wash is in the trash/);
    await page.goto(`${stage.origin}/trash`);
    await page.getByRole('button', { name: 'Put back Walnut wash' }).click();
    await page.getByRole('button', { name: 'Put back Walnut wash' }).waitFor({ state: 'detached' });
    await page.goto(`${stage.origin}/shelf`);
    await page.getByRole('article', { name: 'Walnut wash' }).waitFor();
    await page.close();
  });
});

describe('a delivery', () => {
  it('into a folder with a file Dyepot did not make asks once, and takes other names; what failed the form is not remembered', async () => {
    const { mkdirSync, readFileSync, readdirSync, writeFileSync } = await import('node:fs'),
      folder = join(stage.data, 'client');
    mkdirSync(folder);
    writeFileSync(join(folder, 'TR-0413.jpg'), 'the camera’s own');
    const page = await stage.open('/shoots/1');
    await page.getByRole('option', { name: /TR-0413/ }).click();
    await page.getByRole('button', { name: 'Deliver 1 frame' }).click();
    const sheet = page.getByRole('dialog');
    await sheet.getByLabel('Quality').fill('900');
    await sheet.getByRole('button', { name: 'Deliver', exact: true }).click();
    await sheet.getByText('The quality is a whole number from 1 to 100.').waitFor();
    expect(await page.evaluate(() => localStorage.getItem('dyepot-delivery-2'))).toBeNull();
    await sheet.getByLabel('Quality').fill('80');
    await sheet.getByLabel('Long edge, px').fill('200');
    await sheet.getByLabel('Into folder').fill(folder);
    await sheet.getByRole('button', { name: 'Deliver', exact: true }).click();
    await sheet.getByText(/A file of the same name is in .* that Dyepot did not make/).waitFor();
    await sheet.getByRole('button', { name: 'Use other names' }).click();
    await page.getByTestId('delivery').first().getByText('1 of 1').waitFor();
    expect(readdirSync(folder).sort()).toEqual(['TR-0413-2.jpg', 'TR-0413.jpg']);
    expect(readFileSync(join(folder, 'TR-0413.jpg'), 'utf8')).toBe('the camera’s own');
    await page.close();
  });
});

it('the work of an earlier version that this browser kept is brought to the server', async () => {
  const page = await stage.open('/nowhere'),
    look = (await api<{ document: object }>(page, '/looks/1')).document;
  await page.evaluate(
    (l) =>
      localStorage.setItem(
        'dyepot-bench-1',
        JSON.stringify({ lookId: null, revision: null, edited: true, look: { ...l, name: 'From before' } }),
      ),
    look,
  );
  await page.goto(`${stage.origin}/shelf`);
  await page.getByTestId('draft').filter({ hasText: 'From before' }).waitFor();
  expect(await page.evaluate(() => localStorage.getItem('dyepot-bench-1'))).toBeNull();
  await page.close();
});
it('a first run without the demo leads to a first picture in three steps', async () => {
  const empty = await setStage({ demo: false });
  const page = await empty.open('/');
  await page.getByRole('button', { name: 'New shoot' }).last().click();
  await page.getByLabel('Name').fill('First');
  await page.keyboard.press('Enter');
  await page.getByRole('dialog', { name: 'Bring raws in' }).waitFor();
  await page.getByLabel('From a folder on this machine').fill(join(root, 'packages/camera/frames'));
  await page.keyboard.press('Enter');
  await page.locator('[data-frame]').first().dblclick();
  await painted(page);
  await still(page);
  expect(empty.complaints).toEqual([]);
  await empty.close();
});
