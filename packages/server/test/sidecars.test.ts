import { execFileSync } from 'node:child_process';
import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { call, end, open, raws, shootWith, type Shoot } from './serverTrial.ts';

let shoot: Shoot;
beforeAll(async () => {
  await open();
  shoot = await shootWith('Skeins');
});
afterAll(() => end());
interface Did {
  done: number;
  troubles: string[];
  said?: object[];
}
const beside = (name: string): string => join(raws, `${name}.xmp`);

describe('ratings and marks beside the raws', () => {
  it('are written only when asked to, read by ExifTool, and taken from there again', async () => {
    const [first, second] = shoot.frames.map((f) => f.id) as [number, number],
      names = shoot.frames.map((f) => f.name);
    await call('POST', '/frames/say', {
      frames: [
        { id: first, rating: 4, mark: 'cover' },
        { id: second, rating: -1 },
      ],
    });
    expect(existsSync(beside(names[0]!))).toBe(false);
    expect((await call<Did>('POST', '/frames/sidecars/write', { ids: [first, second] })).body).toEqual({ done: 2, troubles: [] });
    const told = JSON.parse(
      execFileSync('exiftool', ['-j', '-XMP:all', beside(names[0]!), beside(names[1]!)], { encoding: 'utf8' }),
    ) as Record<string, unknown>[];
    expect([told[0]!['Rating'], told[0]!['Label'], told[1]!['Rating'], told[1]!['Label']]).toEqual([4, 'for the cover', -1, undefined]);
    // another hand rates in the file
    execFileSync('exiftool', ['-overwrite_original', '-XMP:Rating=2', '-XMP:Label=for the web', '-XMP-dc:Title=Weld', beside(names[0]!)]);
    const read = (await call<Did>('POST', '/frames/sidecars/read', { ids: [first, second] })).body;
    expect(read).toEqual({ done: 1, troubles: [], said: [{ id: first, rating: 2, mark: 'web' }] });
    // reading changes nothing by itself; writing keeps what the other hand wrote beside
    await call('POST', '/frames/sidecars/write', { ids: [first] });
    const again = JSON.parse(execFileSync('exiftool', ['-j', '-XMP:all', beside(names[0]!)], { encoding: 'utf8' })) as Record<
      string,
      unknown
    >[];
    expect([again[0]!['Rating'], again[0]!['Label'], again[0]!['Title']]).toEqual([4, 'for the cover', 'Weld']);
  });
  it('one of a raw that is dipped twice; what is no sidecar, and a label that is no mark, are told and left', async () => {
    const [first] = shoot.frames.map((f) => f.id) as [number],
      name = shoot.frames[0]!.name,
      { ids } = (await call<{ ids: number[] }>('POST', '/frames/dip', { ids: [first] })).body;
    const both = (await call<Did>('POST', '/frames/sidecars/write', { ids: [first, ...ids] })).body;
    expect(both.done).toBe(1);
    expect(both.troubles[0]).toMatch(/another dip of the same raw/);
    writeFileSync(beside(name), '<nothing');
    for (const way of ['read', 'write']) {
      const did = (await call<Did>('POST', `/frames/sidecars/${way}`, { ids: [first] })).body;
      expect(did.done).toBe(0);
      expect(did.troubles[0]).toMatch(new RegExp(`^${name}\\.xmp: line 1`));
    }
    expect(readFileSync(beside(name), 'utf8')).toBe('<nothing');
    // letters of an older kind are not made others
    const latin = Buffer.concat([Buffer.from('<x:xmpmeta xmlns:x="adobe:ns:meta/" note="'), Buffer.from([0xe9]), Buffer.from('"/>')]);
    writeFileSync(beside(name), latin);
    expect((await call<Did>('POST', '/frames/sidecars/write', { ids: [first] })).body.troubles[0]).toMatch(/not in UTF-8/);
    expect(readFileSync(beside(name)).equals(latin)).toBe(true);
    rmSync(beside(name));
    await call('POST', '/frames/sidecars/write', { ids: [first] });
    execFileSync('exiftool', ['-overwrite_original', '-XMP:Label=purple', beside(name)]);
    const strange = (await call<Did>('POST', '/frames/sidecars/read', { ids: [first] })).body;
    expect(strange.said).toEqual([]);
    expect(strange.troubles[0]).toMatch(/“purple” is none of the marks/);
  });
});
