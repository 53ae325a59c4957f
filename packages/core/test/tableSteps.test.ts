import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Vector3 } from '../src/colour/matrix.ts';
import { applyTable, readStoredTable, storeTable, table3d, type Rgb } from '../src/colour/table.ts';
import { sendThrough } from '../src/plan/dyestrip.ts';
import { emptyLook, newStep } from '../src/look/look.ts';
import { validateLook } from '../src/look/schema.ts';
import { lookPasses } from '../src/plan/plan.ts';
import { decodeFrom, encodeFor } from '../src/steps/lookup/index.ts';
import { kernels } from './kernels.ts';
import { step, one, close, samples, own, turned } from './stepTrial.ts';
import { oklabToRec2020 } from '../src/colour/oklab.ts';

describe('lookup tables in a look', () => {
  it('the cube is read tetrahedrally: the kernel and the double-precision form agree', () => {
    const table = table3d('t', 9, ([r, g, b]) => [r * r, Math.sqrt(g), (r + b) / 2 - 0.1 * g]),
      s = step('tablePrint', { table: storeTable(table), encoding: 'linear' });
    fc.assert(
      fc.property(fc.array(fc.double({ min: -0.2, max: 1.3, noNaN: true }), { minLength: 3, maxLength: 3 }), (c) =>
        close(one(s, c as unknown as Vector3), applyTable(table, c as unknown as Rgb), 2e-6),
      ),
      { numRuns: 300 },
    );
  });
  it('an identity table changes nothing, in sRGB, at any strength; strength goes along the change', () => {
    const identity = table3d('i', 17, (c) => c),
      grey = table3d('g', 17, ([r, g, b]) => {
        const y = (r + g + b) / 3;
        return [y, y, y];
      });
    for (const c of samples.slice(0, 5)) close(one(step('tablePrint', { table: storeTable(identity) }), c), c, 3e-4);
    const half = encodeFor('srgb', one(step('tablePrint', { table: storeTable(grey) }, 0.5), samples[0]!)),
      full = encodeFor('srgb', one(step('tablePrint', { table: storeTable(grey) }), samples[0]!)),
      none = encodeFor('srgb', samples[0]!);
    close(
      half,
      none.map((v, i) => (v + full[i]!) / 2),
      2e-3,
    );
  });
  it('an identity table leaves colours beyond sRGB their hue and most of their chroma: they are drawn in, not cut off', () => {
    const identity = step('tablePrint', { table: storeTable(table3d('same', 17, (c) => c)) });
    for (let h = 0; h < 360; h += 15) {
      const a = (h * Math.PI) / 180,
        vivid = oklabToRec2020([0.6, 0.26 * Math.cos(a), 0.26 * Math.sin(a)]),
        out = own(one(identity, vivid));
      expect(Math.abs(turned(out.h, h)), `at ${h}°`).toBeLessThan(1.5);
      expect(out.l).toBeCloseTo(0.6, 1);
      expect(out.c).toBeGreaterThan(0.08);
    }
  });
  it('ACEScct there and back (S-2016-001), and its published value of 0.18: 0.4135884', () => {
    for (const c of [
      [0.18, 0.18, 0.18],
      [0.001, 0.01, 4],
    ] as const)
      close(decodeFrom('acescct', encodeFor('acescct', c)), c, 1e-9);
    expect(encodeFor('acescct', [0.18, 0.18, 0.18])[1]).toBeCloseTo(0.4135884, 4);
  });
  it('a stock without a table is the plain neutral response, nearly', () => {
    const mild: Vector3[] = [
        [0.18, 0.18, 0.18],
        [0.3, 0.25, 0.2],
        [0.06, 0.08, 0.1],
        [0.9, 0.9, 0.8],
      ],
      plain = sendThrough(kernels, lookPasses(null), mild),
      look = { ...emptyLook('t'), stock: newStep('tableStock', 'stock') };
    expect(validateLook(look)).toMatchObject({ look: { stock: { kind: 'tableStock' } } });
    sendThrough(kernels, lookPasses(look), mild).forEach((c, i) => close(encodeFor('srgb', c), encodeFor('srgb', plain[i]!), 0.02));
  });
  it('a table cut short or holding no numbers is refused in words', () => {
    const stored = storeTable(table3d('t', 5, (c) => c));
    expect(readStoredTable({ ...stored, base64: stored.base64.slice(0, 40) })).toEqual({ message: 'the table’s numbers are cut short' });
    expect(readStoredTable({ ...stored, size: 1e6 })).toMatchObject({ message: expect.stringContaining('size') as string });
    expect(readStoredTable({ ...stored, domainMax: [0, 1, 1] })).toMatchObject({ message: expect.stringContaining('upward') as string });
    expect(
      JSON.stringify(
        validateLook({
          ...emptyLook('t'),
          print: [{ ...newStep('tablePrint', 'a'), params: { table: { ...stored, base64: '!!' }, encoding: 'srgb' } }],
        }),
      ),
    ).toContain('base64');
  });
});
