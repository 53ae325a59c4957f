import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { bracketsAmong, type Candidate } from '@dyepot/core/src/match/bracket/find.ts';
import { makePlate, type Plate } from '@dyepot/core/src/plate/plate.ts';
import { decodeRaw } from '../src/decode/decode.ts';
import { root } from '../src/places.ts';
import { bright, lightOf, takeBracket } from './bracketTrial.ts';
import { kernels } from '../src/work/ownKernels.ts';
import { call, data, end, finished, frames, names, open, shootWith, type Job, type Shoot } from './serverTrial.ts';

const folder = join(data, 'brackets');
let shoot: Shoot, seen: Plate;
beforeAll(async () => {
  await open();
  seen = await takeBracket(folder);
  for (const name of names.slice(0, 2)) writeFileSync(join(folder, name), readFileSync(join(frames, name)));
  shoot = await shootWith('Brackets', folder);
}, 90_000);
afterAll(() => end());

describe('brackets', () => {
  it('are runs of several exposures shortly after one another; a new one begins where an exposure comes again', () => {
    const taken = (seconds: number, ev: number, alike = 'a'): Candidate => ({ takenAt: seconds * 1000, ev, shutterSeconds: 0.1, alike });
    expect(bracketsAmong([taken(0, 0), taken(1, -2), taken(2, 2), taken(3, 0), taken(4, -2), taken(5, 2)])).toEqual([
      [0, 1, 2],
      [3, 4, 5],
    ]);
    expect(bracketsAmong([taken(0, 0), taken(60, -2)])).toEqual([]);
    expect(bracketsAmong([taken(0, 0), taken(1, 0.1)])).toEqual([]);
    expect(bracketsAmong([taken(0, 0), taken(1, 2, 'b')])).toEqual([]);
    // a long exposure's end is what the next one waits for
    expect(bracketsAmong([{ ...taken(0, 6), shutterSeconds: 20 }, taken(21, 2)])).toEqual([[0, 1]]);
  });
  it('are found in a shoot, and merged into a linear DNG beside their raws that holds what each exposure had', async () => {
    const of = (name: string): number => shoot.frames.find((f) => f.name === name)!.id,
      ids = ['B0', 'B1', 'B2'].map(of);
    expect((await call<number[][]>('GET', `/shoots/${shoot.id}/brackets`)).body).toEqual([ids]);
    const { status, body } = await call<{ name: string; moved: number[]; job: Job }>('POST', `/shoots/${shoot.id}/merge`, { ids });
    expect([status, body.name, body.moved]).toEqual([200, 'B0-merged.dng', [0, 0, 0]]);
    expect((await finished(body.job.id)).items.map((i) => [i.state, i.message])).toEqual([['done', null]]);
    const merged = (await call<Shoot>('GET', `/shoots/${shoot.id}`)).body.frames.find((f) => f.name === 'B0-merged')!;
    expect([merged.width, merged.height]).toEqual([seen.width, seen.height]);
    const { facts, raw } = await decodeRaw(join(folder, 'B0-merged.dng')),
      plate = makePlate(await kernels(), raw, facts),
      middle = (await decodeRaw(join(folder, 'B1.dng'))).facts;
    // brightness is the middle exposure's; colour is its camera's
    expect(Math.abs(facts.profile.baselineExposureEv - middle.profile.baselineExposureEv - 2.5)).toBeLessThan(0.05);
    expect(facts.profile.asShotNeutral.map((v) => v.toFixed(4))).toEqual(middle.profile.asShotNeutral.map((v) => v.toFixed(4)));
    expect([facts.camera, facts.exif.iso, facts.exif.takenAt]).toEqual([middle.camera, middle.exif.iso, middle.exif.takenAt]);
    const gain = 2 ** facts.profile.baselineExposureEv;
    let [off, n] = [0, 0];
    for (let y = 20; y < seen.height; y += 37)
      for (let x = 20; x < seen.width; x += 41) {
        if (Math.abs(x - seen.width * bright.from) < 6) continue;
        const i = y * seen.width + x,
          there = Math.max(0, lightOf(seen, i, 1)) * (x > seen.width * bright.from ? bright.times : 1);
        if (there < 0.01) continue;
        off += Math.abs(Math.log2((lightOf(plate, i, 1) * gain) / there));
        n++;
      }
    expect(n).toBeGreaterThan(300);
    expect(off / n).toBeLessThan(0.06);
  });
  it('are refused where there is nothing to merge, in a sentence that names the frames; nothing is written', async () => {
    const [a, b] = shoot.frames.filter((f) => f.name.startsWith('TR')).map((f) => f.id) as [number, number],
      refused = await call('POST', `/shoots/${shoot.id}/merge`, { ids: [a, b] });
    expect([refused.status, refused.body.message]).toEqual([422, expect.stringMatching(/do not show one view|exposed alike/)]);
    for (const ids of [[a], [a, 9999], Array.from({ length: 12 }, (_, i) => i)])
      expect([400, 404]).toContain((await call('POST', `/shoots/${shoot.id}/merge`, { ids })).status);
  });
  it('on the command line say what was done, and write over nothing unasked', () => {
    const out = join(data, 'cli.dng'),
      run = (...args: string[]): string =>
        execFileSync(
          process.execPath,
          [join(root, 'dist/dyepot.mjs'), 'merge', ...['B0', 'B1', 'B2'].map((b) => join(folder, `${b}.dng`)), '--out', out, ...args],
          {
            encoding: 'utf8',
            stdio: ['ignore', 'pipe', 'pipe'],
          },
        );
    expect((JSON.parse(run('--json')) as { exposures: object[] }).exposures).toHaveLength(3);
    expect(() => run()).toThrow(/is there already; --replace writes over it/);
    const [kind, baseline] = execFileSync('exiftool', ['-T', '-PhotometricInterpretation', '-BaselineExposure', out], {
      encoding: 'utf8',
    }).split('\t');
    expect([kind, Number(baseline).toFixed(2)]).toEqual(['Linear Raw', '2.50']);
  });
});
