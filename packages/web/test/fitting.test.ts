import { defaultsOf, encodeSrgb, newStep, renditions, stepKind, stepKinds, type NumberParameter } from '@dyepot/core';
import { validateLook } from '@dyepot/core/src/look/schema.ts';
import { emptyLook } from '@dyepot/core/src/look/look.ts';
import { describe, expect, it } from 'vitest';
import { stepFaces } from '../src/steps/index.ts';
import { tiedPins } from '../src/steps/grade/GradeRing.tsx';
import { greyOf, plainGrey, shownLight } from '../src/steps/greys.ts';
import { pulledHandles } from '../src/steps/hueBands/hueHandles.ts';
import { matching } from '../src/bench/matching.ts';

describe('the controls of the steps', () => {
  it('every kind has one of its own', () => expect(Object.keys(stepFaces).sort()).toEqual(stepKinds.map((k) => k.kind).sort()));
  it('every starting point is a step that a look may hold', () => {
    for (const [kind, { starts: list = [] }] of Object.entries(stepFaces))
      for (const start of list) {
        const step = { ...newStep(kind, 'x'), params: { ...defaultsOf(stepKind(kind)!), ...start.values } },
          look = stepKind(kind)!.lane === 'stock' ? { ...emptyLook('t'), stock: step } : { ...emptyLook('t'), print: [step] };
        expect(validateLook(look), `${kind}: ${start.name}`).toHaveProperty('look');
      }
  });
  it('the film-like curves are what they are called: blacks lifted, whites softened, firm in the middle, both ends matte', () => {
    const ends = (name: string): [number, number] => {
      const points = stepFaces.curve.starts!.find((s) => s.name === name)!.values['points'] as [number, number][];
      return [points[0]![1], points.at(-1)![1]];
    };
    expect(ends('Lifted blacks')[0]).toBeGreaterThan(0.03);
    expect(ends('Lifted blacks')[1]).toBe(1);
    expect(ends('Soft whites')[0]).toBe(0);
    expect(ends('Soft whites')[1]).toBeLessThan(0.97);
    expect(ends('Firm')).toEqual([0, 1]);
    expect(ends('Matte')[0]).toBeGreaterThan(0.03);
    expect(ends('Matte')[1]).toBeLessThan(0.98);
  });
  it('BT.709’s and BT.601’s weights are those of the standards', () => {
    const of = (name: string): number[] =>
      ['red', 'green', 'blue'].map((c) => stepFaces.mono.starts!.find((s) => s.name === name)!.values[c] as number);
    of('BT.709').forEach((v, i) => expect(v).toBeCloseTo([21.26, 71.52, 7.22][i]!, 0));
    of('BT.601').forEach((v, i) => expect(v).toBeCloseTo([29.9, 58.7, 11.4][i]!, 5));
  });
});

describe('the greys that controls are drawn with', () => {
  it('middle grey is shown as middle grey, the white exposure as white', () => {
    expect(shownLight(0)).toBeCloseTo(0.18, 3);
    expect(shownLight(renditions.plain.params.whiteEv)).toBeCloseTo(1, 6);
    expect(plainGrey(0)).toBe(greyOf(0.18));
    expect(greyOf(0.18)).toBe(
      `rgb(${Array(3)
        .fill(Math.round(encodeSrgb(0.18) * 255))
        .join(' ')})`,
    );
  });
  it('more light is never darker', () => {
    for (let ev = -8; ev < 6; ev += 0.1) expect(shownLight(ev + 0.1)).toBeGreaterThanOrEqual(shownLight(ev));
  });
});

describe('pins of a grade that are tied', () => {
  const numbers = { darksChroma: 0, midsChroma: 0.02, lightsChroma: 0.05, allChroma: 0, darksHue: 0, midsHue: 0, lightsHue: 40 };
  it('as complements stand 180° apart, whichever is moved', () => {
    for (const hue of [0, 40, 180, 300]) {
      expect(tiedPins(numbers, 'lights', hue, 'complement')['darksHue']).toBe((hue + 180) % 360);
      expect(tiedPins(numbers, 'darks', hue, 'complement')['lightsHue']).toBe((hue + 180) % 360);
    }
  });
  it('in a triad all three stand a third of the circle apart', () => {
    const t = tiedPins(numbers, 'lights', 10, 'triad');
    expect([t['darksHue'], t['midsHue']]).toEqual([130, 250]);
  });
  it('get some colour to be seen by, and keep what they have', () => {
    const t = tiedPins(numbers, 'lights', 40, 'triad');
    expect(t['darksChroma']).toBeCloseTo(0.03, 6);
    expect(t['midsChroma']).toBeCloseTo(0.03, 6);
    expect(tiedPins({ ...numbers, darksChroma: 0.1 }, 'lights', 40, 'complement')['darksChroma']).toBe(0.1);
  });
  it('the pin of all is tied to none', () => expect(tiedPins(numbers, 'all', 40, 'complement')).toEqual({}));
});

describe('a hue pulled on the picture', () => {
  it('moves the handle that stands near it, round the circle too', () => {
    expect(pulledHandles([[350, 5, 45]], 4, 20)).toEqual([[350, 20, 45]]);
    expect(pulledHandles([[350, 5, 45]], 100, 20)).toEqual([[350, 5, 45], [100, 20, 45]]); // prettier-ignore
  });
  it('no more than sixteen handles are set', () => {
    const full = Array.from({ length: 16 }, (_, i) => [i * 22.5, 0, 5] as const);
    expect(
      pulledHandles(
        full.map(([h, v, w]) => [h, v, w] as const).filter(([h]) => h !== 180),
        180,
        9,
      ),
    ).toHaveLength(16);
    expect(pulledHandles(full, 180, 9).filter(([, v]) => v === 9)).toHaveLength(1);
  });
});

describe('steps found by need', () => {
  const print = stepKinds.filter((k) => k.lane === 'print'),
    scene = stepKinds.filter((k) => k.lane === 'scene');
  it.each([
    ['warmer highlights', 'grade', print],
    ['old print', 'grade', print],
    ['dramatic sky', 'hueBands', print],
    ['even skin', 'colourRange', print],
    ['matte', 'curve', print],
    ['soften', 'contrast', scene],
    ['gel', 'gel', scene],
    ['fog', 'haze', scene],
    ['cross process', 'mixer', scene],
  ] as const)('“%s” is %s', (words, kind, kinds) => expect(matching(kinds, words)[0]!.kind).toBe(kind));
  it('nothing asked is everything; nonsense is nothing', () => {
    expect(matching(print, '  ')).toHaveLength(print.length);
    expect(matching(print, 'zzz')).toHaveLength(0);
  });
  it('every number of every kind says its range, a default within it and a step that fits', () => {
    for (const kind of stepKinds)
      for (const [name, p] of Object.entries(kind.params)) {
        if (p.type !== 'number') continue;
        const { min, max, default: own, step }: NumberParameter = p;
        expect(min, `${kind.kind}.${name}`).toBeLessThan(max);
        expect(own).toBeGreaterThanOrEqual(min);
        expect(own).toBeLessThanOrEqual(max);
        // but where things are counted, there is room for fine moves
        if (p.unit !== '' || step !== 1) expect((max - min) / step).toBeGreaterThanOrEqual(20);
      }
  });
});
