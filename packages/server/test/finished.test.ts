import { execFileSync } from 'node:child_process';
import { copyFileSync, mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { decodeRaw } from '../src/decode/decode.ts';
import { root } from '../src/places.ts';
import { call, end, finished, jpeg, open, origin, shootWith, type Job, type Shoot as TrialShoot } from './serverTrial.ts';

const folder = mkdtempSync(join(tmpdir(), 'dyepot-finished-'));
/** Root mean square of how far two pictures lie apart, in encoded values of 0–255. What lay at the edge of the gamut is fitted into it twice. */
async function apart(a: string, b: string): Promise<number> {
  const [x, y] = await Promise.all(
    [a, b].map((f) => sharp(f, { ignoreIcc: true }).raw({ depth: 'ushort' }).toColourspace('rgb16').toBuffer()),
  );
  const p = new Uint16Array(x!.buffer, x!.byteOffset, x!.byteLength / 2),
    q = new Uint16Array(y!.buffer, y!.byteOffset, y!.byteLength / 2);
  expect(p.length).toBe(q.length);
  return Math.sqrt(p.reduce((sum, v, i) => sum + ((v - q[i]!) / 257) ** 2, 0) / p.length);
}
type Shoot = Omit<TrialShoot, 'frames'> & { frames: (TrialShoot['frames'][number] & { finished: string | null; path: string })[] };
let shoot: Shoot;
const delivered = async (id: number, name: string, file: object): Promise<string> => {
  const into = join(folder, name),
    job = await finished((await call<Job>('POST', '/deliveries', { shootId: id, folder: into, file })).body.id);
  expect(job.failed).toBe(0);
  return into;
};
beforeAll(async () => {
  await open();
  shoot = (await shootWith('Raws')) as Shoot;
}, 60_000);
afterAll(() => end());

describe('finished pictures as frames', () => {
  it('under the plain look are themselves again: of every space, in 8 and 16 bits', { timeout: 120_000 }, async () => {
    for (const [space, format, depth, most] of [
      ['srgb', 'jpeg', 8, 1.25],
      ['oprgb', 'jpeg', 8, 1.25],
      ['oprgb', 'tiff', 16, 1.25],
      ['srgb', 'png', 16, 1.25],
    ] as const) {
      const file = { ...jpeg, space, format, depth, size: 800, quality: 95 },
        from = await delivered(shoot.id, `${space}-${format}`, file),
        there = (await call<{ id: number }>('POST', '/shoots', { name: `${space} ${format}` })).body.id,
        job = await finished((await call<Job>('POST', `/shoots/${there}/folder`, { folder: from, finished: true })).body.id);
      expect(job.items.map((i) => [i.state, i.message])).toEqual(shoot.frames.map(() => ['done', null]));
      const view = (await call<Shoot>('GET', `/shoots/${there}`)).body;
      expect(new Set(view.frames.map((f): string | null => f.finished))).toEqual(new Set([format.toUpperCase()]));
      const back = await delivered(there, `${space}-${format}-back`, file);
      for (const f of shoot.frames) {
        const name = `${f.name}.${{ jpeg: 'jpg', tiff: 'tif', png: 'png' }[format]}`,
          far = await apart(join(from, name), join(back, name));
        console.log(`${space} ${format} ${f.name}: ${far.toFixed(2)} of 255 apart`);
        expect([space, format, name, far < most]).toEqual([space, format, name, true]);
      }
    }
  });
  it('keep time, camera and exposure of their Exif, and stand upright', async () => {
    const [frame] = shoot.frames,
      from = await delivered(shoot.id, 'upright', { ...jpeg, size: 600 }),
      path = join(from, `${frame!.name}.jpg`),
      turned = join(folder, 'turned.jpg');
    copyFileSync(path, turned);
    execFileSync('exiftool', ['-q', '-overwrite_original', '-n', '-Orientation=6', turned]);
    const asRaw = (await decodeRaw(frame!.path)).facts,
      { facts, raw } = await decodeRaw(turned),
      { width, height } = await sharp(path).metadata();
    expect([facts.width, facts.height, raw.width, raw.height]).toEqual([height, width, height, width]);
    expect([facts.camera, facts.exif.iso, facts.exif.takenAt]).toEqual([asRaw.camera, asRaw.exif.iso, asRaw.exif.takenAt]);
    expect(facts.exif.shutterSeconds).toBeCloseTo(asRaw.exif.shutterSeconds, 4);
  });
  it('are refused in a sentence where they are cut short, too small, or of other numbers', async () => {
    const noise = Uint8Array.from({ length: 400 * 300 * 3 }, (_, i) => (i * 7919) % 251),
      raw = { raw: { width: 400, height: 300, channels: 3 as const } },
      whole = await sharp(noise, raw).jpeg({ quality: 90 }).toBuffer();
    const files: [string, Buffer | Uint8Array, RegExp][] = [
      ['cut.jpg', whole.subarray(0, whole.length / 2), /^cut\.jpg is cut short/],
      [
        'tiny.png',
        await sharp({ create: { width: 8, height: 8, channels: 3, background: '#888' } })
          .png()
          .toBuffer(),
        /^tiny\.png is 8 × 8 pixels, too small/,
      ],
      [
        'float.tif',
        await sharp(noise, raw).toColourspace('scrgb').tiff({ compression: 'none' }).toBuffer(),
        /^float\.tif has numbers of floating point/,
      ],
      ['words.jpg', Buffer.from('not a picture at all, but words that go on for long enough'), /^words\.jpg is a text file/],
    ];
    for (const [name, bytes, message] of files) {
      const path = join(folder, name);
      writeFileSync(path, bytes);
      await expect(decodeRaw(path), name).rejects.toThrow(message);
    }
  });
  it('of grey, of CMYK and with transparency are read as they look', async () => {
    const half = { create: { width: 64, height: 64, channels: 3 as const, background: { r: 128, g: 128, b: 128 } } },
      files = {
        'grey.png': await sharp(half).toColourspace('b-w').png().toBuffer(),
        'ink.jpg': await sharp(half).toColourspace('cmyk').jpeg({ quality: 100 }).toBuffer(),
        'clear.png': await sharp({ create: { ...half.create, channels: 4, background: { r: 128, g: 128, b: 128, alpha: 1 } } })
          .png()
          .toBuffer(),
      };
    const middles: number[][] = [];
    for (const [name, bytes] of Object.entries(files)) {
      writeFileSync(join(folder, name), bytes);
      const { raw } = await decodeRaw(join(folder, name));
      middles.push([...raw.data.subarray(3 * (32 * 64 + 32), 3 * (32 * 64 + 32) + 3)]);
    }
    for (const [r, g, b] of middles) for (const v of [r!, b!]) expect(Math.abs(v / g! - 1)).toBeLessThan(0.03);
    for (const m of middles) expect(Math.abs(m[1]! / middles[0]![1]! - 1)).toBeLessThan(0.2);
  });
});

describe('a card’s JPEGs beside its raws', () => {
  it('are no frames of their own; others are where they are asked for; the raw is seen as its camera showed it', async () => {
    const card = join(folder, 'card'),
      [first] = shoot.frames,
      shown = await sharp({ create: { width: 600, height: 400, channels: 3, background: '#996644' } })
        .jpeg()
        .toBuffer();
    mkdirSync(card);
    copyFileSync(first!.path, join(card, 'A1.dng'));
    writeFileSync(join(card, 'A1.JPG'), shown);
    writeFileSync(join(card, 'guest.jpg'), shown);
    expect((await call<{ raws: number; finished: number }>('GET', `/folders?folder=${encodeURIComponent(card)}`)).body).toMatchObject({
      raws: 1,
      finished: 1,
    });
    const take = async (name: string, finishedToo: boolean): Promise<Shoot> => {
      const { id } = (await call<{ id: number }>('POST', '/shoots', { name })).body;
      await finished((await call<Job>('POST', `/shoots/${id}/folder`, { folder: card, finished: finishedToo })).body.id);
      return (await call<Shoot>('GET', `/shoots/${id}`)).body;
    };
    expect((await take('raws', false)).frames.map((f) => f.name)).toEqual(['A1']);
    const both = await take('both', true);
    expect(both.frames.map((f) => f.name).sort()).toEqual(['A1', 'guest']);
    const of = (name: string): number => both.frames.find((f) => f.name === name)!.id;
    expect((await call<{ name: string | null }>('GET', `/frames/${of('A1')}/as-shown`)).body.name).toBe('A1.JPG');
    expect((await call<{ name: string | null }>('GET', `/frames/${of('guest')}/as-shown`)).body.name).toBeNull();
    const picture = await fetch(`${origin}/api/frames/${of('A1')}/as-shown.jpg`);
    expect((await sharp(Buffer.from(await picture.arrayBuffer())).metadata()).width).toBe(600);
    expect((await fetch(`${origin}/api/frames/${of('guest')}/as-shown.jpg`)).status).toBe(404);
    const look = JSON.parse(readFileSync(join(root, 'demo/looks/linen-plain.json'), 'utf8')) as object,
      near = await call<{ before: number; after: number }>('POST', `/frames/${of('A1')}/towards`, { look, picture: null });
    expect([near.status, near.body.after < near.body.before]).toEqual([200, true]);
  });
  it('a folder of finished pictures alone says that they have to be asked for', async () => {
    const alone = join(folder, 'alone'),
      { id } = (await call<{ id: number }>('POST', '/shoots', { name: 'alone' })).body;
    mkdirSync(alone);
    writeFileSync(
      join(alone, 'one.png'),
      await sharp({ create: { width: 64, height: 64, channels: 3, background: '#996644' } })
        .png()
        .toBuffer(),
    );
    const refused = await call('POST', `/shoots/${id}/folder`, { folder: alone });
    expect([refused.status, refused.body.message]).toEqual([
      400,
      `there are no raw files in ${alone}, but a finished picture: ask for those too`,
    ]);
  });
});

describe('a picture that stands in a shoot', () => {
  it('is never written over by a delivery into its own folder, whatever is answered', async () => {
    const own = await delivered(shoot.id, 'own', { ...jpeg, size: 400 }),
      before = readFileSync(join(own, `${shoot.frames[0]!.name}.jpg`)),
      { id } = (await call<{ id: number }>('POST', '/shoots', { name: 'own' })).body;
    await finished((await call<Job>('POST', `/shoots/${id}/folder`, { folder: own, finished: true })).body.id);
    const order = { shootId: id, folder: own, file: { ...jpeg, size: 200 }, conflict: 'replace' },
      job = await finished((await call<Job>('POST', '/deliveries', order)).body.id);
    expect([job.state, job.failed]).toEqual(['done', 0]);
    expect(job.items.map((i) => i.output)).not.toContain(join(own, `${shoot.frames[0]!.name}.jpg`));
    expect(readFileSync(join(own, `${shoot.frames[0]!.name}.jpg`)).equals(before)).toBe(true);
  });
});
