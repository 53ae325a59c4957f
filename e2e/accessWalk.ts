import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Page } from 'playwright-core';
import { painted, still, type Stage } from './stage.ts';

const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');
/** WCAG 2.2 A and AA, and what axe-core calls best practice. */
const rules = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'];
interface Found {
  id: string;
  nodes: { html: string; target: string[]; failureSummary: string }[];
}

/** What axe-core (4.14) finds wrong on the page as it stands, each as rule and element. Contrast, by far its slowest rule, is looked at unless said otherwise. */
export async function complaintsOf(page: Page, contrast = true): Promise<string[]> {
  // the content policy refuses scripts in the page: it is run from outside
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(`${axe}; 0`);
  const found = (await page.evaluate(
    async ([values, looks]) => {
      const run = (window as unknown as { axe: { run: (c: unknown, o: unknown) => Promise<{ violations: Found[] }> } }).axe.run;
      return (
        await run(document, {
          runOnly: { type: 'tag', values },
          resultTypes: ['violations'],
          rules: { 'color-contrast': { enabled: looks } },
        })
      ).violations;
    },
    [rules, contrast] as const,
  )) as Found[];
  return found.flatMap((v) => v.nodes.map((n) => `${v.id}: ${n.html.slice(0, 160)}`));
}

type Step = (page: Page) => Promise<unknown>;
const click =
  (role: Parameters<Page['getByRole']>[0], name: string | RegExp): Step =>
  (page) =>
    page
      .getByRole(role, { name, ...(typeof name === 'string' ? { exact: true } : {}) })
      .first()
      .click();
const press =
  (key: string): Step =>
  (page) =>
    page.keyboard.press(key);
/** Takes back the step of the state before; there is none before the first. */
const undo = press('Control+z');
const settle: Step = (page) => still(page);
const pause: Step = async (page) => {
  await page.waitForFunction(() =>
    document.getAnimations().every((a) => a.playState !== 'running' || a.effect?.getTiming().iterations === Infinity),
  );
};

/** A state of the pages: its address (none: goes on from the state before), and what is done there. */
export interface State {
  name: string;
  at?: string;
  wait?: (page: Page) => Promise<unknown>;
  steps?: Step[];
}

const parts = ['Repair', 'Light', 'Exposure', 'Zones', 'Ends', 'Crop and angle', 'Lens', 'Detail'];
const scene = ['Exposure', 'Warmth', 'Contrast', 'Local contrast', 'Haze', 'Gel', 'Channel mixer'];
const print = ['Curve', 'Hue bands', 'Colour range', 'Grade', 'Vibrance', 'Black and white', 'CDL', 'Crispness', 'Lookup table'],
  finish = ['Apart', 'Toning', 'Fade', 'Wash', 'Glow', 'Halation', 'Overprint', 'Low sun', 'Light leak', 'Vignette', 'Grain', 'Border'];
const readouts = ['Waveform', 'Parade', 'Vectors', 'Hues', 'Histogram'];
const addStep =
  (lane: string, words: string): Step =>
  async (page) => {
    await page.getByRole('button', { name: `Add a step to the ${lane} lane` }).click();
    await page.getByLabel('What should it do?').fill(words);
    await page.keyboard.press('Enter');
  };
/** The controls are there; the picture may still be drawn. */
const fitted: Step = (page) => page.waitForFunction(() => document.querySelector('.fitting-waiting') === null);
const sheetUp: Step = (page) => page.getByRole('dialog').first().waitFor();

