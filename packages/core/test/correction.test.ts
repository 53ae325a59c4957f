import { describe, expect, it } from 'vitest';
import { apply3, chain3, invert3, type Matrix3, type Vector3 } from '../src/colour/matrix.ts';
import { adapt, d50, d65, rec2020ToXyz, xyToXyz, xyzToRec2020 } from '../src/colour/spaces.ts';
import { corrected, correctionPasses, type ColourCorrection } from '../src/groundwork/colours.ts';
import { plainGroundwork } from '../src/groundwork/groundwork.ts';
import { validateGroundwork } from '../src/groundwork/schema.ts';
import { patchXyz, type Chart } from '../src/match/chart.ts';
import { chartUnder, coloursByCharts } from '../src/match/correction.ts';
import { tonesOf, withContrast, withEnds } from '../src/match/tones.ts';
import { evAtShare, lightSpread } from '../src/groundwork/automatic.ts';
import { sceneParameters } from '../src/groundwork/light.ts';
import { develop, ground, platter, profile } from './groundTrial.ts';
import { plateScale } from '../src/plate/plate.ts';
import { kernels } from './kernels.ts';
import { sendThrough } from '../src/plan/dyestrip.ts';

const toD65 = adapt(xyToXyz(d50), xyToXyz(d65)),
  published = patchXyz.map((xyz) => apply3(xyzToRec2020, apply3(toD65, xyz))),
  /** camera colour of a scene colour, by the trial's profile */
  camera = chain3(profile.colour[0]!.matrix, rec2020ToXyz),
  chartOf = (seen: readonly Vector3[], light = 0.6): Chart => ({
    corners: [],
    error: 0,
    errors: [],
    patches: seen.map((v) => apply3(camera, v).map((x) => x * light) as unknown as Vector3),
  }),
  mixing: Matrix3 = [0.86, 0.1, 0.04, 0.05, 0.9, 0.05, 0.02, 0.13, 0.85],
  rows = (c: { kind: string; rows: readonly number[] }): number[] => [0, 6, 12].flatMap((o) => c.rows.slice(o, o + 3));

describe('a camera’s colours by a chart', () => {
  it('a camera that mixes its channels is put right by the matrix that parts them again, at any exposure', () => {
    for (const light of [0.15, 0.6]) {
      const said = coloursByCharts(
          [
            {
              chart: chartOf(
                published.map((v) => apply3(mixing, v)),
                light,
              ),
              profile,
            },
          ],
          'K',
        )!,
        [matrix, root] = said.corrections as [(typeof said.corrections)[0], (typeof said.corrections)[0]];
      expect(said.before).toBeGreaterThan(2);
      // the published greys are not wholly grey, and rows that keep grey cannot make them so
      expect(matrix.correction.after).toBeLessThan(0.5);
      expect(matrix.unseen).toBeLessThan(0.6);
      expect(root.correction.after).toBeLessThanOrEqual(matrix.correction.after);
      const wanted = invert3(mixing);
      rows(matrix.correction).forEach((v, i) => expect(v).toBeCloseTo(wanted[i]!, 1));
    }
  });
  it('one that bends colours by their own mixture is put right by a root polynomial, and by no matrix', () => {
    const bent = published.map(([r, g, b]) => {
        const root = (x: number, y: number): number => Math.sqrt(Math.max(0, x) * Math.max(0, y));
        return [r + 0.25 * (root(r, g) - r), g + 0.2 * (root(g, b) - g), b + 0.25 * (root(b, r) - b)] as unknown as Vector3;
      }),
      { corrections, before } = coloursByCharts([{ chart: chartOf(bent), profile }], 'K')!,
      [matrix, root] = corrections as [(typeof corrections)[0], (typeof corrections)[0]];
    expect(root.correction.after).toBeLessThan(0.5 * matrix.correction.after);
    expect(root.correction.after).toBeLessThan(before / 4);
    expect(root.unseen).toBeLessThan(matrix.unseen);
  });
  it('charts together are judged by those left out; a chart that clips says nothing', () => {
    const one = { chart: chartOf(published.map((v) => apply3(mixing, v))), profile },
      plain = { chart: chartOf(published), profile },
      both = coloursByCharts([one, plain], 'two')!;
    for (const { correction, unseen } of both.corrections) {
      expect(unseen).toBeGreaterThan(correction.after);
      expect(chartUnder(one, correction)!).toBeLessThan(chartUnder(one, null)!);
    }
    expect(coloursByCharts([{ chart: chartOf(published, 3), profile }], 'K')).toBeNull();
  });
  it('the kernel does what the formula says, twice the light is twice the picture, and greys stay', () => {
    // of Finlayson, Mackiewicz, Hurlbert 2015: degree one in exposure
    const correction: ColourCorrection = {
        kind: 'rootPolynomial',
        rows: [1.2, -0.1, 0.05, -0.2, 0.1, -0.05, 0.05, 0.9, -0.05, 0.15, -0.1, 0.05, 0, -0.3, 1.4, 0.1, -0.3, 0.1],
        from: '',
        before: 0,
        after: 0,
      },
      colours: Vector3[] = [
        [0.2, 0.1, 0.05],
        [0.01, 0.3, 0.9],
        [-0.02, 0.2, 0.1],
        [0.18, 0.18, 0.18],
      ],
      sent = sendThrough(kernels, correctionPasses(correction), colours),
      twice = sendThrough(
        kernels,
        correctionPasses(correction),
        colours.map((c) => c.map((v) => 2 * v) as unknown as Vector3),
      );
    colours.forEach((c, i) => {
      const formula = corrected(correction.rows, c);
      for (const k of [0, 1, 2] as const) {
        expect(sent[i]![k]).toBeCloseTo(formula[k], 6);
        expect(twice[i]![k]).toBeCloseTo(2 * formula[k], 6);
      }
    });
    sent[3]!.forEach((v) => expect(v).toBeCloseTo(0.18, 6));
    // a matrix as a matrix is the same as with roots that have no share
    const plain = { ...correction, kind: 'matrix' as const, rows: [1.1, -0.1, 0, 0, 0, 0, 0.1, 0.9, 0, 0, 0, 0, 0, 0.2, 0.8, 0, 0, 0] };
    sendThrough(kernels, correctionPasses(plain), colours).forEach((v, i) =>
      v.forEach((x, k) => expect(x).toBeCloseTo(corrected(plain.rows, colours[i]!)[k]!, 6)),
    );
  });
  it('groundwork carries it, and refuses rows that would colour greys, too few, or none', () => {
    const said = coloursByCharts([{ chart: chartOf(published.map((v) => apply3(mixing, v))), profile }], 'K')!,
      colours = said.corrections[1]!.correction,
      read = validateGroundwork({ ...plainGroundwork, colours });
    expect('groundwork' in read && read.groundwork.colours).toEqual(colours);
    for (const wrong of [
      { ...colours, rows: colours.rows.map((v, i) => (i === 0 ? v + 0.1 : v)) },
      { ...colours, rows: colours.rows.slice(1) },
      { ...colours, rows: colours.rows.map(() => NaN) },
      { ...colours, kind: 'cubic' },
      { kind: 'matrix' },
    ]) {
      const refused = validateGroundwork({ ...plainGroundwork, colours: wrong });
      expect('message' in refused && refused.message).toMatch(/“colours/);
    }
    // documents without it are as they were
    const older = Object.fromEntries(Object.entries(plainGroundwork).filter(([name]) => name !== 'colours'));
    expect(validateGroundwork(older)).toEqual({ groundwork: plainGroundwork });
  });
});

