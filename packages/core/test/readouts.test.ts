import { differenceEuclidean, converter } from 'culori';
import { describe, expect, it } from 'vitest';
import {
  addReadouts,
  hueBins,
  oklabOf8,
  pointReading,
  readoutsOf,
  skinHue,
  vectorReach,
  vectorSide,
  waveHeight,
  waveWidth,
} from '../src/render/readouts.ts';
import { autoExposure, evAtShare, evBins, evFrom, evTo, fittedEnds, type LightSpread } from '../src/groundwork/automatic.ts';

const solid = (r: number, g: number, b: number, n = 400): Uint8Array =>
  Uint8Array.from({ length: n * 4 }, (_, i) => [r, g, b, 255][i % 4]!);

describe('readouts of the rendered picture', () => {
  it('OKLab of 8-bit colours equals culori’s', () => {
    const oklab = converter('oklab'),
      difference = differenceEuclidean('oklab');
    for (const [r, g, b] of [
      [255, 0, 0],
      [0, 255, 0],
      [0, 0, 255],
      [255, 255, 255],
      [12, 34, 56],
      [200, 150, 100],
    ] as const) {
      const [l, a, y] = oklabOf8(r, g, b);
      expect(difference({ mode: 'oklab', l, a, b: y }, oklab({ mode: 'rgb', r: r / 255, g: g / 255, b: b / 255 })!)).toBeLessThan(2e-4);
    }
  });
  it('a waveform puts a flat picture on one line and a ramp on a slope', () => {
    const flat = readoutsOf(solid(128, 128, 128), 20, 'waveform').wave!;
    expect(flat.reduce((a, b) => a + b, 0)).toBe(400);
    expect(flat.subarray(64 * waveWidth, 65 * waveWidth).reduce((a, b) => a + b, 0)).toBe(400);
    const ramp = new Uint8Array(256 * 4);
    for (let x = 0; x < 256; x++) ramp.fill(x, x * 4, x * 4 + 3);
    const wave = readoutsOf(ramp, 256, 'waveform').wave!;
    for (let x = 0; x < 256; x += 17) expect(wave[(x >> 1) * waveWidth + Math.floor((x * waveWidth) / 256)]!).toBeGreaterThan(0);
  });
  it('the parade keeps red, green and blue apart', () => {
    const wave = readoutsOf(solid(200, 100, 20), 20, 'parade').wave!,
      plane = waveWidth * waveHeight;
    [200, 100, 20].forEach((v, c) =>
      expect(wave.subarray(c * plane + (v >> 1) * waveWidth, c * plane + ((v >> 1) + 1) * waveWidth).reduce((a, b) => a + b, 0)).toBe(400),
    );
  });
  it('a grey stands in the middle of the vectorscope, a skin on the skin line, red to the right of it', () => {
    const middle = (vectorSide - 1) / 2,
      place = (r: number, g: number, b: number): [number, number] => {
        const v = readoutsOf(solid(r, g, b), 20, 'vectors').vectors!,
          at = v.findIndex((n) => n > 0);
        return [(at % vectorSide) - middle, middle - Math.floor(at / vectorSide)];
      };
    const [gx, gy] = place(120, 120, 120);
    expect(Math.hypot(gx, gy)).toBeLessThan(1.5);
    // light skin of the rendition chart, sRGB 194 150 130 (McCamy, Marcus, Davidson 1976)
    const [sx, sy] = place(194, 150, 130);
    expect(Math.abs((Math.atan2(sy, sx) * 180) / Math.PI - skinHue)).toBeLessThan(15);
    expect(place(255, 0, 0)[0]).toBeCloseTo((0.2249 / (2 * vectorReach)) * (vectorSide - 1), -1);
  });
  it('the hue ring gathers a colour at its hue (sRGB green at 142.5°, Ottosson 2020) and greys nowhere', () => {
    const hues = readoutsOf(solid(0, 255, 0), 20, 'hues').hues!,
      top = hues.indexOf(Math.max(...hues));
    expect(Math.abs((top + 0.5) * (360 / hueBins) - 142.5)).toBeLessThan(4);
    expect(Math.max(...readoutsOf(solid(90, 90, 90), 20, 'hues').hues!)).toBe(0);
  });
  it('two halves add up to the whole', () => {
    const a = solid(10, 200, 30, 200),
      b = solid(220, 20, 90, 200),
      both = new Uint8Array(1600);
    both.set(a);
    both.set(b, 800);
    for (const kind of ['histogram', 'waveform', 'parade', 'vectors', 'hues'] as const) {
      const sum = addReadouts(readoutsOf(a, 20, kind), readoutsOf(b, 20, kind)),
        whole = readoutsOf(both, 20, kind);
      expect(sum.histogram).toEqual(whole.histogram);
      expect([sum.wave, sum.vectors, sum.hues].map((x) => x && Array.from(x))).toEqual(
        [whole.wave, whole.vectors, whole.hues].map((x) => x && Array.from(x)),
      );
    }
  });
  it('of a picture for the moment one pixel in several is counted: about the same shares', () => {
    const [width, height] = [1200, 500],
      picture = new Uint8Array(width * height * 4);
    for (let i = 0; i < width * height; i++)
      picture.fill(Math.floor(((i % width) / width) * 200) + (i % 8 === 0 ? 40 : 0), i * 4, i * 4 + 3);
    const all = readoutsOf(picture, width, 'histogram').histogram,
      some = readoutsOf(picture, width, 'histogram', null, true).histogram;
    expect(all.pixels).toBe(width * height);
    expect(some.pixels).toBeLessThan(110000);
    expect(some.pixels).toBe(some.red.reduce((a, b) => a + b, 0));
    // a two-hundredth of the tones at a time, to within a twentieth of the fullest
    const most = Math.max(...all.green) / all.pixels;
    all.green.forEach((n, i) => expect(Math.abs(n / all.pixels - some.green[i]! / some.pixels)).toBeLessThan(most / 20));
  });
  it('bands of a picture for the moment count together as much as the whole of it would, and each place as closely', () => {
    // six bands as a page cuts them: the last has fewer rows
    const [width, height, rows] = [1001, 595, 100],
      rgba = Uint8Array.from({ length: width * height * 4 }, (_, i) => (i * 2654435761) >>> 24),
      bands = Array.from({ length: 6 }, (_, k) => rgba.subarray(k * rows * width * 4, Math.min(height, (k + 1) * rows) * width * 4));
    for (const kind of ['histogram', 'waveform', 'vectors', 'hues'] as const) {
      const whole = readoutsOf(rgba, width, kind, null, true),
        each = bands.map((band) => readoutsOf(band, width, kind, null, true, width * height)),
        sum = each.reduce(addReadouts);
      expect(sum.histogram.pixels / whole.histogram.pixels).toBeCloseTo(1, 2);
      expect(sum.histogram.pixels).toBeLessThan(110_000);
      if (kind !== 'histogram') expect(sum.sampled / whole.sampled).toBeCloseTo(1, 2);
      const counted = each.map(({ histogram }, k) => histogram.pixels / (bands[k]!.length / 4));
      expect(Math.max(...counted) / Math.min(...counted)).toBeCloseTo(1, 2);
      const colour = (r: typeof sum): number => r.hues!.reduce((a, b) => a + b, 0);
      expect(colour(sum) / colour(whole)).toBeCloseTo(1, 1);
    }
  });
  it('a sample of a woven picture has its threads as they are, whatever their number goes into', () => {
    for (const [width, period] of [
      [1200, 11],
      [1210, 11],
      [1225, 7],
    ] as const) {
      const height = Math.round(1e6 / width),
        rgba = new Uint8Array(width * height * 4);
      // one thread in so many is light
      for (let i = 0; i < width * height; i++) rgba.fill((i % width) % period === 0 ? 200 : 40, i * 4, i * 4 + 4);
      const { green, pixels } = readoutsOf(rgba, width, 'histogram', null, true).histogram;
      expect(pixels).toBeLessThan(150_000);
      expect(green[200]! / pixels).toBeCloseTo(1 / period, 2);
    }
  });
  it('the probe: middle grey is zone V, white X, black 0; ten of CIE L* are a zone (an L* of 60 is the code 145)', () => {
    expect(pointReading(118, 118, 118).zone).toBeCloseTo(5, 1);
    expect(pointReading(145, 145, 145).zone).toBeCloseTo(6, 1);
    expect(pointReading(255, 255, 255).zone).toBeCloseTo(10, 5);
    expect(pointReading(255, 0, 0).hueDegrees).toBeCloseTo(29.2, 0);
    expect(pointReading(0, 0, 0).zone).toBe(0);
  });
});

