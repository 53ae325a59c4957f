import { describe, expect, it } from 'vitest';
import { fitReport, fitTable } from '../src/formats/fitTable.ts';
import { fateOf, inspectTable } from '../src/formats/inspectTable.ts';
import { applyTable, table3d, type Rgb, type Table } from '../src/colour/table.ts';
import { applyClf } from '../src/formats/clfApply.ts';
import {
  bakeClf,
  bakeError,
  bakeLook,
  lookThrough,
  suggestedSize,
  testColours,
  testColoursFor,
  unbakeable,
  whiteOf,
} from '../src/plan/bake.ts';
import { emptyLook, newStep, type Look } from '../src/look/look.ts';
import { kernels } from './kernels.ts';

describe('baking', () => {
  const step = (kind: string, params: Record<string, unknown>): Look['stock'] => {
    const s = newStep(kind, `${kind}${JSON.stringify(params).length}`);
    return { ...s, params: { ...s.params, ...params } as Look['stock']['params'] };
  };
  const twelve: Look = {
    ...emptyLook('Twelve steps'),
    scene: [
      step('warmth', { shiftMired: 18 }),
      step('exposure', { shiftEv: 0.2 }),
      step('contrast', { contrast: 12 }),
      step('gel', { hue: 70, density: 0.12 }),
      step('mixer', { redFromGreen: 6 }),
    ],
    print: [
      step('curve', {
        points: [
          [0, 0.03],
          [0.3, 0.27],
          [0.75, 0.8],
          [1, 0.98],
        ],
      }),
      step('hueBands', { hue: [[110, -15, 60]], lightness: [[255, -0.06, 70]] }),
      step('grade', { lightsHue: 70, lightsChroma: 0.02, darksHue: 250, darksChroma: 0.02 }),
      step('saturation', { change: -12 }),
      step('vibrance', { change: 20 }),
      step('cdl', { slopeRed: 1.03, saturation: 0.96 }),
    ],
  };
  it('a twelve-step look at 33³ from sRGB: mean CIEDE2000 under 0.3, worst under 2', () => {
    const table = bakeLook(kernels, twelve, 33, 'srgb'),
      through = (t: Table) => (c: Rgb) => applyTable(t, c),
      error = bakeError(kernels, twelve, through(table), 'srgb');
    console.log(
      `baked at 33³: mean ${error.mean.toFixed(3)}, worst ${error.worst.toFixed(2)} at ${error.worstAt.map((v) => v.toFixed(2)).join(' ')}`,
    );
    expect(error.mean).toBeLessThan(0.3);
    expect(error.worst).toBeLessThan(2);
    expect([17, 33]).toContain(suggestedSize(kernels, twelve, 'srgb', (size) => through(bakeLook(kernels, twelve, size, 'srgb'))));
    expect(bakeError(kernels, twelve, through(bakeLook(kernels, twelve, 9, 'srgb')), 'srgb').mean).toBeGreaterThan(error.mean);
  });
  it('of scene light a table reaches the look’s own white, and a log node before it makes the darks as good as the lights', () => {
    const later: Look = { ...twelve, scene: [...twelve.scene, step('exposure', { shiftEv: -2 })] };
    // two stops less light: white lies two stops higher, found to a quarter of a stop
    expect(Math.log2(whiteOf(kernels, later) / whiteOf(kernels, twelve))).toBeGreaterThanOrEqual(1.75);
    expect(Math.log2(whiteOf(kernels, later) / whiteOf(kernels, twelve))).toBeLessThanOrEqual(2.25);
    const cube = bakeLook(kernels, twelve, 33, 'linear'),
      list = bakeClf(kernels, twelve, 33, 'linear');
    expect(cube.domainMax[0]).toBeGreaterThan(1.5);
    const [plain, shaped] = [
      bakeError(kernels, twelve, (c) => applyTable(cube, c), 'linear'),
      bakeError(kernels, twelve, (c) => applyClf(list, c), 'linear'),
    ];
    console.log(
      `from linear at 33³: .cube mean ${plain.mean.toFixed(2)}, .clf mean ${shaped.mean.toFixed(2)}, worst ${shaped.worst.toFixed(2)}`,
    );
    expect(shaped.mean).toBeLessThan(0.4);
    expect(shaped.mean).toBeLessThan(plain.mean / 2);
    // the colours that judge it are pictures' colours, darks and all, whatever the input
    const greys = testColoursFor('linear')
      .slice(0, 64)
      .map((c) => c[1]);
    expect(greys.filter((v) => v < 0.05).length).toBeGreaterThan(10);
    expect(Math.max(...greys)).toBeGreaterThan(1.5);
  });
  it('a look without steps changes no picture', () => {
    lookThrough(kernels, emptyLook('none'), 'srgb', testColours.slice(0, 64)).forEach((c, i) =>
      c.forEach((v, k) => expect(Math.abs(v - testColours[i]![k]!)).toBeLessThan(0.002)),
    );
  });
  it('what a table cannot carry is listed first, with the reason; what does nothing is not', () => {
    const look = { ...twelve, scene: [...twelve.scene, step('haze', { amount: 30 }), step('localContrast', {})] };
    expect(unbakeable(look)).toEqual([{ name: 'Haze', reason: expect.stringContaining('hazy') as string }]);
    expect(unbakeable(twelve)).toEqual([]);
  });
});

