import { describe, expect, it } from 'vitest';
import { differenceCiede2000 } from 'culori';
import { blemished, marks, wires } from '@dyepot/camera/src/blemish.ts';
import { motes, underDust, type Mote } from '@dyepot/camera/src/dust.ts';
import { seeded } from '@dyepot/camera/src/random.ts';
import { sharedSpecks, sharedLeast, specksIn, type Speck } from '../src/repair/dust.ts';
import { pieceOf, repairPlate } from '../src/repair/mend.ts';
import { coverOf } from '../src/repair/cover.ts';
import { straightFrom, type Repair, type Shape } from '../src/repair/repairs.ts';
import { findSource, soughtIn } from '../src/repair/source.ts';
import { plateOffset, plateScale, type Plate } from '../src/plate/plate.ts';
import { kernels } from './kernels.ts';

const [width, height] = [1200, 800],
  edge = width;
/** A plate of some light (interleaved RGB) with the shot noise of so many electrons at white: 12,000 at ISO 400. */
function noisy(seen: Float32Array, random: () => number, electrons = 12000): Plate {
  const data = new Uint16Array(width * height * 3),
    normal = (): number => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  for (let i = 0; i < width * height; i++)
    for (let c = 0; c < 3; c++) {
      const v = seen[i * 3 + c]!;
      data[c * width * height + i] = Math.max(0, Math.round((v + Math.sqrt(v / electrons) * normal()) * plateScale + plateOffset));
    }
  return { width, height, data };
}
/** A sky that goes from dark to light, under dust. */
function sky(seed: number, dust: readonly Mote[], electrons?: number): Plate {
  const light = new Float32Array(width * height * 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      for (let c = 0; c < 3; c++)
        light[(y * width + x) * 3 + c] = 0.15 + 0.35 * (y / height) + 0.06 * Math.sin((x + 80 * seed) / 190) + 0.05 * c;
  return noisy(underDust(light, width, height, dust), seeded(seed), electrons);
}
/** A plastered wall in light that falls off, with what lies on it. */
function wall(on: Parameters<typeof blemished>[3], dust: readonly Mote[] = [], electrons = 48000): Plate {
  const random = seeded(9),
    light = new Float32Array(width * height * 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const grain = Math.sin(x * 0.37 + 3 * Math.sin(y * 0.021)) * Math.sin(y * 0.41 + 2 * Math.sin(x * 0.017)),
        v = (0.42 - 0.2 * (x / width)) * (1 + 0.012 * grain + 0.03 * Math.sin(x / 140 + y / 170));
      for (let c = 0; c < 3; c++) light[(y * width + x) * 3 + c] = v * [1, 0.92, 0.8][c]!;
    }
  return noisy(underDust(blemished(light, width, height, on), width, height, dust), random, electrons);
}
const difference = differenceCiede2000();
/** Mean CIEDE2000 of two plates within shapes, their numbers taken as linear sRGB light. */
function apart(a: Plate, b: Plate, shapes: readonly Shape[]): number {
  const n = width * height,
    colourOf = (p: Plate, i: number): { mode: 'lrgb'; r: number; g: number; b: number } => {
      const [r, g, bl] = [0, 1, 2].map((c) => (p.data[c * n + i]! - plateOffset) / plateScale) as [number, number, number];
      return { mode: 'lrgb', r, g, b: bl };
    };
  let [sum, count] = [0, 0];
  for (const shape of shapes) {
    const { box, alpha } = coverOf(shape, a)!;
    alpha.forEach((v, k) => {
      if (v === 0) return;
      const i = (box.y + Math.floor(k / box.width)) * width + box.x + (k % box.width);
      sum += difference(colourOf(a, i), colourOf(b, i));
      count++;
    });
  }
  return sum / count;
}
/** Shapes healed in a plate, their sources found for themselves; those with none are left. */
function heal(plate: Plate, shapes: readonly Shape[]): Shape[] {
  const repairs = shapes.flatMap((shape, i): Repair[] => {
    const at = findSource(pieceOf(plate, soughtIn(shape, plate)!), plate, shape, 'heal');
    return at ? [{ id: String(i), kind: 'heal', on: true, shape, source: straightFrom(at.dx, at.dy) }] : [];
  });
  repairPlate(kernels, plate, repairs);
  return repairs.map((r) => r.shape);
}
const spotOn = (s: { x: number; y: number; radius: number }): Shape => ({
  kind: 'spot',
  x: s.x,
  y: s.y,
  radius: s.radius * 1.25,
  feather: 0.35,
});
const hits = (s: { x: number; y: number }, m: Mote): boolean =>
    Math.hypot((s.x - m.x) * width, (s.y - m.y) * height) < m.radius * edge * 0.8,
  dust = motes(24, 3);

describe('dust', () => {
  it('on a clean sky and on a wall nine of ten specks are found, and nine of ten found are specks', () => {
    for (const plate of [sky(1, dust), wall({}, dust, 12000)]) {
      const found = specksIn(plate),
        right = found.filter((s) => dust.some((m) => hits(s, m))).length,
        seen = dust.filter((m) => found.some((s) => hits(s, m))).length;
      expect(seen / dust.length).toBeGreaterThanOrEqual(0.9);
      expect(right / found.length).toBeGreaterThanOrEqual(0.9);
    }
    expect(specksIn(sky(2, [])).length).toBeLessThanOrEqual(1);
  });
  it('across frames only what lies at one place of the sensor is dust, and it is said in which frames it shows', () => {
    const some = (seed: number): Speck[] => specksIn(sky(seed, seed === 4 ? [] : dust), sharedLeast),
      shared = sharedSpecks([some(5), some(6), some(4), some(7)], { width, height });
    expect(shared.length).toBeGreaterThanOrEqual(Math.ceil(dust.length * 0.9));
    for (const s of shared) expect(dust.some((m) => hits(s, m))).toBe(true);
    expect(shared.filter((s) => s.frames.includes(2)).length).toBe(0);
  });
  it('healed with sources found for themselves, the sky is as it was without dust: mean CIEDE2000 under 1', () => {
    // at ISO 100; the noise of two pictures alone is half a unit apart
    const dusty = sky(1, dust, 48000),
      clean = sky(1, [], 48000),
      found = specksIn(dusty).map(spotOn),
      before = apart(dusty, clean, found),
      healed = heal(dusty, found);
    expect(healed.length).toBe(found.length);
    expect(before).toBeGreaterThan(0.7);
    expect(apart(dusty, clean, healed)).toBeLessThan(1);
  });
});

describe('marks and wires on a wall', () => {
  it('healed, the wall is as it was without them: mean CIEDE2000 under 1, and nothing else is changed', () => {
    const stains = marks(12, 4).filter((m, i, all) => all.slice(0, i).every((o) => Math.hypot(o.x - m.x, o.y - m.y) > 0.06)),
      across = wires(2, 4),
      blemishedWall = wall({ marks: stains, wires: across }),
      was = Uint16Array.from(blemishedWall.data),
      clean = wall({}),
      shapes: Shape[] = [
        ...stains.map((m): Shape => ({ kind: 'spot', x: m.x, y: m.y, radius: m.radius + 4 / edge, feather: 0.15 })),
        ...across.map((w): Shape => ({ kind: 'line', points: w.points, radius: w.radius + 4 / edge, feather: 0.15 })),
      ],
      before = apart(blemishedWall, clean, shapes),
      healed = heal(blemishedWall, shapes);
    expect(healed.length).toBe(shapes.length);
    expect(before).toBeGreaterThan(5);
    expect(apart(blemishedWall, clean, shapes)).toBeLessThan(1);
    const covered = new Uint8Array(width * height);
    for (const shape of shapes) {
      const { box, alpha } = coverOf(shape, clean)!;
      alpha.forEach((v, k) => {
        if (v > 0) covered[(box.y + Math.floor(k / box.width)) * width + box.x + (k % box.width)] = 1;
      });
    }
    expect(was.every((v, i) => covered[i % (width * height)] === 1 || v === blemishedWall.data[i])).toBe(true);
  });
});
