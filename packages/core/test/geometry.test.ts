import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { invert3 } from '../src/colour/matrix.ts';
import { drawingOf, drawPlate } from '../src/plan/draw.ts';
import { fillScale, through, viewAtLevel, viewOf } from '../src/groundwork/geometry.ts';
import type { Groundwork } from '../src/groundwork/groundwork.ts';
import { usualNoise } from '../src/groundwork/noise.ts';
import { plateOffset, plateScale, turn, type Plate } from '../src/plate/plate.ts';
import { kernels } from './kernels.ts';
import { type DrawnLine, beforeRighting, rightedBy } from '../src/groundwork/righting.ts';
import { sourceArea, warpPlate } from '../src/groundwork/resample.ts';
import { platter, geometry } from './groundTrial.ts';

describe('geometry', () => {
  const photo = platter(96, 64, (x, y, c) => 0.2 + 0.3 * Math.sin(x * 0.3 + c) * Math.cos(y * 0.21) + 0.001 * x);
  const draw = (g: Groundwork, plate = photo): Plate => {
    const d = drawingOf(g, { ...plate, noise: usualNoise(100) }, 0, null),
      { source } = d;
    return drawPlate(kernels, d, { width: source.width, height: source.height, data: cut(plate, source) });
  };
  const cut = (p: Plate, a: { x: number; y: number; width: number; height: number }): Uint16Array => {
    const out = new Uint16Array(a.width * a.height * 3);
    for (let c = 0; c < 3; c++)
      for (let y = 0; y < a.height; y++)
        for (let x = 0; x < a.width; x++) out[(c * a.height + y) * a.width + x] = p.data[(c * p.height + y + a.y) * p.width + x + a.x]!;
    return out;
  };
  it('quarter turns and flips only move pixels: four turns and two flips are the picture again', () => {
    for (const quarterTurns of [1, 2, 3] as const)
      expect(Buffer.from(draw(geometry({ quarterTurns })).data.buffer).equals(Buffer.from(turn(photo, quarterTurns).data.buffer))).toBe(
        true,
      );
    expect(draw(geometry({ flipX: true })).data[0]).toBe(photo.data[95]);
    expect(draw(geometry({ flipY: true })).data[0]).toBe(photo.data[63 * 96]);
    expect(drawingOf(geometry({}), { ...photo, noise: usualNoise(100) }, 0, null).view).toBe(null);
  });
  it('a crop keeps the very pixels it holds', () => {
    const out = draw(geometry({ crop: { x: 0.25, y: 0.25, width: 0.5, height: 0.5 } }));
    expect([out.width, out.height]).toEqual([48, 32]);
    for (let y = 0; y < 32; y++) for (let x = 0; x < 48; x++) expect(out.data[y * 48 + x]).toBe(photo.data[(y + 16) * 96 + x + 24]);
  });
  it('straightened by an angle, the frame is filled and no more: the published largest rectangle of the same shape', () => {
    for (const a of [1, 5, 20, 45]) {
      const t = (a * Math.PI) / 180,
        expected = Math.max(Math.cos(t) + (96 / 64) * Math.sin(t), Math.cos(t) + (64 / 96) * Math.sin(t));
      expect(fillScale(geometry({ straighten: a }).geometry, 96, 64)).toBeCloseTo(expected, 6);
      expect(fillScale(geometry({ straighten: -a }).geometry, 64, 96)).toBeCloseTo(expected, 6);
    }
  });
  it('a checkerboard turned by an angle and straightened is straight again to within 0.3 px', () => {
    const angle = 7,
      t = (angle * Math.PI) / 180,
      size = 320,
      soft = (v: number): number => 0.5 + 0.5 * Math.tanh(Math.sin((v * Math.PI) / 40) * 12),
      board = platter(size, size, (x, y) => {
        const u = x + 0.5 - 160,
          v = y + 0.5 - 160,
          s = u * Math.cos(t) + v * Math.sin(t),
          w = -u * Math.sin(t) + v * Math.cos(t);
        return 0.1 + 0.6 * Math.abs(soft(s) - soft(w));
      });
    const out = draw(geometry({ straighten: -angle }), board),
      place = (y: number, from: number): number => {
        for (let x = from; x < out.width - 1; x++) {
          const a = out.data[y * out.width + x]! - (0.4 * plateScale + plateOffset),
            b = out.data[y * out.width + x + 1]! - (0.4 * plateScale + plateOffset);
          if (a * b < 0) return x + a / (a - b);
        }
        return NaN;
      };
    const scale = fillScale(geometry({ straighten: -angle }).geometry, size, size),
      rows = [20, 60, 100, 140, 180]
        .map((r) => Math.round(160 + (r - 160) * 1))
        .filter((y) => Math.abs(Math.sin((((y + 0.5 - 160) / scale) * Math.PI) / 40)) > 0.4),
      crossings = rows.map((y) => place(y, 150));
    expect(rows.length).toBeGreaterThan(2);
    for (const c of crossings) expect(Math.abs(c - crossings[0]!)).toBeLessThan(0.3);
  });
  it('verticals that lean together come out upright: a line through the homography and back', () => {
    const view = viewOf(geometry({ vertical: 40 }).geometry, 200, 100),
      [ax] = through(view.toSource, 50, 5),
      [bx] = through(view.toSource, 50, 95),
      [mx] = through(view.toSource, 100, 5),
      [nx] = through(view.toSource, 100, 95);
    expect(mx).toBeCloseTo(nx, 6);
    expect(Math.abs(ax - bx)).toBeGreaterThan(3);
    for (const [x, y] of [
      [0, 0],
      [view.width, 0],
      [0, view.height],
      [view.width, view.height],
    ] as const) {
      const [sx, sy] = through(view.toSource, x, y);
      expect(sx).toBeGreaterThan(-1e-6);
      expect(sx).toBeLessThan(200 + 1e-6);
      expect(sy).toBeGreaterThan(-1e-6);
      expect(sy).toBeLessThan(100 + 1e-6);
    }
  });
  it('two lines that should be upright come out upright, two that should be level come out level, and both pairs together', () => {
    const own = geometry({ straighten: 2, vertical: 10 }).geometry,
      [w, h] = [900, 600],
      upright = [
        { from: [200, 80], to: [170, 520], way: 'upright' },
        { from: [700, 90], to: [742, 530], way: 'upright' },
      ] as const,
      level = [
        { from: [100, 150], to: [800, 120], way: 'level' },
        { from: [90, 500], to: [810, 522], way: 'level' },
      ] as const;
    for (const lines of [upright, level, [...upright, ...level]]) {
      const found = rightedBy(lines as readonly DrawnLine[], own, w, h)!,
        view = viewOf({ ...own, ...found }, w, h),
        back = invert3(view.toSource);
      for (const l of lines as readonly DrawnLine[]) {
        const [a, b] = through(back, ...l.from),
          [c, d] = through(back, ...l.to),
          off = l.way === 'upright' ? Math.atan2(c - a, d - b) : Math.atan2(d - b, c - a);
        // four lines ask for more than three numbers can give
        expect(Math.abs((off * 180) / Math.PI)).toBeLessThan(lines.length === 4 ? 1.2 : 0.02);
      }
    }
    expect(
      rightedBy(
        [
          { from: [100, 0], to: [400, 300], way: 'upright' },
          { from: [800, 0], to: [500, 300], way: 'upright' },
        ],
        own,
        w,
        h,
      ),
    ).toBe(null);
  });
  it('a place of the righted picture is found where it was before', () => {
    const g = geometry({ straighten: 5, horizontal: 20, quarterTurns: 1 }).geometry,
      view = viewOf(g, 900, 600),
      [x, y] = beforeRighting(g, 900, 600, null, 120, 333),
      [u, v] = through(view.toSource, 120, 333);
    // turned clockwise by a quarter
    expect(x).toBeCloseTo(600 - v, 6);
    expect(y).toBeCloseTo(u, 6);
  });
  it.each([
    ['fine detail, a period of 3.5 px', 1.8],
    ['broad shapes, a period of 14 px', 0.45],
  ] as const)('resampling beside libvips, a known picture turned by 4°: %s', (_, f) => {
    const work = mkdtempSync(join(tmpdir(), 'dyepot-vips-')),
      size = 256,
      wave = (x: number, y: number): number => 0.4 + 0.16 * Math.sin(x * f + 0.3) + 0.14 * Math.cos(y * f * 0.9),
      board = platter(size, size, wave);
    writeFileSync(
      join(work, 'in.pgm'),
      Buffer.concat([
        Buffer.from(`P5\n${size} ${size}\n65535\n`),
        Buffer.from(Uint16Array.from(board.data.subarray(0, size * size)).buffer).swap16(),
      ]),
    );
    const own = geometry({ straighten: 4 }),
      view = viewOf(own.geometry, size, size),
      out = draw(own, board),
      m = invert3(view.toSource);
    // vips affine places pixel (0, 0) at its corner: half a pixel is put back by hand
    const matrix = [m[0], m[1], m[3], m[4]].map((v) => v.toFixed(12)).join(' '),
      odx = m[2] + 0.5 * (m[0] + m[1]) - 0.5,
      ody = m[5] + 0.5 * (m[3] + m[4]) - 0.5,
      errorOf = (at: (x: number, y: number) => number): number => {
        let sum = 0,
          n = 0;
        for (let y = 30; y < size - 30; y++)
          for (let x = 30; x < size - 30; x++) {
            const [u, v] = through(view.toSource, x + 0.5, y + 0.5);
            sum += (at(x, y) - wave(u - 0.5, v - 0.5)) ** 2;
            n++;
          }
        return Math.sqrt(sum / n);
      };
    const theirs = ['nohalo', 'bicubic'].map((kernel) => {
        execFileSync('vips', [
          'affine',
          join(work, 'in.pgm'),
          join(work, `${kernel}.v`),
          matrix,
          '--interpolate',
          kernel,
          '--oarea',
          `0 0 ${size} ${size}`,
          '--odx',
          String(odx),
          '--ody',
          String(ody),
        ]);
        execFileSync('vips', ['rawsave', join(work, `${kernel}.v`), join(work, `${kernel}.raw`)]);
        const raw = readFileSync(join(work, `${kernel}.raw`)),
          values = new Uint16Array(raw.buffer, raw.byteOffset, size * size);
        return errorOf((x, y) => (values[y * size + x]! - plateOffset) / plateScale);
      }),
      ours = errorOf((x, y) => (out.data[y * size + x]! - plateOffset) / plateScale);
    console.log(
      `resampling, rms error: ours ${ours.toExponential(2)}, libvips nohalo ${theirs[0]!.toExponential(2)}, bicubic ${theirs[1]!.toExponential(2)}`,
    );
    // Lanczos keeps fine detail where shorter kernels lose it; on broad shapes all are nearly exact
    if (f > 1) expect(ours).toBeLessThan(Math.min(...theirs) / 2);
    else for (const v of [ours, ...theirs]) expect(v).toBeLessThan(4e-3);
  });
  it('resampling is Lanczos’ (formula), and a piece equals that piece of the whole', () => {
    const view = viewOf(geometry({ straighten: 3 }).geometry, 96, 64),
      lanczos = (x: number): number =>
        x === 0 ? 1 : Math.abs(x) >= 3 ? 0 : (3 * Math.sin(Math.PI * x) * Math.sin((Math.PI * x) / 3)) / (Math.PI * x) ** 2,
      out = draw(geometry({ straighten: 3 }));
    for (const [x, y] of [
      [10, 10],
      [48, 30],
      [80, 55],
    ] as const) {
      const [sx, sy] = through(view.toSource, x + 0.5, y + 0.5).map((v) => v - 0.5) as [number, number];
      let sum = 0,
        weight = 0;
      for (let j = Math.floor(sy) - 2; j <= Math.floor(sy) + 3; j++)
        for (let i = Math.floor(sx) - 2; i <= Math.floor(sx) + 3; i++) {
          const k = lanczos(sx - i) * lanczos(sy - j),
            at = Math.min(63, Math.max(0, j)) * 96 + Math.min(95, Math.max(0, i));
          sum += k * photo.data[at]!;
          weight += k;
        }
      expect(Math.abs(out.data[y * out.width + x]! - sum / weight)).toBeLessThan(60);
    }
    const area = { x: 20, y: 12, width: 30, height: 22 },
      source = sourceArea(view, area, photo),
      part = warpPlate(kernels, view, area, { width: source.width, height: source.height, data: cut(photo, source) }, source, photo);
    for (let y = 0; y < 22; y++) for (let x = 0; x < 30; x++) expect(part.data[y * 30 + x]).toBe(out.data[(y + 12) * out.width + x + 20]);
  });
  it('a smaller level shows the same place', () => {
    const view = viewOf(geometry({ straighten: 4, crop: { x: 0.1, y: 0.2, width: 0.6, height: 0.5 } }).geometry, 1600, 1000),
      half = viewAtLevel(view, 2),
      [x, y] = through(view.toSource, 400, 200),
      [u, v] = through(half.toSource, 100, 50);
    expect(u * 4).toBeCloseTo(x, 6);
    expect(v * 4).toBeCloseTo(y, 6);
  });
});
