import { describe, expect, it } from 'vitest';
import type { Vector3 } from '../src/colour/matrix.ts';
import { oklabToRec2020, rec2020ToOklab } from '../src/colour/oklab.ts';
import { bandAt } from '../src/render/bands.ts';
import { step, run, one, close, fromSrgb, lch, own, samples, turned } from './stepTrial.ts';

describe('hue bands', () => {
  it('turn a hue by what the curve says there, lightness and chroma kept (hue measured by culori)', () => {
    const s = step('hueBands', { hue: [[110, -40, 60]], guard: 0 });
    for (const c of samples) {
      const before = lch(c),
        after = lch(one(s, c));
      expect(turned(after.h, before.h)).toBeCloseTo(bandAt([[110, -40, 60]], own(c).h), 0);
      expect(after.l).toBeCloseTo(before.l, 3);
      expect(after.c).toBeCloseTo(before.c, 2);
    }
  });
  it('the kernel agrees with the formula in double precision, all round the circle', () => {
    const hue = [
        [100, 30, 80],
        [355, -25, 40],
      ] as const,
      chroma = [
        [200, 60, 90],
        [2, -40, 30],
      ] as const,
      lightness = [
        [255, -0.2, 60],
        [359, 0.1, 20],
      ] as const,
      s = step('hueBands', { hue, chroma, lightness, guard: 0 });
    const ring = Array.from({ length: 1440 }, (_, i) => (i / 4) * (Math.PI / 180)),
      out = run(
        s,
        ring.map((h) => oklabToRec2020([0.65, 0.12 * Math.cos(h), 0.12 * Math.sin(h)])),
      );
    ring.forEach((h, i) => {
      const degrees = i / 4,
        turn = h + (bandAt(hue, degrees) * Math.PI) / 180,
        light = bandAt(lightness, degrees),
        less = 1 + Math.min(0, light) / 0.6,
        c = 0.12 * less * Math.max(0, 1 + bandAt(chroma, degrees) / 100);
      close(rec2020ToOklab(out[i]!), [0.65 * less + Math.max(0, light), c * Math.cos(turn), c * Math.sin(turn)], 6e-4);
    });
  });
  it('turn yellow foliage orange and aqua water blue', () => {
    const foliage = one(step('hueBands', { hue: [[108, -38, 50]] }), fromSrgb(0.75, 0.7, 0.2)),
      water = one(step('hueBands', { hue: [[200, 50, 50]] }), fromSrgb(0.2, 0.65, 0.65));
    expect(own(foliage).h).toBeGreaterThan(55);
    expect(own(foliage).h).toBeLessThan(82);
    expect(own(water).h).toBeGreaterThan(230);
  });
  it('darken a blue sky strongly and leave neutral rocks and greys alone', () => {
    const s = step('hueBands', { lightness: [[255, -0.35, 60]] }),
      sky = fromSrgb(0.45, 0.62, 0.85),
      rock = fromSrgb(0.46, 0.47, 0.49);
    expect(own(one(s, sky)).l).toBeLessThan(own(sky).l - 0.15);
    close(one(s, rock), rock, 0.006);
    close(one(s, [0.18, 0.18, 0.18]), [0.18, 0.18, 0.18], 1e-5);
  });
  it('darken as less light would: noise stays in proportion, dark folds keep their texture, saturation stays', () => {
    const s = step('hueBands', { lightness: [[255, -0.3, 60]], guard: 0 }),
      blue = (L: number): Vector3 =>
        oklabToRec2020([L, 0.18 * L * Math.cos((255 * Math.PI) / 180), 0.18 * L * Math.sin((255 * Math.PI) / 180)]);
    for (const L of [0.2, 0.5, 0.8]) {
      // two neighbours that noise sets 2 % apart are 2 % apart still
      const [a, b] = [own(one(s, blue(L))), own(one(s, blue(L * 1.02)))];
      expect(b.l / a.l).toBeCloseTo(1.02, 3);
      expect(a.c / a.l).toBeCloseTo(0.18, 3);
      expect(a.l).toBeCloseTo(L / 2, 3);
    }
  });
  it('are continuous round the circle: no step between 0° and 360°, nor anywhere (no banding)', () => {
    const handles = [
      [5, 30, 40],
      [350, -20, 25],
      [180, 60, 90],
    ] as const;
    expect(bandAt(handles, 0)).toBeCloseTo(bandAt(handles, 360), 9);
    for (let h = 0; h < 360; h += 0.5) expect(Math.abs(bandAt(handles, h + 0.5) - bandAt(handles, h))).toBeLessThan(1.5);
    const ramp = Array.from({ length: 361 }, (_, h) =>
        oklabToRec2020([0.6, 0.1 * Math.cos((h * Math.PI) / 180), 0.1 * Math.sin((h * Math.PI) / 180)]),
      ),
      out = run(step('hueBands', { hue: handles, lightness: [[200, 0.2, 60]] }), ramp);
    for (let h = 1; h <= 360; h++) {
      const a = rec2020ToOklab(out[h - 1]!),
        b = rec2020ToOklab(out[h]!);
      expect(Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2])).toBeLessThan(0.02);
    }
  });
});

