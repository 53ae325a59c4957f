import { expect, it } from 'vitest';
import type { Page } from 'playwright-core';
import { click, press, settle, sheetUp, wrongIn, type State } from './accessWalk.ts';
import { painted } from './stage.ts';

const parts = ['Repair', 'Light', 'Colours', 'Exposure', 'Zones', 'Ends', 'Crop and angle', 'Lens', 'Detail'];
/** Every screen, part, sheet and menu but the bench's. */
const states: State[] = [
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
    name: 'Matched by the chart',
    steps: [
      click('radio', 'The chart'),
      (p) => p.locator('.even-thumbs button', { hasText: 'TR-0419' }).click(),
      (p) => p.getByRole('region', { name: 'The camera’s colours' }).waitFor({ timeout: 90_000 }),
    ],
  },
  {
    name: 'Light to light',
    steps: [
      click('button', 'Light to light…'),
      sheetUp,
      (p) =>
        p
          .getByRole('checkbox', { name: /^Bring / })
          .first()
          .waitFor({ timeout: 90_000 }),
    ],
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
  { name: 'A look’s menu', at: '/shelf', steps: [click('button', /^More for/), (p) => p.getByRole('menu').waitFor()] },
  ...(['Look check…', 'Revisions…', 'Near looks…', 'Blend with…', 'Give steps to…'] as const).map((item) => ({
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

it('axe-core finds nothing on any screen, part, sheet and menu, at 1024, 1280 and 2560 wide', { timeout: 600000 }, async () => {
  expect(await wrongIn(states)).toEqual({});
});
