import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Page } from 'playwright-core';
import { lookOnBench, painted, setStage, still, type Stage } from './stage.ts';

let stage: Stage;
beforeAll(async () => {
  stage = await setStage();
});
afterAll(async () => {
  expect(stage.complaints).toEqual([]);
  await stage.close();
});
const at = async (path: string, ready: (p: Page) => Promise<unknown> = painted): Promise<Page> => {
  const page = await stage.open(path);
  await ready(page);
  return page;
};
const shown = (page: Page): Promise<unknown> => page.locator('[data-frame]').first().waitFor();
/** What has the focus, in words. */
const focused = (page: Page): Promise<string> =>
  page.evaluate(() => {
    const e = document.activeElement as HTMLElement;
    return e.getAttribute('aria-label') ?? e.textContent ?? e.tagName;
  });
/** The stops that Tab makes from the top of the page to its end. */
async function stops(page: Page): Promise<string[]> {
  await page.evaluate(() => {
    (document.activeElement as HTMLElement | null)?.blur();
    window.getSelection()?.removeAllRanges();
  });
  await page.evaluate(() => document.querySelector<HTMLElement>('.skip-link')!.focus());
  const seen = [await focused(page)];
  for (let i = 0; i < 80; i++) {
    await page.keyboard.press('Tab');
    const back = await page.evaluate(() => document.activeElement === document.body || document.activeElement?.className === 'skip-link');
    if (back) break;
    seen.push(await focused(page));
  }
  return seen;
}
const press = async (page: Page, ...keys: string[]): Promise<void> => {
  for (const k of keys) await page.keyboard.press(k);
};

describe('Tab', () => {
  const kinds: [string, string][] = [
    ...['Warmth', 'Contrast', 'Local contrast', 'Haze', 'Gel', 'Channel mixer'].map((k): [string, string] => ['scene', k]),
    ...['Curve', 'Hue bands', 'Colour range', 'Grade', 'Vibrance', 'Black and white', 'CDL', 'Lookup table'].map((k): [string, string] => [
      'print',
      k,
    ]),
  ];
  it('makes under 25 stops on the bench, whatever step is in hand', { timeout: 180000 }, async () => {
    const page = await at('/bench?shoot=1&look=new'),
      counted: Record<string, number> = {};
    for (const [lane, kind] of kinds) {
      await page.getByRole('button', { name: `Add a step to the ${lane} lane` }).click();
      await page.getByLabel('What should it do?').fill(kind);
      await press(page, 'Enter');
      await still(page);
      const list = await stops(page);
      if (list.length >= 25) console.log(kind, list);
      counted[kind] = list.length;
    }
    expect(Object.entries(counted).filter(([, n]) => n >= 25)).toEqual([]);
    await page.close();
  });
  it('first offers to skip to the work', async () => {
    const page = await at('/shoots/1', shown);
    await press(page, 'Tab');
    expect(await focused(page)).toBe('Skip to the work');
    await press(page, 'Enter');
    expect(await page.evaluate(() => document.activeElement?.id)).toBe('main');
    await page.close();
  });
});

describe('the contact sheet by keys', () => {
  it('is one stop; arrows go from frame to frame, Shift chooses on the way, Control A all, Escape none, Enter opens', async () => {
    const page = await at('/shoots/1', shown),
      chosen = (): Promise<number> => page.locator('[role=option][aria-selected=true]').count();
    expect((await stops(page)).filter((s) => /TR-\d+/.test(s))).toHaveLength(1);
    await page.locator('[role=option][tabindex="0"]').focus();
    await press(page, 'Home', 'ArrowRight', ' ');
    expect([await focused(page), await chosen()]).toEqual([expect.stringMatching(/TR-0413/), 1]);
    await press(page, 'Shift+ArrowRight', 'Shift+ArrowRight');
    expect([await focused(page), await chosen()]).toEqual([expect.stringMatching(/TR-0419/), 3]);
    await press(page, 'ArrowDown');
    expect(await focused(page)).toMatch(/TR-04(21|37|38|40|44)/);
    await press(page, 'Control+a');
    expect(await page.getByRole('toolbar', { name: 'Chosen frames' }).textContent()).toMatch(/^18 chosen/);
    await press(page, 'Escape');
    expect(await chosen()).toBe(0);
    await press(page, 'End');
    await expect.poll(() => focused(page)).toMatch(/TR-0490/);
    await press(page, 'Enter');
    await page.waitForURL(/bench\?shoot=1&frame=\d+/);
    await painted(page);
    expect(await page.getByRole('application').getAttribute('aria-label')).toMatch(/^TR-0490/);
    // Back comes to the shoot, and the frame that was opened survives a reload
    await page.reload();
    await painted(page);
    expect(await page.getByRole('application').getAttribute('aria-label')).toMatch(/^TR-0490/);
    await page.close();
  });
});