describe('colour range', () => {
  const skin = fromSrgb(0.78, 0.6, 0.5),
    { l, c, h } = own(skin),
    params = { hue: h, chroma: c, lightness: l };
  it('pulls a colour in range halfway to the picked one at 50 %, each of hue, chroma and lightness by itself', () => {
    const red = oklabToRec2020([
      l - 0.04,
      (c + 0.01) * Math.cos(((h - 8) * Math.PI) / 180),
      (c + 0.01) * Math.sin(((h - 8) * Math.PI) / 180),
    ]);
    const hue = own(one(step('colourRange', { ...params, evenHue: 50 }), red)),
      light = own(one(step('colourRange', { ...params, evenLightness: 50 }), red)),
      chroma = own(one(step('colourRange', { ...params, evenChroma: 50 }), red));
    expect(turned(hue.h, h)).toBeCloseTo(-4, 0);
    expect(hue.l).toBeCloseTo(l - 0.04, 3);
    expect(light.l - l).toBeCloseTo(-0.02, 2);
    expect(chroma.c - c).toBeCloseTo(0.005, 3);
  });
  it('leaves what is out of range alone, and the picked colour itself when evening out', () => {
    close(
      one(step('colourRange', { ...params, evenHue: 100, evenChroma: 100, evenLightness: 100, hueShift: 60 }), fromSrgb(0.2, 0.4, 0.7)),
      fromSrgb(0.2, 0.4, 0.7),
      1e-5,
    );
    close(one(step('colourRange', { ...params, evenHue: 100, evenChroma: 100, evenLightness: 100 }), skin), skin, 1e-5);
  });
  it('shifts hue and chroma by what it says (hue measured by culori)', () => {
    const out = lch(one(step('colourRange', { ...params, hueShift: 30, chromaShift: 20 }), skin)),
      before = lch(skin);
    expect(turned(out.h, before.h)).toBeCloseTo(30, 0);
    expect(out.c / before.c).toBeCloseTo(1.2, 2);
  });
  it('the kernel agrees with the formula in double precision', () => {
    const set = {
        ...params,
        hueWidth: 25,
        chromaWidth: 0.08,
        lightnessWidth: 0.25,
        softness: 50,
        hueShift: 12,
        chromaShift: -20,
        evenHue: 40,
        evenChroma: 30,
        evenLightness: 20,
      },
      smooth = (a: number, b: number, x: number): number => {
        const t = Math.min(1, Math.max(0, (x - a) / (b - a)));
        return t * t * (3 - 2 * t);
      },
      near = (away: number, width: number): number => 1 - smooth(width * 0.75, width * 1.25, away),
      rad = Math.PI / 180;
    for (let i = 0; i < 200; i++) {
      const lightnessShift = i % 2 === 0 ? 0.04 : -0.09;
      const L = l + 0.4 * (((i * 0.61) % 1) - 0.5),
        C = Math.max(0.001, c + 0.1 * (((i * 0.37) % 1) - 0.5)),
        H = h + 70 * (((i * 0.83) % 1) - 0.5),
        d = turned(H, h),
        sure = smooth(0.2 * (c - 0.02) - 1e-3, 0.55 * (c - 0.02), C),
        w = sure * near(Math.abs(d), 25) * near(Math.abs(C - c), 0.08) * near(Math.abs(L - l), 0.25);
      const angle = (H + w * (12 - 0.4 * d)) * rad,
        chroma = Math.max(0, C + w * (-0.2 * C - 0.3 * (C - c))),
        out = rec2020ToOklab(
          one(step('colourRange', { ...set, lightnessShift }), oklabToRec2020([L, C * Math.cos(H * rad), C * Math.sin(H * rad)])),
        ),
        less = 1 + (w * sure * Math.min(0, lightnessShift)) / 0.6,
        light = less * (L - w * sure * 0.2 * (L - l)) + w * sure * Math.max(0, lightnessShift);
      close(out, [light, less * chroma * Math.cos(angle), less * chroma * Math.sin(angle)], 3e-4);
    }
  });
  it('leaves what is nearly neutral alone, where hue is only noise, unless a neutral was picked', () => {
    const move = { hueShift: 60, lightnessShift: -0.2, chromaWidth: 0.2, lightnessWidth: 1 },
      dull = oklabToRec2020([l, 0.008 * Math.cos((h * Math.PI) / 180), 0.008 * Math.sin((h * Math.PI) / 180)]);
    close(one(step('colourRange', { ...params, ...move }), dull), dull, 1e-5);
    expect(own(one(step('colourRange', { ...params, ...move, chroma: 0.005 }), dull)).l).toBeLessThan(l - 0.19);
  });
  it('fades softly: no jump across the edge of the range', () => {
    const ramp = Array.from({ length: 181 }, (_, i) =>
        oklabToRec2020([l, c * Math.cos(((h - 90 + i) * Math.PI) / 180), c * Math.sin(((h - 90 + i) * Math.PI) / 180)]),
      ),
      out = run(step('colourRange', { ...params, lightnessShift: -0.2 }), ramp).map((v) => own(v).l);
    out.forEach((v, i) => {
      if (i > 0) expect(Math.abs(v - out[i - 1]!)).toBeLessThan(0.035);
    });
  });
});

