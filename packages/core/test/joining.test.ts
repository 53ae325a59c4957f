import { describe, expect, it } from 'vitest';
import { sendThrough } from '../src/plan/dyestrip.ts';
import { emptyLook, newStep, type Blend, type Look, type LookStep } from '../src/look/look.ts';
import { validateLook } from '../src/look/schema.ts';
import { common, maskOf, type Mask } from '../src/mask/mask.ts';
import { toneShare, wholeRange, type ToneRange } from '../src/mask/tone.ts';
import { isAreaPass, samePass, type AreaPass } from '../src/render/pass.ts';
import { dressed, lookPasses, passesOf, plan } from '../src/plan/plan.ts';
import { developPlanes, render } from '../src/render/render.ts';
import { cutPlate } from '../src/plate/plate.ts';
import { platter, profile } from './groundTrial.ts';
import { kernels } from './kernels.ts';

const frame = { profile, seed: 1 };
type Colour = readonly [number, number, number];
const colours: Colour[] = [
  [0.18, 0.18, 0.18],
  [0.02, 0.05, 0.01],
  [0.6, 0.3, 0.1],
  [0.05, 0.2, 0.7],
  [0.9, 0.85, 0.8],
  [0.004, 0.003, 0.002],
  [2.5, 1.2, 0.4],
];
const luminance = ([r, g, b]: Colour): number => 0.2627 * r + 0.678 * g + 0.0593 * b;
const tones = (range: ToneRange): Mask => maskOf({ ...common, ...range });
const stepWith = (params: Record<string, number>, change: Partial<LookStep> = {}): LookStep => {
  const step = newStep('cdl', 'x');
  return { ...step, params: { ...step.params, ...params }, ...change };
};
const through = (step: LookStep): Colour[] => sendThrough(kernels, passesOf(step, 1), colours) as Colour[];
const lifted = { slopeRed: 1.4, slopeGreen: 0.8, slopeBlue: 1.1 };

describe('ways to join', () => {
  const plain = through(stepWith(lifted)),
    joined = (blend: Blend): Colour[] => through(stepWith(lifted, { blend }));
  const near = (found: readonly Colour[], wanted: (before: Colour, after: Colour) => Colour): void =>
    found.forEach((c, i) => {
      const w = wanted(colours[i]!, plain[i]!);
      for (const k of [0, 1, 2]) expect(Math.abs(c[k]! - w[k]!) / Math.max(0.02, Math.abs(w[k]!)), `colour ${i}`).toBeLessThan(2e-4);
    });
  const each = (a: Colour, b: Colour, f: (x: number, y: number) => number): Colour => [f(a[0], b[0]), f(a[1], b[1]), f(a[2], b[2])];
  it('luminance only keeps the ratios of what came, colour only its luminance', () => {
    near(joined('luminance'), (b, a) => b.map((v) => (v * luminance(a)) / luminance(b)) as unknown as Colour);
    near(joined('colour'), (b, a) => a.map((v) => (v * luminance(b)) / luminance(a)) as unknown as Colour);
  });
  it('lighter and darker are the greater and the lesser of each channel (W3C Compositing and Blending Level 1, 9.1)', () => {
    near(joined('lighten'), (b, a) => each(b, a, Math.max));
    near(joined('darken'), (b, a) => each(b, a, Math.min));
  });
  it('soft light is that of W3C Compositing and Blending Level 1, 9.1, on square roots; light over white stays', () => {
    const soft = (cb: number, cs: number): number => {
      const d = cb <= 0.25 ? ((16 * cb - 12) * cb + 4) * cb : Math.sqrt(cb);
      return cs <= 0.5 ? cb - (1 - 2 * cs) * cb * (1 - cb) : cb + (2 * cs - 1) * (d - cb);
    };
    const root = (v: number): number => Math.sqrt(Math.min(1, Math.max(0, v)));
    near(joined('soft'), (b, a) => each(b, a, (x, y) => soft(root(x), root(y)) ** 2 + Math.max(0, x - 1)));
  });
  it('as it comes, everywhere, is no bracket at all', () => {
    expect(passesOf(stepWith(lifted), 1).map((p) => p.kernel)).not.toContain('hold');
    expect(passesOf(stepWith(lifted, { blend: 'darken' }), 1).map((p) => p.kernel)).toEqual(expect.arrayContaining(['hold', 'join']));
    expect(passesOf(stepWith({}, { blend: 'darken' }), 1)).toEqual([]);
  });
});

