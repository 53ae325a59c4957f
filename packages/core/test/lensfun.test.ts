import { execFileSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { profileOf, readLensDatabase, type LensDatabase } from '../src/formats/lensfun.ts';
import { gainAt, lensGainOf, lensMapOf, plainLens, throughLens } from '../src/groundwork/lens.ts';

describe('the Lensfun database (Debian liblensfun-data-v1) against the Lensfun library itself (liblensfun1 0.3)', () => {
  const folder = '/usr/share/lensfun/version_1',
    loaded = new Map<string, LensDatabase>();
  const open = (name: string): LensDatabase => {
    if (!loaded.has(name)) {
      const d = readLensDatabase(readFileSync(`${folder}/${name}`, 'utf8'));
      if ('message' in d) throw new Error(d.message);
      loaded.set(name, d);
    }
    return loaded.get(name)!;
  };
  it('is installed', () => expect(existsSync(folder)).toBe(true));
  const pick = (model: 'ptlens' | 'poly3' | 'poly5'): { name: string; index: number; focal: number } => {
    for (const name of execFileSync('grep', ['-l', `distortion model="${model}"`, '-r', folder], { encoding: 'utf8' })
      .trim()
      .split('\n')
      .sort()
      .map((f) => f.slice(folder.length + 1))) {
      const d = open(name),
        index = d.lenses.findIndex(
          (l) =>
            l.distortion[0]?.model === model &&
            d.lenses.filter((o) => o.model === l.model).length === 1 &&
            /\d/.test(l.model) &&
            l.model.length > 12,
        );
      if (index >= 0) return { name, index, focal: d.lenses[index]!.distortion[0]!.focal };
    }
    throw new Error(`no lens of ${model}`);
  };
  const cases: [string, () => { name: string; index: number; focal: number; aperture?: number; crop?: number }][] = [
    ['ptlens', () => pick('ptlens')],
    ['poly3', () => pick('poly3')],
    ['poly5', () => pick('poly5')],
    [
      'ptlens with aberration and vignetting, on a smaller sensor',
      () => {
        const full = (l: LensDatabase['lenses'][number]): boolean =>
            l.vignetting.length > 0 && l.aberration.length > 0 && l.crop === 1 && l.distortion.length > 1,
          name = readdirSync(folder)
            .sort()
            .find((f) => open(f).lenses.some(full))!,
          index = open(name).lenses.findIndex(full),
          l = open(name).lenses[index]!,
          v = l.vignetting.find((c) => l.distortion.some((d) => d.focal === c.focal))!;
        return { name, index, focal: v.focal, aperture: v.aperture, crop: 1.5 };
      },
    ],
  ];
  it.each(cases)('%s: places within 0.02 px, gain within 0.1 %', (_, choose) => {
    const { name, index, focal, aperture = 8, crop } = choose(),
      lens = open(name).lenses[index]!,
      size = { width: 3000, height: 2000 },
      at = [
        [0, 0],
        [150, 90],
        [1100, 700],
        [2999, 0],
        [2800, 1900],
      ] as const,
      own = crop ?? lens.crop;
    const theirs = JSON.parse(
      execFileSync('/usr/bin/python3', [new URL('./lensfun.py', import.meta.url).pathname], {
        encoding: 'utf8',
        input: JSON.stringify({ file: `${folder}/${name}`, model: lens.model, focal, aperture, crop: own, ...size, at }),
      }),
    ) as { places: number[][]; gains: number[] };
    const profile = profileOf(lens, name, { focalMm: focal, aperture, crop: own }),
      set = { ...plainLens, profile },
      map = lensMapOf(set, null, size),
      gain = lensGainOf(set, null, size);
    expect(theirs.places.length).toBe(at.length);
    at.forEach(([x, y], i) => {
      for (let c = 0; c < 3; c++) {
        const [u, v] = throughLens(map, c, x + 0.5, y + 0.5);
        expect(Math.abs(u - 0.5 - theirs.places[i]![c * 2]!)).toBeLessThan(0.02);
        expect(Math.abs(v - 0.5 - theirs.places[i]![c * 2 + 1]!)).toBeLessThan(0.02);
      }
      // theirs acts on the picture before it is straightened
      if (gain && theirs.gains.length > 0)
        expect(gainAt({ ...gain, map: null }, size, null, x + 0.5, y + 0.5) / theirs.gains[i]!).toBeCloseTo(1, 3);
    });
    if (crop) expect(theirs.gains[0]).toBeGreaterThan(1.02);
  });
  it('bad files are refused in words', () => {
    expect(readLensDatabase('<lensdatabase><lens>')).toEqual({ message: expect.stringMatching(/^line 1/) as string });
    expect(readLensDatabase('<x/>')).toEqual({ message: expect.stringContaining('lensdatabase') as string });
    expect(readLensDatabase('<lensdatabase version="2"/>')).toEqual({ message: expect.stringContaining('version 2') as string });
    expect(readLensDatabase(`<!DOCTYPE l [<!ENTITY a "${'b'.repeat(99)}">]><lensdatabase>&a;</lensdatabase>`)).toEqual({
      message: expect.stringContaining('entities') as string,
    });
  });
});