describe('tones of a frame beside its anchor', () => {
  const wide = platter(64, 48, (x, y) => 0.18 * 2 ** (((x + y) / 110 - 0.5) * 7)),
    flat = platter(64, 48, (x, y) => 0.18 * 2 ** (((x + y) / 110 - 0.5) * 5.4)),
    veiled = platter(64, 48, (x, y) => 0.01 + 0.18 * 2 ** (((x + y) / 110 - 0.5) * 7)),
    tones = (plate: typeof wide): ReturnType<typeof tonesOf> => tonesOf(plate, profile),
    /** EV at shares of what a plate is developed to, by its greens */
    reachOf = (planes: Float32Array): number => {
      const n = planes.length / 3,
        ev = [...planes.subarray(n, 2 * n)].map((v) => Math.log2(Math.max(1e-6, v))).sort((a, b) => a - b);
      return ev[Math.floor(0.9 * n)]! - ev[Math.floor(0.1 * n)]!;
    };
  it('a flatter one is made steeper until its tones reach as far', () => {
    const made = withContrast(plainGroundwork, tones(flat), plainGroundwork, tones(wide)),
      goal = reachOf(develop(plainGroundwork, wide)),
      [before, after] = [reachOf(develop(plainGroundwork, flat)), reachOf(develop(made, flat))];
    expect(before).toBeLessThan(goal - 0.8);
    expect(Math.abs(after - goal)).toBeLessThan(0.35 * (goal - before));
    // and one that is alike is left alone
    expect(withContrast(plainGroundwork, tones(wide), plainGroundwork, tones(wide)).zones).toEqual(plainGroundwork.zones);
  });
  it('a veil is taken off its darks, its white follows its own brightest, and the anchor’s own ends come along', () => {
    const like = ground({ ends: { black: 0.001, whiteEv: 3.1 } }),
      made = withEnds(plainGroundwork, tones(veiled), like, tones(wide)),
      darkest = (g: typeof made, plate: typeof wide): number => develop(g, plate)[64 * 48]!;
    expect(made.ends.black).toBeGreaterThan(0.008);
    expect(made.ends.black).toBeLessThan(0.0115);
    expect(Math.abs(darkest(made, veiled) - darkest(like, wide))).toBeLessThan(
      0.3 * Math.abs(darkest(plainGroundwork, veiled) - darkest(like, wide)),
    );
    expect(Math.abs(made.ends.whiteEv - 3.1)).toBeLessThan(0.1);
    const brighter = withEnds(ground({ exposureEv: 0.5 }), tones(wide), like, tones(wide));
    expect(brighter.ends.whiteEv).toBeCloseTo(3.6, 1);
  });
  it('are told in EV about middle grey', () => {
    const { middle, darkest, brightest, reach } = tones(wide),
      spread = lightSpread(wide, sceneParameters(profile));
    expect(middle).toBeCloseTo(0, 1);
    expect(darkest).toBeLessThan(-3.2);
    // what the plate itself holds
    expect(brightest).toBeCloseTo(Math.log2(65535 / plateScale / 0.18), 1);
    expect(reach).toBeCloseTo(evAtShare(spread.luminance, 0.9) - evAtShare(spread.luminance, 0.1), 9);
    expect(reach).toBeGreaterThan(3.5);
  });
});
