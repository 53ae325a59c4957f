import { describe, expect, it } from 'vitest';
import { seeded } from '@dyepot/camera/src/random.ts';
import { coverOf } from '../src/repair/cover.ts';
import { fillHole } from '../src/repair/fill.ts';
import { solveMembrane } from '../src/repair/membrane.ts';
import { mend, pieceOf, readsOf, repairPlate } from '../src/repair/mend.ts';
import { straightFrom, type Repair, type Shape } from '../src/repair/repairs.ts';
import { validateRepairs } from '../src/repair/schema.ts';
import { halvePlate, type Plate } from '../src/plate/plate.ts';
import { kernels } from './kernels.ts';

const [width, height] = [320, 208];
const plateOf = (at: (x: number, y: number, c: number) => number): Plate => {
  const data = new Uint16Array(width * height * 3);
  for (let c = 0; c < 3; c++)
    for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) data[(c * height + y) * width + x] = at(x, y, c);
  return { width, height, data };
};
const wool = (): ((x: number, y: number, c: number) => number) => {
  const random = seeded(4),
    noise = Float32Array.from({ length: width * height * 3 }, () => random() - 0.5);
  return (x, y, c) => Math.round(12000 + 4000 * c + 1500 * Math.sin(x / 9) * Math.cos(y / 7) + 900 * noise[(c * height + y) * width + x]!);
};
const spot: Shape = { kind: 'spot', x: 0.3, y: 0.5, radius: 0.06, feather: 0.3 };
const repair = (over: Partial<Repair>): Repair => ({ id: 'a', kind: 'heal', on: true, shape: spot, source: straightFrom(0.4, 0), ...over });
const copy = (p: Plate): Plate => ({ ...p, data: Uint16Array.from(p.data) });
const done = (plate: Plate, ...repairs: Repair[]): Plate => {
  const out = copy(plate);
  repairPlate(kernels, out, repairs);
  return out;
};

describe('a membrane', () => {
  it('is the dense double-precision solution of Laplace’s equation, within a third of a plate number', () => {
    const [w, h] = [17, 14],
      random = seeded(8),
      inside = Uint8Array.from({ length: w * h }, (_, i) => (Math.hypot((i % w) - 8, Math.floor(i / w) - 6) < 5.4 ? 1 : 0)),
      value = Float32Array.from({ length: w * h }, (_, i) => (inside[i] ? 0 : 1000 * random())),
      places = [...inside.keys()].filter((i) => inside[i]);
    // Gauss’ elimination of 4v − neighbours = what is known beside it
    const rows = places.map((i) => {
      const row = new Float64Array(places.length + 1);
      row[places.indexOf(i)] = 4;
      for (const k of [i - 1, i + 1, i - w, i + w]) {
        if (inside[k]) row[places.indexOf(k)]! -= 1;
        else row[places.length]! += value[k]!;
      }
      return row;
    });
    for (let p = 0; p < rows.length; p++)
      for (let q = 0; q < rows.length; q++) {
        if (q === p) continue;
        const f = rows[q]![p]! / rows[p]![p]!;
        if (f !== 0) for (let k = p; k <= rows.length; k++) rows[q]![k]! -= f * rows[p]![k]!;
      }
    solveMembrane(kernels, { width: w, height: h, inside }, [value]);
    places.forEach((i, p) => expect(Math.abs(value[i]! - rows[p]![places.length]! / rows[p]![p]!)).toBeLessThan(0.3));
  });
  it('over 200 pixels meets its border and has next to no bend inside', () => {
    const n = 204,
      inside = Uint8Array.from({ length: n * n }, (_, i) => (Math.hypot((i % n) - 102, Math.floor(i / n) - 102) < 100 ? 1 : 0)),
      value = Float32Array.from({ length: n * n }, (_, i) => (inside[i] ? 0 : 40 * (i % n) - 25 * Math.floor(i / n)));
    solveMembrane(kernels, { width: n, height: n, inside }, [value]);
    // a slope is its own membrane
    for (let i = 0; i < n * n; i++) expect(Math.abs(value[i]! - (40 * (i % n) - 25 * Math.floor(i / n)))).toBeLessThan(2);
  });
});

