import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { root } from '@dyepot/server/src/places.ts';
import { dyepot } from './cliTrial.ts';

const folder = mkdtempSync(join(tmpdir(), 'dyepot-cli-tables-')),
  frame = join(root, 'packages/camera/frames/TR-0412.dng');

describe('tables on the command line', () => {
  const look = join(root, 'e2e/looks/weld-morning.json'),
    cube = join(folder, 'weld.cube'),
    parity = (file: string): void => {
      for (const c of [['0.2', '0.5', '0.7']]) {
        const theirs = spawnSync('ociochecklut', [file, ...c], { encoding: 'utf8' })
            .stdout.trim()
            .split(/\s+/)
            .map(Number),
          ours = JSON.parse(dyepot('probe', file, ...c, '--json').out) as { out: number[] };
        ours.out.forEach((v, i) => expect(Math.abs(v - theirs[i]!)).toBeLessThan(1e-5));
      }
    };
  it('a look is baked to .cube, and ociochecklut reads of it what dyepot probe says', () => {
    const said = JSON.parse(dyepot('bake', look, '--out', cube, '--size', '33', '--json').out) as {
      meanCiede2000: number;
      worstCiede2000: number;
      size: number;
      leftOut: unknown[];
    };
    expect(said.size).toBe(33);
    expect(said.meanCiede2000).toBeLessThan(0.3);
    expect(said.worstCiede2000).toBeLessThan(2);
    expect(said.leftOut).toEqual([]);
    parity(cube);
  });
  it('and to .clf, .cc and a Hald image, each read again by inspect', async () => {
    const files = ['weld.clf', 'weld.cc', 'weld.cdl', 'weld.png', 'weld.tif'].map((name) => join(folder, name));
    for (const out of files) {
      const made = dyepot('bake', look, '--out', out, '--size', '25');
      expect(made.status, made.err).toBe(0);
    }
    expect((JSON.parse(dyepot('inspect', ...files, '--json').out) as { format: string }[]).map((t) => t.format)).toEqual([
      'clf',
      'cdl',
      'cdl',
      'hald',
      'hald',
    ]);
    for (const file of files.slice(0, 2)) parity(file);
    expect((await sharp(join(folder, 'weld.png')).metadata()).width).toBe(125);
    expect((await sharp(join(folder, 'weld.png')).metadata()).depth).toBe('ushort');
    expect(dyepot('bake', look, '--out', join(folder, 'no.png'), '--size', '33').err).toContain('not 33');
  });
  it('only chosen steps go in; unknown ones, sizes and endings are refused in words', () => {
    expect(dyepot('bake', look, '--out', join(folder, 'a.cube'), '--steps', 'sparkle').err).toContain('no step “sparkle”');
    expect(dyepot('bake', look, '--out', join(folder, 'a.cube'), '--size', '1').err).toContain('from 2 to 129');
    expect(dyepot('bake', look, '--out', join(folder, 'a.xyz')).err).toContain('.cube');
    expect(dyepot('bake', look, '--out', join(folder, 'a.cube'), '--input', 'moon').err).toContain('acescct');
    expect(dyepot('bake', look, '--out', join(folder, 'sat.cube'), '--size', '9', '--steps', 'sat').status).toBe(0);
    const plain = JSON.parse(dyepot('probe', join(folder, 'sat.cube'), '0.5', '0.5', '0.5', '--json').out) as { out: number[] };
    plain.out.forEach((v) => expect(v).toBeCloseTo(0.5, 1));
  });
  it('a table serves wherever a look does: a picture rendered through the baked look is near the one through the look', async () => {
    for (const [name, wear] of [
      ['own', look],
      ['table', cube],
    ] as const)
      expect(dyepot('render', frame, '--look', wear, '--format', 'png', '--size', '320', '--out', join(folder, name)).status).toBe(0);
    const [a, b] = await Promise.all(
      ['own', 'table'].map(async (n) => {
        const dir = join(folder, n);
        return sharp(join(dir, readdirSync(dir)[0]!))
          .raw()
          .toBuffer();
      }),
    );
    let sum = 0;
    for (let i = 0; i < a!.length; i++) sum += Math.abs(a![i]! - b![i]!);
    expect(sum / a!.length).toBeLessThan(3);
  });
  it('a broken table ends with 2 and its line', () => {
    const bad = join(folder, 'bad.cube');
    writeFileSync(bad, 'LUT_3D_SIZE 2\n0 0 0\n');
    const said = dyepot('render', frame, '--look', bad, '--out', join(folder, 'nowhere'));
    expect(said.status).toBe(2);
    expect(said.err).toMatch(/bad\.cube: line 3: the table ends after 1 of 8 rows/);
  });
});