describe('a range of tones', () => {
  const range: ToneRange = { ...wholeRange, fromEv: -3, toEv: 0, fadeBelowEv: 2, fadeAboveEv: 1 };
  it('mixes what came with what is made by the share of its own tone', () => {
    const plain = through(stepWith(lifted)),
      ranged = through(stepWith(lifted, { mask: tones(range) }));
    colours.forEach((c, i) => {
      const t = toneShare(range, Math.log2(luminance(c) / 0.18));
      for (const k of [0, 1, 2]) expect(ranged[i]![k]).toBeCloseTo(c[k]! + t * (plain[i]![k]! - c[k]!), 4);
    });
  });
  it('turned over is the rest, and open at both ends is everywhere', () => {
    for (const ev of [-9, -4, -3, -1, 0.5, 3]) {
      expect(toneShare(range, ev) + toneShare({ ...range, inverted: true }, ev)).toBeCloseTo(1, 12);
      expect(toneShare(wholeRange, ev)).toBe(1);
    }
    expect(toneShare(range, -1)).toBe(1);
    expect(toneShare(range, -5)).toBe(0);
    expect(toneShare(range, 1)).toBe(0);
  });
  it('is refused upside down, beyond its bounds and on a stock, in words', () => {
    const refused = (change: Partial<LookStep>, lane: 'print' | 'stock' = 'print'): string => {
      const look = emptyLook('t'),
        r = validateLook(
          lane === 'stock' ? { ...look, stock: { ...look.stock, ...change } } : { ...look, print: [stepWith(lifted, change)] },
        );
      return 'message' in r ? r.message : 'accepted';
    };
    expect(refused({ mask: tones(range) })).toBe('accepted');
    expect(refused({ mask: tones({ ...range, fromEv: 3 }) })).toMatch(/step 1 of the print lane.*ends before it begins/);
    expect(refused({ mask: tones({ ...range, toEv: 90 }) })).toMatch(/“toEv”/);
    expect(refused({ mask: tones(range) }, 'stock')).toMatch(/the stock/);
    expect(refused({ blend: 'glow' as Blend })).toMatch(/blend/);
  });
});

