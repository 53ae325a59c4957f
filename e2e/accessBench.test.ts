import { expect, it } from 'vitest';
import { click, press, settle, sheetUp, wrongIn, type State, type Step } from './accessWalk.ts';
import { painted } from './stage.ts';

/** Takes back the step of the state before; there is none before the first. */
const undo = press('Control+z');
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

/** The bench with every step and part, the stock designer, and the drafts they leave. */
const states: State[] = [
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
];

it('axe-core finds nothing on the bench with any step in hand, nor in the stock designer', { timeout: 600000 }, async () => {
  expect(await wrongIn(states)).toEqual({});
});
