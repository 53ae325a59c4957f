import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Page } from 'playwright-core';
import { setStage, still, type Stage } from './stage.ts';

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

export type Step = (page: Page) => Promise<unknown>;
export const click =
  (role: Parameters<Page['getByRole']>[0], name: string | RegExp): Step =>
  (page) =>
    page
      .getByRole(role, { name, ...(typeof name === 'string' ? { exact: true } : {}) })
      .first()
      .click();
export const press =
  (key: string): Step =>
  (page) =>
    page.keyboard.press(key);
export const settle: Step = (page) => still(page);
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

export const sheetUp: Step = (page) => page.getByRole('dialog').first().waitFor();

/** Walks through the states at a size of the window; calls back in each, with why it could not be reached if so. */
async function walk(
  stage: Stage,
  states: State[],
  size: Size,
  look: (page: Page, name: string, trouble: string | null) => Promise<void>,
): Promise<void> {
  const page = await stage.open('/shoots');
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

interface Size {
  width: number;
  height: number;
}
const base: Size = { width: 1280, height: 800 };
const sizes: Size[] = [{ width: 1024, height: 700 }, { width: 2560, height: 1440 }, base];
/** What is wrong in each of the states, at 1024, 1280 and 2560 wide; nothing is an empty record. */
export async function wrongIn(states: State[]): Promise<Record<string, string[]>> {
  const stage = await setStage(),
    found: Record<string, string[]> = {};
  await walk(stage, states, base, async (page, name, trouble) => {
    if (trouble) found[name] = [trouble];
    // a step's controls have no more room at 2560 than at 1280
    for (const size of /^Step /.test(name) ? [sizes[0]!, base] : sizes) {
      await page.setViewportSize(size);
      // the page is laid out anew, and drawn
      await page.evaluate(() => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve))));
      // colours are the same at every width
      const complaints = await complaintsOf(page, size === base);
      if (complaints.length > 0) found[`${name}, ${size.width} wide`] = complaints;
    }
  });
  await stage.close();
  return found;
}
