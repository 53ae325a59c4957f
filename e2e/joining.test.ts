import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Page } from 'playwright-core';
import type { Look } from '@dyepot/core/src/look/look.ts';
import { benchHand, type BenchHand } from './benchHand.ts';
import { leadAsServer, painted, setStage, type Stage } from './stage.ts';

let stage: Stage, hand: BenchHand, page: Page;
beforeAll(async () => {
  stage = await setStage();
  hand = await benchHand(stage, 'TR-0451');
  page = hand.page;
});
afterAll(async () => {
  await stage.close();
});
const add: BenchHand['add'] = (...a) => hand.add(...a),
  patch: BenchHand['patch'] = (...a) => hand.patch(...a),
  settled: BenchHand['settled'] = () => hand.settled(),
  undoAll: BenchHand['undoAll'] = () => hand.undoAll(),
  last = async (): Promise<Look['stock']> => (await hand.look()).print.at(-1)!,
  tonesOf = ({ mask }: Look['stock']): { toEv: number; inverted: boolean } =>
    mask!.parts[0] as unknown as { toEv: number; inverted: boolean };

describe('where a step acts, and how it is joined', () => {
  it('in some tones: dark grass goes grey and bright cloth keeps its colour; dragged on the graph, undone, and the screen is the server’s', async () => {
    await undoAll();
    await add('print', 'saturation');
    await hand.type('Change', -100);
    await settled();
    const grass = await patch(0.5, 0.85),
      cloth = await patch(0.3, 0.5);
    const chroma = (c: number[]): number => Math.max(...c) - Math.min(...c);
    await page.getByLabel('Where it acts').selectOption('tone');
    await hand.type('To', -3.5);
    await settled();
    // the bright cloth has its colour back, the dark grass has not
    expect(chroma(await patch(0.3, 0.5))).toBeGreaterThan(chroma(cloth) + 40);
    expect(chroma(await patch(0.5, 0.85))).toBeLessThan(chroma(grass) + 12);
    await hand.drag('To, on the graph', 24, 0);
    await settled();
    expect(tonesOf(await last()).toEv).toBeGreaterThan(-3);
    await page.keyboard.press('Control+z');
    await settled();
    expect(tonesOf(await last()).toEv).toBe(-3.5);
    await page.getByLabel('outside of it instead').check();
    await settled();
    expect(tonesOf(await last()).inverted).toBe(true);
    expect(chroma(await patch(0.3, 0.5))).toBeLessThan(chroma(cloth) + 12);
    expect((await leadAsServer(page)).equal).toBe(true);
  });
  it('luminance only: a strong tint leaves colours and moves brightness', async () => {
    await undoAll();
    await add('print', 'CDL');
    const before = await patch(0.5, 0.5);
    await hand.type('Slope red', 2);
    await settled();
    const tinted = await patch(0.5, 0.5);
    expect(tinted[0]! - tinted[2]!).toBeGreaterThan(before[0]! - before[2]! + 15);
    await page.getByLabel('How it is joined').selectOption('luminance');
    await settled();
    const only = await patch(0.5, 0.5);
    expect(Math.abs(only[0]! / only[2]! - before[0]! / before[2]!)).toBeLessThan(0.12);
    expect((await last()).blend).toBe('luminance');
    expect((await leadAsServer(page)).equal).toBe(true);
  });
});

describe('Crispness', () => {
  it('makes edges steeper by its handle, is the same at 100 % as the server’s own, and goes back', async () => {
    await undoAll();
    await page.getByRole('button', { name: '100 %', exact: true }).click();
    await painted(page);
    await settled();
    const steepness = (): Promise<number> =>
      page.evaluate(() => {
        const c = document.querySelector<HTMLCanvasElement>('canvas[data-testid=lead]')!,
          d = c.getContext('2d')!.getImageData(0, 0, c.width, c.height).data;
        let s = 0;
        for (let i = 4; i < d.length; i += 4) s += Math.abs(d[i + 1]! - d[i - 3]!);
        return s / (d.length / 4);
      });
    const before = await steepness();
    await add('print', 'crisp');
    await hand.type('Amount', 120);
    await hand.type('Left alone', 0);
    await settled();
    expect(await steepness()).toBeGreaterThan(before * 1.1);
    expect((await leadAsServer(page)).equal).toBe(true);
    await hand.drag('Crest of the edge, on the drawing', 24, 0);
    await settled();
    expect((await last()).params['size'] as number).toBeGreaterThan(0.5);
    expect((await leadAsServer(page)).equal).toBe(true);
    // size alone, again and again: no picture of an earlier one stands
    for (const size of [1.4, 0.3, 0.9]) {
      await hand.type('Size', size);
      await settled();
      expect((await leadAsServer(page)).equal, `size ${size}`).toBe(true);
    }
    await hand.type('Amount', -100);
    await settled();
    expect(await steepness()).toBeLessThan(before * 0.9);
    await page.getByRole('button', { name: 'Fit', exact: true }).click();
  });
});