describe('a repair', () => {
  it('heals exactly where the source is the place but for a constant', () => {
    const texture = wool(),
      clean = plateOf((x, y, c) => texture(x % 128, y, c) + (x >= 128 ? 3000 : 0)),
      dirty = copy(clean);
    for (let c = 0; c < 3; c++)
      for (let y = 98; y < 110; y++) for (let x = 90; x < 102; x++) dirty.data[(c * height + y) * width + x] = 500;
    const mended = done(dirty, repair({ source: straightFrom(128 / width, 0) }));
    expect(mended.data.reduce((most, v, i) => Math.max(most, Math.abs(v - clean.data[i]!)), 0)).toBeLessThanOrEqual(1);
  });
  it('clones what is there, whole pixels as they are, and half of it at half the feather', () => {
    const plate = plateOf(wool()),
      mended = done(plate, repair({ kind: 'clone' })),
      at = (p: Plate, x: number, y: number): number => p.data[y * width + x]!;
    expect(at(mended, 96, 104)).toBe(at(plate, 96 + 128, 104));
    const { box, alpha } = coverOf(spot, plate)!;
    for (let i = 0; i < alpha.length; i++) {
      const [x, y] = [box.x + (i % box.width), box.y + Math.floor(i / box.width)],
        want = at(plate, x, y) + alpha[i]! * (at(plate, x + 128, y) - at(plate, x, y));
      expect(Math.abs(at(mended, x, y) - want)).toBeLessThanOrEqual(0.5001);
    }
  });
  it('changes nothing outside its shape, at any size: the smaller levels are the mended picture made smaller', () => {
    const plate = plateOf(wool()),
      all = [
        repair({
          shape: {
            kind: 'line',
            points: [
              [0.1, 0.1],
              [0.5, 0.35],
              [0.52, 0.8],
            ],
            radius: 0.02,
            feather: 1,
          },
          source: straightFrom(0.2, 0.1),
        }),
        repair({
          kind: 'fill',
          source: null,
          shape: {
            kind: 'outline',
            points: [
              [0.7, 0.2, 0.01],
              [0.9, 0.3, 0],
              [0.8, 0.6, 0.03],
            ],
          },
        }),
      ],
      mended = done(plate, ...all),
      covered = new Uint8Array(width * height);
    for (const r of all) {
      const { box, alpha } = coverOf(r.shape, plate)!;
      alpha.forEach((a, i) => {
        if (a > 0) covered[(box.y + Math.floor(i / box.width)) * width + box.x + (i % box.width)] = 1;
      });
      expect([box.x % 16, box.y % 16]).toEqual([0, 0]);
      const piece = mend(
          kernels,
          r,
          plate,
          pieceOf(plate, readsOf(r, plate)!.near),
          readsOf(r, plate)!.far && pieceOf(plate, readsOf(r, plate)!.far!),
        )!,
        small = halvePlate(kernels, { width: piece.width, height: piece.height, data: piece.data });
      const wholeSmall = halvePlate(kernels, done(plate, r));
      for (let y = 0; y < small.height; y++)
        for (let x = 0; x < small.width; x++)
          expect(small.data[y * small.width + x]).toBe(wholeSmall.data[(y + piece.y / 2) * wholeSmall.width + x + piece.x / 2]);
    }
    for (let c = 0; c < 3; c++)
      for (let i = 0; i < width * height; i++)
        if (!covered[i]) expect(mended.data[c * width * height + i]).toBe(plate.data[c * width * height + i]);
    expect(mended.data).not.toEqual(plate.data);
  });
  it('a turned and mirrored source is taken from where it says', () => {
    const plate = plateOf((x, y) => 100 * x + y),
      mended = done(plate, repair({ kind: 'clone', source: { dx: 0.4, dy: 0, turn: 90, mirror: true, scale: 1 } })),
      at = (x: number, y: number): number => mended.data[y * width + x]!;
    // mirrored, then turned clockwise: right becomes up
    expect(at(96 + 4, 104) - at(96, 104)).toBe(4);
    expect(at(96, 104 + 4) - at(96, 104)).toBe(400);
  });
  it('a source over the edge is taken as near to it as it fits', () => {
    const plate = plateOf(wool()),
      far = done(plate, repair({ kind: 'clone', source: straightFrom(1, 0) })),
      { box } = coverOf(spot, plate)!;
    expect(far.data[104 * width + 96]).toBe(plate.data[104 * width + 96 + (width - box.x - box.width)]);
  });
  it('a fill goes on with a pattern: stripes meet their own across the hole', () => {
    const plate = plateOf((x) => (Math.floor(x / 8) % 2 === 0 ? 9000 : 30000)),
      shape: Shape = { kind: 'spot', x: 0.5, y: 0.5, radius: 0.08, feather: 0.2 },
      dirty = copy(plate);
    for (let c = 0; c < 3; c++)
      for (let y = 88; y < 120; y++)
        for (let x = 144; x < 176; x++) if (Math.hypot(x - 160, y - 104) < 15) dirty.data[(c * height + y) * width + x] = 60000;
    const mended = done(dirty, repair({ kind: 'fill', source: null, shape }));
    let wrong = 0;
    for (let i = 0; i < width * height; i++) if (Math.abs(mended.data[i]! - plate.data[i]!) > 4000) wrong++;
    expect(wrong).toBeLessThan(40);
    // what fills is taken whole from somewhere: noise stays noise
    const reads = readsOf(repair({ kind: 'fill', source: null, shape }), dirty)!,
      filled = fillHole(kernels, pieceOf(dirty, reads.near), coverOf(shape, dirty)!);
    for (const v of filled[0]!) expect([9000, 30000]).toContain(v);
  });
});