/** Every screen, part, sheet and menu, one after the other. */
export const states: State[] = [
  { name: 'Shoots', at: '/shoots', wait: (p) => p.getByRole('article').first().waitFor() },
  { name: 'New shoot', steps: [click('button', 'New shoot'), sheetUp] },
  { name: 'Keys and settings', at: '/shoots', steps: [click('button', 'Keys and settings'), sheetUp] },
  { name: 'A shoot', at: '/shoots/1', wait: (p) => p.locator('[data-frame]').first().waitFor() },
  { name: 'Frames chosen', steps: [click('option', /TR-0412/)] },
  { name: 'Light', steps: [click('button', 'Light…'), sheetUp] },
  {
    name: 'Bringing raws in',
    at: '/shoots/1',
    steps: [
      click('button', 'Bring raws in'),
      sheetUp,
      click('button', 'Look through folders…'),
      (p) => p.getByText(/raws? here/).waitFor(),
    ],
  },
  {
    name: 'The shoot’s look',
    at: '/shoots/1',
    steps: [click('button', /^Look/), sheetUp, (p) => p.getByRole('button', { name: /Madder dusk/ }).waitFor()],
  },
  {
    name: 'Groups of light',
    at: '/shoots/1',
    steps: [click('button', 'Group by light…'), sheetUp, (p) => p.getByLabel('Name of group 1').waitFor()],
  },
  {
    name: 'Evenness',
    at: '/shoots/1/evenness',
    wait: (p) => p.getByRole('button', { name: /^Take [1-9]/ }).waitFor({ timeout: 90_000 }),
    steps: [(p) => p.getByText('comparing').waitFor({ state: 'detached', timeout: 90_000 })],
  },
  {
    name: 'Side by side, trimmed',
    at: '/shoots/1/compare?side=4',
    wait: (p) => p.locator('.side canvas[data-ready]').nth(3).waitFor(),
    steps: [(p) => p.locator('.trim-steps summary').click()],
  },
  {
    name: 'What will change',
    at: '/shoots/1',
    steps: [
      click('button', /^Look/),
      sheetUp,
      (p) =>
        p
          .getByRole('dialog')
          .getByRole('button', { name: /Madder dusk/ })
          .click(),
      (p) => p.locator('.change-strip img').first().waitFor(),
    ],
  },
  { name: 'Start for several', at: '/shoots/1', steps: [click('option', /TR-0413/), click('button', 'Start for me…'), sheetUp] },
  { name: 'Swatch card', at: '/shoots/1/swatches', wait: (p) => p.locator('.swatch .picture.ready').first().waitFor() },
  { name: 'Frames for the card', steps: [click('button', 'Frames…'), sheetUp] },
  {
    name: 'Delivering',
    at: '/shoots/1',
    steps: [
      (p) =>
        p.request.put(new URL('/api/delivery-presets', p.url()).href, {
          data: {
            name: 'For print',
            folder: '',
            pattern: '{frame}',
            file: { format: 'tiff', depth: 16, space: 'oprgb', size: null, quality: 92 },
          },
        }),
      click('button', /^Deliver \d+/),
      sheetUp,
      (p) => p.getByRole('checkbox', { name: 'For print' }).waitFor(),
    ],
  },
  {
    name: 'Taken out',
    at: '/shoots/1',
    steps: [click('option', /TR-0415/), click('button', 'Take out'), (p) => p.getByText(/taken out/).waitFor()],
  },
  { name: 'Ground', at: '/ground?shoot=1', wait: painted, steps: [settle] },
  ...parts.map((p): State => ({ name: `Ground, ${p}`, steps: [click('tab', new RegExp(`^${p}`)), settle] })),
  {
    name: 'Dust',
    steps: [
      click('tab', /^Repair/),
      click('button', 'Find dust'),
      (p) => p.getByRole('region', { name: 'Dust' }).waitFor(),
      click('button', 'Show dust'),
      settle,
    ],
  },
  { name: 'A line drawn', steps: [click('tab', /^Crop/), click('button', 'Draw a level line')] },
  {
    name: 'History and snapshots',
    steps: [
      press('Escape'),
      click('tab', /^Light/),
      click('button', 'Tungsten'),
      settle,
      (p) => p.getByText('Done to this frame').click(),
      (p) => p.getByText(/^Snapshots/).click(),
    ],
  },
  { name: 'Picking', steps: [press('p')] },
  { name: 'Presets', steps: [press('Escape'), click('button', 'Presets…'), sheetUp] },
  { name: 'Pasting', steps: [press('Escape'), click('button', 'Copy'), click('button', 'Paste…'), sheetUp] },
  { name: 'Bench', at: '/bench?shoot=1&look=1', wait: painted, steps: [settle] },
  ...readouts.map((r): State => ({ name: `Readout ${r}`, steps: [click('tab', r), settle] })),
  { name: 'Wiped', steps: [press('w'), settle] },
  { name: 'Beside', steps: [press('b'), settle] },
  {
    name: 'Palette',
    steps: [press('b'), click('button', 'Add a step to the scene lane'), (p) => p.getByLabel('What should it do?').waitFor()],
  },
  { name: 'A chip’s menu', steps: [press('Escape'), click('button', /^More for/), (p) => p.getByRole('menu').waitFor()] },
  { name: 'Revisions', steps: [press('Escape'), click('button', /^revision/), (p) => p.getByRole('menuitem').first().waitFor()] },
  { name: 'Baking', steps: [press('Escape'), click('button', 'Bake…'), sheetUp] },
  { name: 'Saving as', steps: [press('Escape'), click('button', 'Save as…'), sheetUp] },
  { name: 'A new look', at: '/bench?shoot=1&look=new', wait: painted, steps: [settle] },
  ...scene.map((s): State => ({ name: `Step ${s}`, steps: [undo, addStep('scene', s), fitted] })),
  ...[...print, ...finish].map((s): State => ({ name: `Step ${s}`, steps: [undo, addStep('print', s), fitted] })),
  { name: 'Film stock', steps: [undo, click('button', /^Neutral response/), click('radio', 'Film stock'), settle] },
  { name: 'A film’s sheet', steps: [click('button', 'Alkanet'), settle] },
  {
    name: 'Curve as levels',
    at: '/bench?shoot=1&look=new',
    wait: painted,
    steps: [addStep('print', 'Curve'), click('tab', 'Levels'), settle],
  },
  { name: 'Zones', steps: [click('button', 'Zones 0 to X over the picture'), settle] },
  {
    name: 'Stocks on the Shelf',
    at: '/shelf?stocks=',
    wait: (p) =>
      p
        .getByRole('link', { name: /in the designer/ })
        .first()
        .waitFor(),
  },
  {
    name: 'The stock designer',
    at: '/stock?name=Weld',
    wait: (p) => p.getByRole('slider', { name: 'Top, on the curve' }).waitFor(),
    steps: [click('button', 'The whole sheet'), settle],
  },
  { name: 'Saving a stock', steps: [click('button', 'Save as…'), sheetUp] },
  { name: 'Shelf with drafts', at: '/shelf', wait: (p) => p.getByTestId('draft').first().waitFor() },
  { name: 'A look’s menu', steps: [click('button', /^More for/), (p) => p.getByRole('menu').waitFor()] },
  ...(['Look check…', 'Revisions…', 'Near looks…', 'Blend with…'] as const).map((item) => ({
    name: `${item.replace('…', '')} on the Shelf`,
    at: '/shelf',
    steps: [
      click('button', /^More for/),
      click('menuitem', item),
      sheetUp,
      // what it waits for is there
      (p: Page) => p.locator('[role=dialog] :is(.hint, .revisions)').first().waitFor(),
    ],
  })),
  {
    name: 'Looks chosen on the Shelf',
    at: '/shelf',
    steps: [click('button', /^More for/), click('menuitem', /^Choose/), (p: Page) => p.getByRole('toolbar').waitFor()],
  },
  { name: 'Nothing found', at: '/shelf', steps: [(p) => p.getByRole('searchbox').fill('zzz')] },
  {
    name: 'Trash',
    at: '/trash',
    wait: (p) =>
      p
        .getByRole('button', { name: /^Put back/ })
        .first()
        .waitFor(),
  },
  { name: 'Emptying the trash', steps: [click('button', 'Empty the trash…'), sheetUp] },
  { name: 'Deliveries', at: '/deliveries' },
  { name: 'No such address', at: '/nowhere' },
  { name: 'No such shoot', at: '/shoots/999' },
  { name: 'No such look', at: '/bench?shoot=1&look=999' },
];

/** Walks through every state at a size of the window; calls back in each, with why it could not be reached if so. */
export async function walk(
  stage: Stage,
  size: { width: number; height: number },
  look: (page: Page, name: string, trouble: string | null) => Promise<void>,
): Promise<void> {
  const page = await stage.open('/shoots');
  page.setDefaultTimeout(8000);
  await page.setViewportSize(size);
  for (const { name, at, wait, steps = [] } of states) {
    let trouble: string | null = null;
    try {
      if (at) await page.goto(stage.origin + at);
      await wait?.(page);
      for (const step of steps) await step(page);
      await pause(page);
    } catch (error) {
      trouble = `not reached: ${error instanceof Error ? error.message : ''}`;
    }
    await look(page, name, trouble);
  }
  await page.close();
}
