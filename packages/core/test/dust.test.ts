import { describe, expect, it } from 'vitest';
import { motes, underDust, type Mote } from '@dyepot/camera/src/dust.ts';
import { seeded } from '@dyepot/camera/src/random.ts';
import { sharedSpecks, sharedLeast, specksIn, type Speck } from '../src/repair/dust.ts';
import { repairPlate } from '../src/repair/mend.ts';
import { straightFrom } from '../src/repair/repairs.ts';
import { findSource, soughtIn } from '../src/repair/source.ts';
import { pieceOf } from '../src/repair/mend.ts';
import { plateOffset, plateScale, type Plate } from '../src/plate/plate.ts';

const [width, height] = [1200, 800],
  edge = width;
/** A plate of a sky that goes from dark to light, under dust, with the noise of ISO 400 (shot noise of 12,000 electrons at white). */
function sky(seed: number, dust: readonly Mote[]): Plate {
  const random = seeded(seed),
    light = new Float32Array(width * height * 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      for (let c = 0; c < 3; c++)
        light[(y * width + x) * 3 + c] = 0.15 + 0.35 * (y / height) + 0.06 * Math.sin((x + 80 * seed) / 190) + 0.05 * c;
  const seen = underDust(light, width, height, dust),
    data = new Uint16Array(width * height * 3),
    normal = (): number => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  for (let i = 0; i < width * height; i++)
    for (let c = 0; c < 3; c++) {
      const v = seen[i * 3 + c]!;
      data[c * width * height + i] = Math.max(0, Math.round((v + Math.sqrt(v / 12000) * normal()) * plateScale + plateOffset));
    }
  return { width, height, data };
}
const hits = (s: { x: number; y: number }, m: Mote): boolean =>
    Math.hypot((s.x - m.x) * width, (s.y - m.y) * height) < m.radius * edge * 0.8,
  dust = motes(24, 3);

describe('dust', () => {
  it('on a clean sky nine of ten specks are found, and nine of ten found are specks', () => {
    const found = specksIn(sky(1, dust)),
      right = found.filter((s) => dust.some((m) => hits(s, m))).length,
      seen = dust.filter((m) => found.some((s) => hits(s, m))).length;
    expect(seen / dust.length).toBeGreaterThanOrEqual(0.9);
    expect(right / found.length).toBeGreaterThanOrEqual(0.9);
    expect(specksIn(sky(2, [])).length).toBeLessThanOrEqual(1);
  });
  it('across frames only what lies at one place of the sensor is dust, and it is said in which frames it shows', () => {
    const some = (seed: number): Speck[] => specksIn(sky(seed, seed === 4 ? [] : dust), sharedLeast),
      shared = sharedSpecks([some(5), some(6), some(4), some(7)], { width, height });
    expect(shared.length).toBeGreaterThanOrEqual(Math.ceil(dust.length * 0.9));
    for (const s of shared) expect(dust.some((m) => hits(s, m))).toBe(true);
    expect(shared.filter((s) => s.frames.includes(2)).length).toBe(0);
  });
  it('healed with sources found for themselves, the sky is within a code or two of one without dust', () => {
    const dusty = sky(1, dust),
      clean = sky(1, []),
      repairs = specksIn(dusty).flatMap((s, i) => {
        const shape = { kind: 'spot' as const, x: s.x, y: s.y, radius: s.radius * 1.25, feather: 0.35 },
          at = findSource(pieceOf(dusty, soughtIn(shape, dusty)!), dusty, shape, 'heal');
        return at ? [{ id: String(i), kind: 'heal' as const, on: true, shape, source: straightFrom(at.dx, at.dy) }] : [];
      });
    repairPlate(dusty, repairs);
    for (const m of dust.filter((d) => repairs.some((r) => hits(r.shape, d)))) {
      let [sum, want, n] = [0, 0, 0];
      const r = m.radius * edge * 0.5;
      for (let y = Math.ceil(m.y * height - r); y < m.y * height + r; y++)
        for (let x = Math.ceil(m.x * width - r); x < m.x * width + r; x++) {
          const i = width * height + y * width + x;
          sum += dusty.data[i]! - plateOffset;
          want += clean.data[i]! - plateOffset;
          n++;
        }
      // a tenth of an L* at these tones
      if (n > 12) expect(Math.abs(sum / want - 1)).toBeLessThan(0.03);
    }
  });
});