describe('a pass that reads neighbours', () => {
  const test = platter(
      160,
      120,
      (x, y, c) => 0.05 + 0.3 * ((x >> 4) & 1) + 0.1 * ((y >> 3) & 1) + 0.02 * c + 0.01 * ((x * 7 + y * 13) % 5),
    ),
    crisp = (params: Record<string, number> = {}, change: Partial<LookStep> = {}): Look => {
      const step = newStep('crispness', 'c');
      return {
        ...emptyLook('t'),
        print: [
          newStep('curve', 'a'),
          { ...step, params: { ...step.params, amount: 120, size: 2, ...params }, ...change },
          stepWith(lifted),
        ],
      };
    },
    edge = 1000,
    made = (look: Look): ReturnType<typeof plan> => plan(look, frame, 'srgb');
  it('agrees with its formula written out in double precision', () => {
    const look = crisp({ still: 1, most: 20 }),
      p = made(look),
      at = p.passes.findIndex((q) => q.kernel === 'crispness'),
      n = 160 * 120,
      before = developPlanes(kernels, p, test, at, { x: 0, y: 0, edge }),
      after = developPlanes(kernels, p, test, at + 1, { x: 0, y: 0, edge }),
      sigma = 2,
      radius = 6,
      clamp = (v: number, most: number): number => Math.min(most, Math.max(0, v)),
      weight = (k: number): number => Math.exp(-0.5 * (k / sigma) ** 2),
      sum = Array.from({ length: 2 * radius + 1 }, (_, i) => weight(i - radius)).reduce((a, b) => a + b),
      light = (x: number, y: number): number => {
        const i = clamp(y, 119) * 160 + clamp(x, 159);
        return Math.cbrt(luminance([before[i]!, before[n + i]!, before[2 * n + i]!]));
      };
    for (const [x, y] of [
      [80, 60],
      [79, 60],
      [0, 0],
      [159, 119],
      [48, 7],
    ] as const) {
      let blurred = 0;
      for (let j = -radius; j <= radius; j++)
        for (let k = -radius; k <= radius; k++) blurred += (weight(j) * weight(k) * light(x + k, y + j)) / sum ** 2;
      const own = light(x, y),
        d = own - blurred,
        sure = d ** 3 / (d ** 2 + 0.01 ** 2),
        moved = own + 1.2 * (sure / (1 + Math.abs(sure) / 0.2)),
        factor = (moved / own) ** 3;
      for (const c of [0, 1, 2]) expect(after[c * n + y * 160 + x]! / before[c * n + y * 160 + x]!, `${x}, ${y}`).toBeCloseTo(factor, 4);
    }
  });
  it('of a piece with its halo is the same bytes as that piece of the whole', () => {
    const p = made(crisp()),
      whole = render(kernels, p, test, { x: 0, y: 0, edge }, 'rgba8'),
      reach = 6,
      area = { x: 40, y: 30, width: 50, height: 40 },
      wide = { x: area.x - reach, y: area.y - reach, width: area.width + 2 * reach, height: area.height + 2 * reach },
      part = render(kernels, p, cutPlate(test, wide.x, wide.y, wide.width, wide.height), { ...wide, edge, whole: test }, 'rgba8');
    for (let y = 0; y < area.height; y++) {
      const a = ((area.y + y) * 160 + area.x) * 4,
        b = ((y + reach) * wide.width + reach) * 4;
      expect(Buffer.from(part.subarray(b, b + area.width * 4)).equals(Buffer.from(whole.subarray(a, a + area.width * 4)))).toBe(true);
    }
  });
  it('goes on from any pass that was kept, inside a bracket too', () => {
    for (const look of [crisp(), crisp({}, { blend: 'luminance', mask: tones({ ...wholeRange, toEv: 0 }) })]) {
      const p = made(look),
        whole = Buffer.from(render(kernels, p, test, { x: 0, y: 0, edge }, 'rgba8'));
      for (let count = 1; count <= p.passes.length; count++) {
        const from = { planes: developPlanes(kernels, p, test, count, { x: 0, y: 0, edge }), count };
        expect(Buffer.from(render(kernels, p, test, { x: 0, y: 0, edge }, 'rgba8', from)).equals(whole), `from ${count}`).toBe(true);
      }
    }
  });
  it('of another size is another pass, though its numbers are the same', () => {
    const pass = (size: number): AreaPass => made(crisp({ size })).passes.find(isAreaPass)!;
    expect(pass(1).parameters).toEqual(pass(2).parameters);
    expect(samePass(pass(1), pass(2))).toBe(false);
    expect(samePass(pass(2), pass(2))).toBe(true);
  });
  it('at zero changes nothing, and says that a table cannot carry it', () => {
    expect(lookPasses(crisp({ amount: 0 })).map((p) => p.kernel)).not.toContain('crispness');
    expect(lookPasses(crisp()).map((p) => p.kernel)).toContain('crispness');
  });
});

describe('a frame’s own steps', () => {
  it('come after the look’s in each lane, and a frame without any wears the look as it is', () => {
    const look: Look = { ...emptyLook('t'), print: [stepWith(lifted)] },
      own = {
        scene: [{ ...newStep('exposure', 'mine'), params: { shiftEv: 0.5 } }],
        print: [{ ...newStep('saturation', 'mine too'), params: { change: -40 } }],
        skeins: [],
        masks: [],
      };
    expect(dressed(look, null)).toEqual(lookPasses(look));
    expect(dressed(look, { scene: [], print: [], skeins: [], masks: [] })).toEqual(lookPasses(look));
    // a look at half strength leaves them as they are
    expect(dressed({ ...look, strength: 0.5 }, own).at(-1)).toEqual(dressed(look, own).at(-1));
    expect(plan(look, { ...frame, steps: own }, 'srgb').passes).toEqual(
      lookPasses({ ...look, scene: own.scene, print: [...look.print, ...own.print] }),
    );
  });
});