describe('vibrance', () => {
  it('raises dull colours more than vivid ones, skins less than others, greys not at all', () => {
    const gain = (v: Vector3): number => own(one(step('vibrance', { change: 80 }), v)).c / own(v).c,
      at = (chroma: number, hue: number): Vector3 =>
        oklabToRec2020([0.65, chroma * Math.cos((hue * Math.PI) / 180), chroma * Math.sin((hue * Math.PI) / 180)]);
    expect(gain(at(0.05, 250))).toBeGreaterThan(gain(at(0.2, 250)) + 0.3);
    expect(gain(at(0.08, 52))).toBeLessThan(gain(at(0.08, 150)) - 0.2);
    close(one(step('vibrance', { change: 100 }), [0.3, 0.3, 0.3]), [0.3, 0.3, 0.3], 3e-4);
  });
});

describe('vibrance, in double precision', () => {
  it('is chroma times 1 + change·(1 − step(C/0.28))·(1 − spared·skin)', () => {
    const smooth = (a: number, b: number, x: number): number => {
        const t = Math.min(1, Math.max(0, (x - a) / (b - a)));
        return t * t * (3 - 2 * t);
      },
      edge = Math.cos((27 * Math.PI) / 180);
    for (let i = 0; i < 120; i++) {
      const h = i * 3,
        C = 0.02 + 0.2 * ((i * 0.618) % 1),
        a = (h * Math.PI) / 180,
        skin = 0.7 * smooth(edge, 1, Math.cos(((h - 52) * Math.PI) / 180)),
        k = 1 + 0.6 * (1 - smooth(0, 0.28, C)) * (1 - skin),
        out = rec2020ToOklab(one(step('vibrance', { change: 60 }), oklabToRec2020([0.6, C * Math.cos(a), C * Math.sin(a)])));
      close(out, [0.6, k * C * Math.cos(a), k * C * Math.sin(a)], 2e-4);
    }
  });
});
