import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { stocks } from '@dyepot/core/src/stock/film/stocks.ts';
import { dyepot } from './cliTrial.ts';

const folder = mkdtempSync(join(tmpdir(), 'dyepot-stock-'));

describe('dyepot stock', () => {
  it('lists what comes with Dyepot', () => {
    const list = JSON.parse(dyepot('stock', '--list', '--json').out) as { name: string; kind: string; iso: number }[];
    expect(list.map((s) => s.name)).toEqual(stocks.map((s) => s.name));
    expect(new Set(list.map((s) => s.kind))).toEqual(new Set(['colourNegative', 'reversal', 'blackAndWhite']));
    expect(dyepot('stock', '--list').out).toMatch(/Woad +reversal film +ISO 16/);
  });
  it('tells what a sheet says of itself, by name or from a file', () => {
    const file = join(folder, 'own.json');
    writeFileSync(file, JSON.stringify({ ...stocks[0], name: 'My own' }));
    const own = JSON.parse(dyepot('stock', file, '--json').out) as Record<string, unknown>,
      known = JSON.parse(dyepot('stock', 'alkanet', '--json').out) as Record<string, unknown>;
    expect(own).toEqual({ ...known, name: 'My own' });
    expect(known).toMatchObject({
      kind: 'colourNegative',
      iso: expect.any(Number),
      averageGradient: expect.any(Number),
      latitudeStops: expect.any(Number),
    });
  });
  it('exposes it: more light, more density in the negative and less in its print', () => {
    const list = JSON.parse(dyepot('stock', 'Weld', '--expose=-3:0:0.5', '--json').out) as {
      logH: number;
      density: number[];
      printed: number[];
    }[];
    expect(list.map((e) => e.logH)).toEqual([-3, -2.5, -2, -1.5, -1, -0.5, 0]);
    for (let i = 1; i < list.length; i++)
      for (let c = 0; c < 3; c++) {
        expect(list[i]!.density[c]!).toBeGreaterThanOrEqual(list[i - 1]!.density[c]!);
        expect(list[i]!.printed[c]!).toBeLessThanOrEqual(list[i - 1]!.printed[c]!);
      }
  });
  it('writes a wedge that another reader finds the densities in', async () => {
    const out = join(folder, 'wedge.tif');
    expect(dyepot('stock', 'Walnut', '--wedge', out).status).toBe(0);
    const { data, info } = await sharp(out).toColourspace('rgb16').raw({ depth: 'ushort' }).toBuffer({ resolveWithObject: true }),
      pixels = new Uint16Array(data.buffer, data.byteOffset, data.length / 2),
      [first, last] = [pixels[(10 * info.width + 16) * 3]!, pixels[(10 * info.width + info.width - 16) * 3]!];
    expect([info.width, info.height]).toEqual([41 * 32, 64]);
    expect(-Math.log10(first / 65535)).toBeCloseTo(0.22, 2);
    expect(-Math.log10(last / 65535)).toBeCloseTo(2.6, 1);
  });
  it('says plainly what is wrong', () => {
    const bad = join(folder, 'bad.json');
    writeFileSync(bad, JSON.stringify({ ...stocks[0], curves: [] }));
    for (const [args, words] of [
      [['stock', 'Nothing'], /no stock called “Nothing”/],
      [['stock', bad], /bad\.json: the sheet: .*curves/],
      [['stock'], /needs one stock/],
      [['stock', 'Weld', '--expose', '1:0:1'], /goes upwards/],
      [['stock', 'Weld', '--expose', 'a'], /takes FROM:TO:STEP/],
    ] as [string[], RegExp][]) {
      const { status, err } = dyepot(...args);
      expect([status, err]).toEqual([2, expect.stringMatching(words)]);
      expect(err).not.toMatch(/\n\s+at /);
    }
    expect(readFileSync(bad, 'utf8').length).toBeGreaterThan(10);
  });
  it('a look with a film renders, and can be asked for one colour', () => {
    const look = join(folder, 'look.json');
    writeFileSync(
      look,
      JSON.stringify({
        format: 'dyepot-look',
        version: 2,
        name: 'With film',
        scene: [],
        stock: { id: 'stock', kind: 'film', params: { sheet: stocks[5] } },
        print: [],
      }),
    );
    const out = JSON.parse(dyepot('probe', look, '0.3', '0.1', '0.1', '--json').out) as { rgb: [number, number, number] }[],
      [r, g, b] = out.at(-1)!.rgb;
    expect(Math.max(Math.abs(r - g), Math.abs(g - b))).toBeLessThan(0.004);
    const cube = join(folder, 'film.cube');
    expect(dyepot('bake', look, '--out', cube, '--size', '17').status).toBe(0);
    expect(readFileSync(cube, 'utf8')).toMatch(/LUT_3D_SIZE 17/);
  });
});
