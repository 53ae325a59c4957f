import { describe, expect, it } from 'vitest';
import { afterSteps, cloudDistance, cloudOf, stepsTowards, type Cloud, type Proposed } from '../src/match/toPicture.ts';
import { seeded } from '@dyepot/camera/src/random.ts';

/** Colours of a made-up picture: warm lights, cool darks, some of everything. */
function someColours(seed: number, count = 3000): Cloud {
  const random = seeded(seed),
    out = new Float64Array(count * 3);
  for (let i = 0; i < count; i++) {
    const L = 0.1 + 0.8 * random(),
      hue = 2 * Math.PI * random(),
      chroma = 0.12 * random();
    out.set([L, chroma * Math.cos(hue) + 0.02 * (L - 0.5), chroma * Math.sin(hue) + 0.03 * (L - 0.5)], i * 3);
  }
  return out;
}
const moved = (c: Cloud, by: readonly [number, number, number]): Cloud => c.map((v, i) => v + by[i % 3]!);

describe('how far two pictures’ colours lie apart', () => {
  it('is nought from itself, the same both ways, and of a shift half its length: the mean of what is seen of it from all sides', () => {
    const a = someColours(1),
      b = someColours(2);
    expect(cloudDistance(a, a)).toBe(0);
    expect(cloudDistance(a, b)).toBeCloseTo(cloudDistance(b, a), 9);
    // the mean of |cos| over a sphere is one half
    for (const by of [
      [0.1, 0, 0],
      [0, 0.1, 0],
      [0, 0, 0.1],
    ] as const)
      expect(cloudDistance(a, moved(a, by))).toBeCloseTo(5, 0);
  });
  it('reads 8-bit sRGB: black, white and the red of the standard', () => {
    // OKLab of sRGB's red by Ottosson's own table: 0.628, 0.225, 0.126
    const [black, white, red] = [0, 1, 2].map((i) => cloudOf(Uint8Array.from([0, 0, 0, 255, 255, 255, 255, 0, 0])).slice(i * 3, i * 3 + 3));
    [0, 0, 0].forEach((v, k) => expect(black![k]).toBeCloseTo(v, 3));
    [1, 0, 0].forEach((v, k) => expect(white![k]).toBeCloseTo(v, 3));
    [0.628, 0.225, 0.126].forEach((v, k) => expect(red![k]).toBeCloseTo(v, 3));
  });
});

describe('steps towards a picture', () => {
  const known: Proposed[] = [
    {
      kind: 'curve',
      name: '',
      params: {
        points: [
          [0, 0.06],
          [0.3, 0.36],
          [0.7, 0.72],
          [1, 0.97],
        ],
        on: 'lightness',
      },
    },
    { kind: 'saturation', name: '', params: { change: -30 } },
    { kind: 'grade', name: '', params: { darksHue: 250, darksChroma: 0.03, midsHue: 0, midsChroma: 0, lightsHue: 80, lightsChroma: 0.03 } },
  ];
  it('find again what was done to it, nearly: the tones to a hundredth, its colour to 3 %, its tints to 20° and a hundredth', () => {
    const from = someColours(3),
      to = afterSteps(from, known),
      found = stepsTowards(from, to, 'an earlier one'),
      after = afterSteps(from, found);
    expect(found.map((s) => s.kind)).toEqual(['curve', 'saturation', 'grade']);
    expect(cloudDistance(after, to)).toBeLessThan(0.15 * cloudDistance(from, to));
    for (let i = 0; i < from.length; i += 3) expect(Math.abs(after[i]! - to[i]!)).toBeLessThan(0.012);
    expect(Math.abs((found[1]!.params['change'] as number) + 30)).toBeLessThan(3);
    const tint = found[2]!.params as Record<string, number>;
    expect(Math.abs(tint['darksHue']! - 250)).toBeLessThan(20);
    expect(Math.abs(tint['lightsHue']! - 80)).toBeLessThan(20);
    expect(Math.abs(tint['darksChroma']! - 0.03)).toBeLessThan(0.01);
  });
  it('are none for the picture itself; rise everywhere, however far the other is; raise no colour where there is none', () => {
    const from = someColours(4);
    expect(stepsTowards(from, from, 'itself')).toEqual([]);
    const flat = from.map((v, i) => (i % 3 === 0 ? 0.5 + 0.02 * v : 0)),
      grey = from.map((v, i) => (i % 3 === 0 ? v : 0));
    for (const [a, b] of [
      [from, flat],
      [flat, from],
      [grey, from],
    ] as const) {
      const steps = stepsTowards(a, b, 'another');
      for (const s of steps.filter((x) => x.kind === 'curve')) {
        const points = s.params['points'] as [number, number][];
        points.slice(1).forEach(([x, y], i) => {
          expect(x).toBeGreaterThan(points[i]![0]);
          expect(y).toBeGreaterThanOrEqual(points[i]![1]);
        });
      }
      if (a === grey) expect(steps.some((s) => s.kind === 'saturation')).toBe(false);
    }
  });
});
