import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { benchHand, type BenchHand } from './benchHand.ts';
import { leadAsServer, meanOf, setStage, type Stage } from './stage.ts';

let stage: Stage, hand: BenchHand;
beforeAll(async () => {
  stage = await setStage();
  hand = await benchHand(stage, 'TR-0451');
});
afterAll(async () => {
  await stage.close();
});

const luma = async (): Promise<number> => {
  const [r, g, b] = (await meanOf(hand.page)) as [number, number, number];
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
};
const warmth = async (): Promise<number> => {
  const [r, , b] = (await meanOf(hand.page)) as [number, number, number];
  return r - b;
};
/** Mean distance of the picture's colours from grey, in codes. */
const colourfulness = (): Promise<number> =>
  hand.page.evaluate(() => {
    const c = document.querySelector<HTMLCanvasElement>('canvas[data-testid=lead]')!,
      d = c.getContext('2d')!.getImageData(0, 0, c.width, c.height).data;
    let sum = 0;
    for (let i = 0; i < d.length; i += 4) sum += Math.max(d[i]!, d[i + 1]!, d[i + 2]!) - Math.min(d[i]!, d[i + 1]!, d[i + 2]!);
    return sum / (d.length / 4);
  });
/** Spread of the picture's tones, in codes. */
const spread = (): Promise<number> =>
  hand.page.evaluate(() => {
    const c = document.querySelector<HTMLCanvasElement>('canvas[data-testid=lead]')!,
      d = c.getContext('2d')!.getImageData(0, 0, c.width, c.height).data,
      n = d.length / 4;
    let sum = 0,
      squares = 0;
    for (let i = 0; i < d.length; i += 4) {
      sum += d[i + 1]!;
      squares += d[i + 1]! ** 2;
    }
    return Math.sqrt(squares / n - (sum / n) ** 2);
  });
/** Mean difference between pixels of a row so many apart, in codes: how much texture of that size there is. */
const texture = (apart: number) => (): Promise<number> =>
  hand.page.evaluate((step) => {
    const c = document.querySelector<HTMLCanvasElement>('canvas[data-testid=lead]')!,
      d = c.getContext('2d')!.getImageData(0, 0, c.width, c.height).data;
    let sum = 0,
      n = 0;
    for (let y = 0; y < c.height; y += 2)
      for (let x = step; x < c.width; x++, n++) sum += Math.abs(d[(y * c.width + x) * 4 + 1]! - d[(y * c.width + x - step) * 4 + 1]!);
    return sum / n;
  }, apart);

/** Lane, words of the need, what is dragged and how far, the parameter it moves and which way, what the picture then has more of (or less, −1). */
const drags: [string, string, string, number, number, string, string, 1 | -1, () => Promise<number>, 1 | -1][] = [
  ['scene', 'warmth', 'Warmth and tint, on the pad', 50, 0, 'warmth', 'shiftMired', 1, warmth, 1],
  ['scene', 'exposure', 'Exposure, on the rule', -40, 0, 'exposure', 'shiftEv', -1, luma, -1],
  ['scene', 'contrast', 'Slope, on the line', 0, -25, 'contrast', 'contrast', 1, spread, 1],
  ['scene', 'relief', 'Fine, on the drawing', 0, 40, 'localContrast', 'fine', -1, texture(1), -1],
  ['scene', 'relief', 'Medium, on the drawing', 0, -40, 'localContrast', 'medium', 1, texture(20), 1],
  ['scene', 'haze', 'Haze, on the hills', -60, 0, 'haze', 'amount', -1, spread, -1],
  ['scene', 'gel', 'Warming, on the drawing', -40, 0, 'gel', 'mired', -1, warmth, -1],
  ['print', 'saturation', 'Saturation, on the disc', -25, 0, 'saturation', 'change', -1, colourfulness, -1],
  ['print', 'livelier', 'Vibrance, on the curve', 0, -20, 'vibrance', 'change', 1, colourfulness, 1],
];