describe('the chain by keys', () => {
  it('arrows walk it, Space switches, Alt and arrows move, F2 renames, Control D duplicates, Delete takes out; the focus stays in it', async () => {
    const page = await at('/bench?shoot=1&look=6'),
      names = async (): Promise<string[]> => (await lookOnBench(page)).print.map((s) => s.name || s.kind);
    await page.locator('.chip-face').first().focus();
    // over the lane's own button and the stock
    await press(page, 'ArrowRight', 'ArrowRight', 'ArrowRight');
    expect(await focused(page)).toMatch(/^Soft paper/);
    const first = await names(),
      step = await focused(page);
    await press(page, 'Alt+ArrowRight');
    await page.waitForURL(/draft=/);
    const moved = await names();
    expect([moved[1], moved[0]]).toEqual([first[0], first[1]]);
    expect(await focused(page)).toBe(step);
    await press(page, ' ');
    await expect.poll(() => focused(page)).toMatch(/off$/);
    await press(page, 'F2');
    await page.keyboard.type('By keys');
    await press(page, 'Enter');
    await expect.poll(() => focused(page)).toMatch(/^By keys/);
    await press(page, 'Control+d');
    await expect.poll(names).toHaveLength(first.length + 1);
    await press(page, 'Delete');
    await expect.poll(names).toHaveLength(first.length);
    expect(await page.evaluate(() => document.activeElement?.classList.contains('chip-face'))).toBe(true);
    await page.close();
  });
});

describe('the picture by keys', () => {
  const picture = (page: Page): ReturnType<Page['getByRole']> => page.getByRole('application').first();
  it('is panned by arrows when it is larger than its place', async () => {
    const page = await at('/bench?shoot=1&look=6');
    await press(page, '2');
    await still(page);
    const piece = (): Promise<string | undefined> =>
      page.evaluate(
        () =>
          document.querySelector<HTMLCanvasElement>('canvas[data-testid=lead]')!.style.left +
          document.querySelector<HTMLCanvasElement>('canvas[data-testid=lead]')!.dataset['ready'],
      );
    const before = await piece();
    await picture(page).focus();
    await press(page, 'ArrowRight', 'ArrowRight');
    await still(page);
    expect(await piece()).not.toBe(before);
    await page.close();
  });
  it('a neutral is picked, a probe pinned and a level line drawn', async () => {
    const page = await at('/ground?shoot=1&frame=4');
    await press(page, 'p');
    await picture(page).focus();
    await page.getByTestId('aim').waitFor();
    await press(page, 'ArrowRight', 'Alt+ArrowDown', 'Enter');
    await page
      .getByTestId('picked')
      .filter({ hasText: /multipliers/ })
      .waitFor();
    await picture(page).focus();
    await press(page, 'Enter', 'ArrowLeft', 'Enter');
    expect(await page.getByTestId('pinned').count()).toBe(1);
    await page.getByRole('tab', { name: /^Crop/ }).click();
    await page.getByRole('button', { name: 'Draw a level line' }).click();
    await page.getByRole('application', { name: /^Line:/ }).waitFor();
    await press(page, 'Enter', 'Alt+ArrowRight', 'ArrowDown', 'Enter');
    await expect.poll(() => page.getByRole('tab', { name: /^Crop/ }).textContent()).toMatch(/\d\.\d°/);
    await page.close();
  });
  it('a hue is dragged', async () => {
    const page = await at('/bench?shoot=1&look=new');
    await page.getByRole('button', { name: 'Add a step to the print lane' }).click();
    await page.getByLabel('What should it do?').fill('Hue bands');
    await press(page, 'Enter');
    await still(page);
    const tool = page.getByRole('button', { name: 'Drag on the picture' });
    await tool.click();
    expect(await tool.getAttribute('aria-pressed')).toBe('true');
    await picture(page).focus();
    await page.getByTestId('aim').waitFor();
    // away from the middle, onto a cloth
    await press(page, 'Alt+ArrowLeft', 'Enter', 'ArrowUp', 'ArrowUp', 'Enter');
    await expect
      .poll(async () => ((await lookOnBench(page)).print.find((s) => s.kind === 'hueBands')?.params['hue'] as unknown[]).length)
      .toBeGreaterThan(0);
    await page.close();
  });
});

describe('shortcuts', () => {
  it('are on one page, do not act behind a sheet, and single letters can be switched off', async () => {
    const page = await at('/bench?shoot=1&look=6'),
      wiped = (): Promise<string | null> => page.getByRole('button', { name: 'Wipe', exact: true }).getAttribute('aria-pressed');
    await press(page, '?');
    const sheet = page.getByRole('dialog', { name: 'Keys and settings' });
    await sheet.getByText('The picture before').waitFor();
    await press(page, 'w');
    await sheet.getByText('Single letters and digits act as keys').click();
    await press(page, 'Escape');
    await sheet.waitFor({ state: 'detached' });
    expect(await wiped()).toBe('false');
    await press(page, 'w');
    expect(await wiped()).toBe('false');
    await page.request.patch(`${stage.origin}/api/settings`, { data: { letterKeys: true } });
    await page.reload();
    await painted(page);
    await press(page, 'w');
    await expect.poll(wiped).toBe('true');
    await page.close();
  });
  it('after a sheet the focus is where it was', async () => {
    const page = await at('/shoots/1', shown);
    await page.getByRole('button', { name: 'Bring raws in' }).first().focus();
    await press(page, 'Enter');
    await page.getByRole('dialog').waitFor();
    await press(page, 'Escape');
    await page.getByRole('dialog').waitFor({ state: 'detached' });
    await expect.poll(() => focused(page)).toBe('Bring raws in');
    await page.close();
  });
});