describe('a table looked at', () => {
  it('a plain one has nothing against it; one that clips, folds or falls back is told so in words', () => {
    expect(inspectTable(table3d('plain', 33, (c) => c))).toMatchObject({ warnings: [], folded: 0, falls: [] });
    const bad = inspectTable(table3d('bad', 33, ([r, g, b]) => [Math.min(1, r * 2), g < 0.6 ? g : 1.2 - g, b]));
    expect(bad.falls).toMatchObject([{ channel: 1 }]);
    expect(bad.falls[0]!.at).toBeCloseTo(0.63, 1);
    expect(bad.warnings.join(' ')).toMatch(/fall back in green.*folded.*upper end/s);
    expect(inspectTable(table3d('coarse', 5, (c) => c)).warnings.join()).toContain('coarse');
  });
  it('greys that go up in sixteen steps band, a smooth S does not, and one sharp bend is told apart from both', () => {
    const stairs = inspectTable(table3d('stairs', 65, (c) => c.map((v) => Math.round(v * 16) / 16) as unknown as Rgb));
    expect(stairs.bands.map((b) => b.channel)).toEqual([0, 1, 2]);
    expect(stairs.warnings.join(' ')).toContain('will band');
    const smooth = inspectTable(table3d('s', 33, (c) => c.map((v) => v * v * (3 - 2 * v)) as unknown as Rgb));
    expect(smooth).toMatchObject({ bands: [], bends: [], falls: [], warnings: [] });
    const bent = inspectTable(table3d('bent', 33, ([r, g, b]) => [r < 0.5 ? r * 0.2 : 0.1 + (r - 0.5) * 1.8 * 1.5, g, b]));
    expect(bent.bends).toMatchObject([{ channel: 0 }]);
    expect(bent.bends[0]!.at).toBeCloseTo(0.5, 1);
    expect(bent.bands).toEqual([]);
    // an 8-bit Hald image of a smooth curve is rounded to a code, which no one sees as a step
    const eight = inspectTable(table3d('hald', 64, (c) => c.map((v) => Math.round(255 * v ** 1.3) / 255) as unknown as Rgb));
    expect(eight.bands).toEqual([]);
  });
  it('says of single colours whether they clip or lie in a fold', () => {
    const t = table3d('t', 17, ([r, g, b]) => [Math.min(1, r * 1.5), g, b < 0.5 ? b : 1 - b]);
    expect(fateOf(t, [0.9, 0.5, 0.25])).toEqual({ clips: true, folds: false });
    expect(fateOf(t, [0.4, 0.5, 0.75])).toEqual({ clips: false, folds: true });
    expect(fateOf(t, [0.4, 0.5, 0.25])).toEqual({ clips: false, folds: false });
    // a corner of the cube lies on its end by rights
    expect(
      fateOf(
        table3d('plain', 17, (c) => c),
        [1, 1, 1],
      ),
    ).toEqual({ clips: false, folds: false });
  });
});

describe('a table from a picture pair', () => {
  it('recovers a lost recipe: what it says of colours in the picture is within two codes, and it goes on smoothly elsewhere', () => {
    const truth = (c: Rgb): Rgb => [c[0] ** 0.85 * 0.95 + 0.03, 0.02 + 0.9 * c[1] + 0.04 * c[0], c[2] * 0.8 + 0.12],
      n = 40000,
      before = new Float32Array(n * 3),
      after = new Float32Array(n * 3);
    // colours of a picture: round a warm grey, not over the whole cube
    for (let i = 0; i < n; i++) {
      const t = (i * 0.6180339) % 1,
        c = [0, 1, 2].map((k) =>
          Math.min(1, Math.max(0, t + 0.25 * (((i * [0.7548776, 0.5698403, 0.381966][k]!) % 1) - 0.5))),
        ) as unknown as Rgb;
      before.set(c, i * 3);
      after.set(truth(c), i * 3);
    }
    const table = fitTable(before, after, 17, 'found'),
      report = fitReport(table, before, after);
    console.log(
      `fitted: coverage ${(report.coverage * 100).toFixed(0)} %, residual mean ${report.mean.toFixed(2)}, worst ${report.worst.toFixed(2)} of 255`,
    );
    expect(report.mean).toBeLessThan(0.6);
    expect(report.worst).toBeLessThan(4);
    expect(report.coverage).toBeLessThan(0.5);
    for (const c of [
      [1, 0, 0],
      [0, 1, 0.2],
      [0.1, 0.1, 1],
    ] as Rgb[])
      applyTable(table, c).forEach((v, k) => expect(Math.abs(v - truth(c)[k]!)).toBeLessThan(0.12));
    expect(inspectTable(table).folded).toBeLessThan(0.01);
  });
});