describe('an outline', () => {
  it('covers its inside, and rises from each edge over the feather of the nearest place on it', () => {
    const { box, alpha } = coverOf(
        {
          kind: 'outline',
          points: [
            [0.2, 0.2, 0],
            [0.8, 0.2, 0],
            [0.8, 0.8, 0.05],
            [0.2, 0.8, 0.05],
          ],
        },
        { width, height },
      )!,
      at = (x: number, y: number): number => alpha[(y - box.y) * box.width + x - box.x]!;
    expect([at(160, 104), at(160, 44), at(160, 40)]).toEqual([1, 1, 0]);
    // 8 pixels of the 16 the feather is wide: t²(3 − 2t) at a half
    expect(at(160, 166 - 8)).toBeCloseTo(0.5, 1);
    expect(at(160, 164)).toBeLessThan(0.1);
  });
});

describe('bad repairs', () => {
  const said = (r: object): string => {
    const answer = validateRepairs({
      format: 'dyepot-repairs',
      version: 1,
      repairs: [{ id: 'a', kind: 'heal', on: true, shape: spot, source: straightFrom(0.1, 0), ...r }],
    });
    return 'message' in answer ? answer.message : 'taken';
  };
  it('are refused with a sentence that says which', () => {
    expect(said({})).toBe('taken');
    expect(said({ shape: { ...spot, x: Number.NaN } })).toMatch(/^repair 1: /);
    expect(said({ shape: { ...spot, x: 1.2 } })).toMatch(/less than or equal to 1/);
    expect(said({ source: null })).toMatch(/^repair 1: /);
    expect(said({ kind: 'wish' })).toMatch(/must be one of/);
    expect(said({ shape: { kind: 'blob' } })).toMatch(/^repair 1: /);
    expect(
      said({
        kind: 'fill',
        source: null,
        shape: {
          kind: 'outline',
          points: [
            [0.1, 0.1, 0],
            [0.5, 0.1, 0],
            [0.3, 0.6, 0],
          ],
        },
      }),
    ).toMatch(/^repair 1: a fill may be 15 %/);
    const large = validateRepairs({
      format: 'dyepot-repairs',
      version: 1,
      repairs: Array.from({ length: 200 }, (_, i) => ({
        id: String(i),
        kind: 'heal',
        on: true,
        shape: { kind: 'spot', x: 0.5, y: 0.5, radius: 0.25 },
        source: straightFrom(0.1, 0),
      })),
    });
    expect(large).toEqual({ message: 'all repairs together cover the picture 50 times; at most 20 times is done' });
    const many = validateRepairs({ format: 'dyepot-repairs', version: 1, repairs: Array.from({ length: 100_000 }, () => ({})) });
    expect(many).toEqual({ message: 'there are 100000 repairs; at most 5000 fit' });
  });
});