describe('each step is held by its own drawing', () => {
  for (const [lane, words, slider, dx, dy, kind, name, way, measure, more] of drags)
    it(`${slider}: ${way > 0 ? 'more' : 'less'} of the number, and the picture follows; one undo takes it back`, async () => {
      await hand.add(lane, words);
      const before = await measure();
      await hand.drag(slider, dx, dy);
      expect(Number((await hand.step(kind)).params[name]) * way).toBeGreaterThan(0);
      expect((await measure()) * more).toBeGreaterThan(before * more + 0.005 * Math.abs(before));
      await hand.page.keyboard.press('Control+z');
      await hand.settled();
      expect(await measure()).toBeCloseTo(before, 6);
      await hand.undoAll();
    });
  it('the pivot is what a contrast leaves alone: moved into the dark, the light rises', async () => {
    await hand.add('scene', 'contrast');
    await hand.drag('Slope, on the line', 0, -20);
    const about = await luma();
    await hand.drag('Pivot, on the line', -50, 0);
    expect(Number((await hand.step('contrast')).params['pivotEv'])).toBeLessThan(-1);
    expect(await luma()).toBeGreaterThan(about + 3);
    await hand.undoAll();
  });
  it('a filter is taken from the disc: its hue from the angle, its density from how far out, and the picture takes its colour', async () => {
    await hand.add('scene', 'gel');
    const [r, , b] = await meanOf(hand.page),
      disc = (await hand.page.getByRole('slider', { name: 'Filter, on the disc' }).boundingBox())!,
      [x, y] = [disc.x + disc.width / 2, disc.y + disc.height / 2];
    await hand.page.mouse.move(x, y);
    await hand.page.mouse.down();
    await hand.page.mouse.move(x + 40, y - 20, { steps: 4 });
    await hand.page.mouse.up();
    await hand.settled();
    const { hue, density } = (await hand.step('gel')).params as Record<string, number>;
    // 40 across and 20 up is an angle of 26.6°
    expect(hue).toBeCloseTo(27, -0.5);
    expect(density).toBeGreaterThan(0.8);
    const after = await meanOf(hand.page);
    expect(after[0]! - after[2]!).toBeGreaterThan(r! - b! + 15);
    await hand.undoAll();
  });
  it('black and white by its bars: more red light lightens the red cloth against the blue', async () => {
    await hand.add('print', 'black and white');
    await hand.page.getByRole('button', { name: 'BT.709' }).click();
    await hand.settled();
    const apart = async (): Promise<number> => (await hand.patch(0.3, 0.5))[1]! - (await hand.patch(0.5, 0.5))[1]!,
      before = await apart();
    await hand.drag('Red light, on the bar', 0, -40);
    await hand.drag('Blue light, on the bar', 0, 30);
    expect(await apart()).toBeGreaterThan(before + 5);
    const [r, g, b] = await hand.patch(0.3, 0.5);
    expect(Math.abs(r! - g!)).toBeLessThan(1.5);
    expect(Math.abs(b! - g!)).toBeLessThan(1.5);
    await hand.undoAll();
  });
  it('the neutral response is held by slope, white and toe', async () => {
    await hand.page.getByRole('button', { name: /^Neutral response/ }).click();
    const [tones, light] = [await spread(), await luma()];
    await hand.drag('Slope at middle grey, on the curve', 0, -12);
    expect(Number((await hand.step('neutral')).params['contrast'])).toBeGreaterThan(1.4);
    expect(await spread()).toBeGreaterThan(tones + 2);
    await hand.page.keyboard.press('Control+z');
    await hand.drag('White, on the curve', -15, 0);
    expect(Number((await hand.step('neutral')).params['whiteEv'])).toBeLessThan(3);
    expect(await luma()).toBeGreaterThan(light);
    await hand.page.keyboard.press('Control+z');
    await hand.drag('Toe, on the curve', 0, -4);
    expect(Number((await hand.step('neutral')).params['toe'])).toBeLessThan(0);
    await hand.undoAll();
  });
  it('a film takes the place of the neutral response, by its sheet: contrast, colour and grey of its own, one undo away', async () => {
    await hand.page
      .getByRole('button', { name: /^Neutral response/ })
      .first()
      .click();
    const before = await colourfulness();
    await hand.page.getByRole('radiogroup', { name: 'What turns light into a picture' }).getByRole('radio', { name: 'Film stock' }).click();
    await hand.settled();
    await hand.page.getByRole('button', { name: 'Woad', exact: true }).click();
    await hand.settled();
    expect((await hand.step('film')).params['sheet']).toMatchObject({ name: 'Woad', kind: 'reversal' });
    const [slide, deep] = [await colourfulness(), await spread()];
    expect(deep).toBeGreaterThan(30);
    await hand.page.getByRole('button', { name: 'Oak gall', exact: true }).click();
    await hand.settled();
    expect(await colourfulness()).toBeLessThan(4);
    expect(slide).toBeGreaterThan(before * 0.6);
    // the same bytes as the server's, as of any look
    expect((await leadAsServer(hand.page)).equal).toBe(true);
    for (let i = 0; i < 3; i++) await hand.page.keyboard.press('Control+z');
    await hand.settled();
    expect(await colourfulness()).toBeCloseTo(before, 6);
  });
  it('warming the lights alone is one drag of their pin: the sky warms, the dark grass hardly', async () => {
    await hand.add('print', 'grade');
    const [sky, grass] = [await hand.patch(0.06, 0.1), await hand.patch(0.1, 0.95)],
      pin = (await hand.page.getByTestId('pin-lights').boundingBox())!;
    await hand.page.mouse.move(pin.x + pin.width / 2, pin.y + pin.height / 2);
    await hand.page.mouse.down();
    await hand.page.mouse.move(pin.x + 40, pin.y - 20, { steps: 4 });
    await hand.page.mouse.up();
    await hand.settled();
    const { lightsChroma, allChroma, darksChroma } = (await hand.step('grade')).params as Record<string, number>;
    expect(lightsChroma).toBeGreaterThan(0.01);
    expect(allChroma).toBe(0);
    expect(darksChroma).toBe(0);
    const warmer = (after: number[], before: number[]): number => after[0]! - after[2]! - (before[0]! - before[2]!),
      [skyAfter, grassAfter] = [await hand.patch(0.06, 0.1), await hand.patch(0.1, 0.95)];
    expect(warmer(skyAfter, sky)).toBeGreaterThan(6);
    expect(Math.abs(warmer(grassAfter, grass))).toBeLessThan(warmer(skyAfter, sky) / 3);
    await hand.page.getByRole('button', { name: 'complement' }).click();
    await hand.settled();
    const tied = (await hand.step('grade')).params as Record<string, number>;
    expect((tied['darksHue']! - tied['lightsHue']! + 360) % 360).toBeCloseTo(180, 1);
    expect(tied['darksChroma']).toBeGreaterThan(0);
    // a boundary drawn over the tones gives the darks more of the picture
    await hand.drag('Darks end at, on the tones', 30, 0);
    expect(Number((await hand.step('grade')).params['darksEndEv'])).toBeGreaterThan(-2);
    await hand.undoAll();
  });
  it('levels are drawn under the tones, and keep the points of the curve they are levels of', async () => {
    await hand.add('print', 'levels');
    await hand.page.getByRole('button', { name: 'Matte' }).click();
    await hand.settled();
    const points = (await hand.step('curve')).params['points'] as [number, number][],
      light = await luma();
    await hand.page.getByRole('tab', { name: 'Levels' }).click();
    await hand.drag('Mid, on the drawing', -30, 0);
    const moved = (await hand.step('curve')).params['points'] as [number, number][];
    expect(moved).toHaveLength(points.length);
    expect(moved[0]).toEqual(points[0]);
    expect(moved.at(-1)).toEqual(points.at(-1));
    expect(await luma()).toBeGreaterThan(light + 5);
    await hand.drag('Black in, on the drawing', 25, 0);
    const later = (await hand.step('curve')).params['points'] as [number, number][];
    expect(later[0]![0]).toBeGreaterThan(0.05);
    expect(later[0]![1]).toBeCloseTo(points[0]![1], 3);
    await hand.undoAll();
  });
  it('a drawing is worked by keys alone: arrows nudge, Alt further, Delete puts back', async () => {
    await hand.add('scene', 'warmth');
    await hand.page.getByRole('slider', { name: 'Warmth and tint, on the pad' }).focus();
    await hand.page.keyboard.press('ArrowRight');
    await hand.page.keyboard.press('Alt+ArrowRight');
    await hand.page.keyboard.press('ArrowDown');
    expect((await hand.step('warmth')).params).toMatchObject({ shiftMired: 11, tint: -0.5 });
    await hand.page.keyboard.press('Delete');
    expect((await hand.step('warmth')).params).toMatchObject({ shiftMired: 0, tint: 0 });
    await hand.undoAll();
  });
  it('a number is typed, dragged finer away from its field, and put back by a double click', async () => {
    await hand.add('scene', 'exposure');
    await hand.type('Shift', '0,85');
    expect((await hand.step('exposure')).params['shiftEv']).toBe(0.85);
    const field = hand.page.getByRole('slider', { name: 'Shift', exact: true }),
      b = (await field.boundingBox())!,
      pull = async (below: number): Promise<number> => {
        await field.dblclick();
        await hand.page.mouse.move(b.x + 60, b.y + 8);
        await hand.page.mouse.down();
        await hand.page.mouse.move(b.x + 60, b.y + 8 + below);
        await hand.page.mouse.move(b.x + 110, b.y + 8 + below, { steps: 5 });
        await hand.page.mouse.up();
        return Number((await hand.step('exposure')).params['shiftEv']);
      };
    const [near, far] = [await pull(0), await pull(100)];
    expect(near).toBeGreaterThan(0.8);
    expect(far).toBeGreaterThan(0);
    expect(far).toBeLessThan(near / 2);
    await field.dblclick();
    expect((await hand.step('exposure')).params['shiftEv']).toBe(0);
    await hand.undoAll();
  });
  it('steps are found by name before they are found by need', async () => {
    await hand.add('scene', 'gel');
    expect((await hand.look()).scene.at(-1)!.kind).toBe('gel');
    await hand.undoAll();
  });
  it('nothing was complained of in the browser’s console', () => expect(stage.complaints).toEqual([]));
});
