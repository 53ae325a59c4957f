import { copyFileSync, mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { dyepot, frames } from './cliTrial.ts';

const folder = mkdtempSync(join(tmpdir(), 'dyepot-repair-')),
  raw = join(frames, 'TR-0419.dng'),
  spot = (over: object): string => {
    const file = join(folder, 'repairs.json'),
      repair = {
        id: 'a',
        kind: 'clone',
        shape: { kind: 'spot', x: 0.5, y: 0.5, radius: 0.02, feather: 0 },
        source: { dx: 0.2, dy: 0 },
        ...over,
      };
    writeFileSync(file, JSON.stringify({ format: 'dyepot-repairs', version: 1, repairs: [repair] }));
    return file;
  };

describe('repairs on the command line', () => {
  it('render takes them: the place is another, all else is the same byte for byte', async () => {
    const render = (out: string, ...more: string[]): ReturnType<typeof dyepot> =>
        dyepot('render', raw, '--look', 'none', '--out', join(folder, out), '--format', 'png', ...more),
      pixels = async (out: string): Promise<Buffer> =>
        sharp(join(folder, out, 'TR-0419.png'))
          .raw()
          .toBuffer();
    expect((await render('plain')).status).toBe(0);
    expect((await render('mended', '--repairs', spot({}))).status).toBe(0);
    const [a, b] = [await pixels('plain'), await pixels('mended')];
    let [inside, outside] = [0, 0];
    for (let i = 0; i < a.length; i += 3) {
      const [x, y] = [(i / 3) % 1632, Math.floor(i / 3 / 1632)];
      if (a[i] === b[i] && a[i + 1] === b[i + 1] && a[i + 2] === b[i + 2]) continue;
      if (Math.hypot(x + 0.5 - 816, y + 0.5 - 544) < 0.02 * 1632 + 1) inside++;
      else outside++;
    }
    expect(outside).toBe(0);
    expect(inside).toBeGreaterThan(1500);
  });
  it('a folder gives each frame its own, and none to one it does not name', () => {
    const dir = join(folder, 'each'),
      other = join(frames, 'TR-0444.dng');
    mkdirSync(dir);
    copyFileSync(spot({}), join(dir, 'TR-0419.repairs.json'));
    const render = (out: string, ...more: string[]): Buffer[] => {
      expect(
        dyepot('render', raw, other, '--look', 'none', '--size', '400', '--out', join(folder, out), '--format', 'png', ...more).status,
      ).toBe(0);
      return ['TR-0419', 'TR-0444'].map((name) => readFileSync(join(folder, out, `${name}.png`)));
    };
    const [plain, mended] = [render('small'), render('small-mended', '--repairs', dir)];
    expect([plain[0]!.equals(mended[0]!), plain[1]!.equals(mended[1]!)]).toEqual([false, true]);
  });
  it('says what is wrong with them', async () => {
    const bad = await dyepot('render', raw, '--look', 'none', '--out', folder, '--repairs', spot({ source: null }));
    expect(bad.status).toBe(2);
    expect(bad.err).toMatch(/repairs\.json: repair 1: /);
  });
  it('dust finds none at one place of the sensor where there is none, and writes what it finds', async () => {
    const answer = await dyepot(
      'dust',
      join(frames, 'TR-0438.dng'),
      join(frames, 'TR-0444.dng'),
      join(frames, 'TR-0470.dng'),
      '--json',
      '--write',
      join(folder, 'dust'),
    );
    expect(answer.status).toBe(0);
    const said = JSON.parse(answer.out) as { file: string; spots: { x: number; y: number; radius: number }[]; out: string }[];
    expect(said).toHaveLength(3);
    for (const s of said) expect(s.spots.length).toBeLessThanOrEqual(1);
    expect(JSON.parse(readFileSync(said[0]!.out, 'utf8'))).toMatchObject({ format: 'dyepot-repairs', version: 1 });
  });
});