describe('automatic exposure and ends', () => {
  const spread = (at: (ev: number) => number): LightSpread => {
    const luminance = Float32Array.from({ length: evBins }, (_, i) => at(evFrom + ((i + 0.5) * (evTo - evFrom)) / evBins));
    return { luminance, top: luminance, pixels: luminance.reduce((a, b) => a + b, 0) };
  };
  const bell =
    (centre: number, width: number) =>
    (ev: number): number =>
      Math.round(1e4 * Math.exp(-(((ev - centre) / width) ** 2)));
  it('brings the middle of the tones to middle grey', () => {
    for (const centre of [-3, -1, 0, 2]) expect(autoExposure(spread(bell(centre, 1)))).toBeCloseTo(-centre, 1);
  });
  it('the median of a symmetric spread is its centre, and ends lie where it starts to rise', () => {
    const s = spread(bell(-0.5, 1.2));
    expect(evAtShare(s.luminance, 0.5)).toBeCloseTo(-0.5, 1);
    const { black, whiteEv } = fittedEnds(s);
    expect(Math.log2(black / 0.9 / 0.18)).toBeCloseTo(evAtShare(s.luminance, 0.001), 5);
    expect(whiteEv).toBeGreaterThan(1);
    expect(whiteEv).toBeLessThan(3);
  });
  it('a part of the picture is read as if it were the whole', () => {
    const rgba = new Uint8Array(40 * 30 * 4).map((_, i) => (i * 7919) % 251),
      cut = new Uint8Array(12 * 9 * 4);
    for (let y = 0; y < 9; y++) cut.set(rgba.subarray(((y + 5) * 40 + 20) * 4, ((y + 5) * 40 + 32) * 4), y * 48);
    for (const kind of ['histogram', 'waveform', 'vectors', 'hues'] as const)
      expect(readoutsOf(rgba, 40, kind, { x: 20, y: 5, width: 12, height: 9 })).toEqual(readoutsOf(cut, 12, kind));
    expect(readoutsOf(rgba, 40, 'hues', { x: 20, y: 5, width: 0, height: 9 }).sampled).toBe(0);
  });
});
