import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { root } from '@dyepot/server/src/places.ts';
import { dyepot, frame } from './cliTrial.ts';

const folder = mkdtempSync(join(tmpdir(), 'dyepot-manners-'));

describe('dyepot, of what it should not do', () => {
  it.each(['constructor', '__proto__', 'toString'])('“%s” is no command', (name) => {
    const r = dyepot(name);
    expect([r.status, r.err.split('\n')[0]]).toEqual([2, `dyepot: there is no command “${name}”`]);
  });
  it('render replaces only what it made itself, or what it is told to', () => {
    const out = join(folder, 'beside'),
      args = ['render', frame, '--look', 'none', '--out', out, '--size', '200'],
      made = join(out, `${basename(frame, '.dng')}.jpg`);
    expect([dyepot(...args).status, dyepot(...args).status]).toEqual([0, 0]);
    writeFileSync(made, 'a camera’s own');
    const refused = dyepot(...args);
    expect([refused.status, refused.err]).toEqual([1, expect.stringMatching(/was not made by Dyepot; --replace writes over it/)]);
    expect(readFileSync(made, 'utf8')).toBe('a camera’s own');
    expect(dyepot(...args, '--replace').status).toBe(0);
  });
  it('a raw cut before or in its picture gives none; one that may not be whole only when asked for, and says so in its status', () => {
    const bytes = readFileSync(frame),
      out = join(folder, 'unsound'),
      render = (name: string, content: Buffer, ...more: string[]): ReturnType<typeof dyepot> => {
        writeFileSync(join(folder, name), content);
        return dyepot('render', join(folder, name), '--look', 'none', '--out', out, '--size', '200', ...more);
      };
    for (const share of [0.02, 0.3, 0.7, 0.999]) {
      const r = render('short.dng', bytes.subarray(0, Math.floor(bytes.length * share)));
      expect([share, r.status]).toEqual([share, 1]);
    }
    expect(existsSync(join(out, 'short.jpg'))).toBe(false);
    const doubtful = Buffer.from(bytes),
      end = doubtful.lastIndexOf(Buffer.from([0xff, 0xd9]));
    doubtful.fill(0, end, end + 2);
    expect(render('unsure.dng', doubtful)).toMatchObject({
      status: 1,
      err: expect.stringMatching(/may not be whole: .*--doubtful/) as string,
    });
    expect(existsSync(join(out, 'unsure.jpg'))).toBe(false);
    expect(render('unsure.dng', doubtful, '--doubtful').status).toBe(3);
    expect(existsSync(join(out, 'unsure.jpg'))).toBe(true);
  });
  it('a digest that differs from the picture’s values is a doubt (DNG 1.7, RawImageDigest, tag 50972)', () => {
    const made = join(folder, 'digest.dng'),
      r = spawnSync(
        process.execPath,
        [
          join(root, 'dist/camera.mjs'),
          '--scene',
          'window-0',
          '--size',
          '96x64',
          '--light',
          '48x32',
          '--samples',
          '1',
          '--compression',
          'none',
          '--layout',
          'strips',
          '--out',
          made,
        ],
        { encoding: 'utf8' },
      );
    expect(r.status).toBe(0);
    expect(dyepot('render', made, '--look', 'none', '--out', join(folder, 'digested')).status).toBe(0);
    const spoilt = readFileSync(made);
    spoilt[spoilt.length - 5000]! ^= 0x40;
    writeFileSync(join(folder, 'spoilt.dng'), spoilt);
    const judged = dyepot('render', join(folder, 'spoilt.dng'), '--look', 'none', '--out', join(folder, 'digested'));
    expect([judged.status, judged.err]).toEqual([1, expect.stringMatching(/its digest differs/)]);
  });
});
