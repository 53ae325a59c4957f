import { createHash } from 'node:crypto';
import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { crc32, deflateRawSync } from 'node:zlib';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Look } from '@dyepot/core/src/look/look.ts';
import { root } from '../src/places.ts';
import { pack, sayingOf, unpack, type ParcelLook } from '../src/work/parcel.ts';
import { call, data, end, open, origin, serve } from './serverTrial.ts';

interface Card {
  id: number;
  name: string;
  family: string;
  revision: number;
  tags: string[];
  favourite: boolean;
}
const folder = join(root, 'demo/looks'),
  demo = readdirSync(folder)
    .sort()
    .map((f) => JSON.parse(readFileSync(join(folder, f), 'utf8')) as Look),
  byName = (name: string): Look => demo.find((l) => l.name === name)!;
const cards = async (): Promise<Card[]> => (await call<Card[]>('GET', '/looks')).body;
const idOf = async (name: string): Promise<number> => (await cards()).find((c) => c.name === name)!.id;
const parcel = async (ids: number[]): Promise<Buffer> =>
  Buffer.from(await (await fetch(`${origin}/api/looks/parcel?ids=${ids.join()}`)).arrayBuffer());
interface Arrived {
  message?: string;
  looks: { look: Look; standing: { kind: string; name?: string; revision?: number } }[];
}
const post = async (path: string, data: Buffer): Promise<{ status: number; body: Arrived }> => {
  const r = await fetch(`${origin}/api${path}`, {
    method: 'POST',
    body: new Uint8Array(data),
    headers: { 'Content-Type': 'application/octet-stream' },
  });
  return { status: r.status, body: (await r.json()) as Arrived };
};

beforeAll(async () => {
  await open();
  for (const l of demo) await call('POST', '/looks', l);
});
afterAll(() => end());

describe('the shelf', () => {
  it('finds looks by words of their names, tags, notes and steps, and by what they do', async () => {
    const found = async (words: string): Promise<string[]> => {
      const { ids } = (await call<{ ids: number[] }>('GET', `/looks/found?words=${encodeURIComponent(words)}`)).body,
        all = await cards();
      return ids.map((id) => all.find((c) => c.id === id)!.name);
    };
    expect((await found('weld'))[0]).toBe('Weld gold');
    expect(await found('black and white')).toContain('Iron alley');
    expect(await found('lifted bl')).toContain('Walnut matte');
    expect(await found('warm')).toContain('Weld gold');
    expect(await found('halat')).toContain('Iron alley');
    expect(await found('nothing says this')).toEqual([]);
    for (const odd of ['"', '*', 'a" OR name:b', '-', 'NEAR(', '   '])
      expect((await call('GET', `/looks/found?words=${encodeURIComponent(odd)}`)).status).toBe(200);
  });
  it('marks favourites, gives many a family and tags as revisions, and says where one is not there', async () => {
    const ids = [await idOf('Chalk'), await idOf('Linen plain')];
    expect((await call<{ changed: number }>('PATCH', '/looks', { ids, favourite: true, family: 'Studio', addTags: ['mine'] })).status).toBe(
      200,
    );
    for (const c of (await cards()).filter((l) => ids.includes(l.id)))
      expect([c.favourite, c.family, c.revision, c.tags.includes('mine')]).toEqual([true, 'Studio', 2, true]);
    expect((await call('PATCH', '/looks', { ids: [99999], favourite: true })).status).toBe(404);
    expect((await call('PATCH', '/looks', { ids })).status).toBe(400);
  });
  it('tells revisions apart in sentences, and keeps their names', async () => {
    const id = await idOf('Chalk');
    await call('PATCH', `/looks/${id}/revisions/1`, { label: 'As the client saw it' });
    const lines = (await call<{ revision: number; label: string; changes: string[] | null }[]>('GET', `/looks/${id}/revisions`)).body;
    expect(lines.map((l) => l.revision)).toEqual([2, 1]);
    expect(lines[0]!.changes).toEqual([expect.stringMatching(/^Family .* → Studio$/), 'Tag “mine” added']);
    expect([lines[1]!.label, lines[1]!.changes]).toEqual(['As the client saw it', null]);
    const between = await call<{ differences: string[] }>('GET', `/looks/${id}/differences?from=1&with=${await idOf('Weld gold')}`);
    expect(between.body.differences).toContain('Name “Chalk” → “Weld gold”');
  });
  it('knows the nearest, and the same look under another name', async () => {
    await call('POST', '/looks', { ...byName('Weld gold'), name: 'Gilt' });
    const { looks } = (
      await call<{ looks: { name: string; distance: number; same: boolean }[] }>('GET', `/looks/${await idOf('Gilt')}/near`)
    ).body;
    expect(looks[0]).toMatchObject({ name: 'Weld gold', same: true });
    expect(looks[1]!.distance).toBeGreaterThan(looks[0]!.distance + 1);
  });
});

describe('the look sheet', () => {
  it('is a picture and a PDF, of a look without frames too', async () => {
    const id = await idOf('Weld gold'),
      sheet = async (kind: string): Promise<Buffer> =>
        Buffer.from(await (await fetch(`${origin}/api/looks/${id}/sheet.${kind}`)).arrayBuffer());
    const { width, height } = await sharp(await sheet('png')).metadata();
    expect([width, height]).toEqual([1190, 1684]);
    expect((await sheet('pdf')).subarray(0, 5).toString()).toBe('%PDF-');
    expect((await call('GET', `/looks/${id}/sheet.pdf?frames=99999`)).status).toBe(404);
  });
});

describe('a file of looks', () => {
  it('has the same bytes each time, and after it was taken in and sent on', async () => {
    const ids = [await idOf('Weld gold'), await idOf('Cutch album')],
      sent = await parcel(ids);
    expect((await parcel(ids)).equals(sent)).toBe(true);
    for (const id of [...ids, await idOf('Gilt')]) await call('DELETE', `/looks/${id}`);
    const { status } = await post('/parcels/taken?own=0,1', sent);
    expect(status).toBe(200);
    expect((await parcel([await idOf('Weld gold'), await idOf('Cutch album')])).equals(sent)).toBe(true);
  });
  it('is known when it comes back: the same, older, newer; and nothing is written over', async () => {
    const id = await idOf('Oak gall mist'),
      first = await parcel([id]),
      before = (await call<{ document: Look }>('GET', `/looks/${id}`)).body.document;
    const standing = async (data: Buffer): Promise<string> => (await post('/parcels', data)).body.looks[0]!.standing.kind;
    expect(await standing(first)).toBe('same');
    await call('POST', `/looks/${id}/revisions`, { look: { ...before, strength: 0.7 }, from: 1 });
    expect(await standing(first)).toBe('older');
    const second = await parcel([id]);
    await call('DELETE', `/looks/${id}`);
    // a shelf that has only the first
    await post('/parcels/taken?own=0', first);
    expect(await standing(second)).toBe('newer');
    const here = await idOf('Oak gall mist');
    expect((await post('/parcels/taken?revision=0', second)).status).toBe(200);
    const now = (await call<{ revision: number; document: Look }>('GET', `/looks/${here}`)).body;
    expect([now.revision, now.document.strength]).toEqual([2, 0.7]);
    expect((await call<{ document: Look }>('GET', `/looks/${here}?revision=1`)).body.document.strength).toBe(before.strength);
    expect((await post('/parcels/taken?revision=0', second)).status).toBe(409);
  });
});

/** An archive made by hand: names, data, and what its directory says of them. */
function zip(files: { name: string; data: Buffer; mode?: number; says?: number }[]): Buffer {
  const locals: Buffer[] = [],
    central: Buffer[] = [];
  let at = 0;
  for (const { name, data, mode = 0o100644, says } of files) {
    const packed = deflateRawSync(data, { level: 9 }),
      bytes = Buffer.from(name),
      crc = crc32(data),
      head = Buffer.alloc(30),
      entry = Buffer.alloc(46);
    head.writeUInt32LE(0x04034b50, 0);
    for (const [b, o] of [
      [head, 4],
      [entry, 6],
    ] as const) {
      b.writeUInt16LE(20, o);
      b.writeUInt16LE(8, o + 4);
      b.writeUInt32LE(crc, o + 10);
      b.writeUInt32LE(packed.length, o + 14);
      b.writeUInt32LE(says ?? data.length, o + 18);
      b.writeUInt16LE(bytes.length, o + 22);
    }
    entry.writeUInt32LE(0x02014b50, 0);
    entry.writeUInt16LE((3 << 8) | 20, 4);
    entry.writeUInt32LE((mode << 16) >>> 0, 38);
    entry.writeUInt32LE(at, 42);
    locals.push(head, bytes, packed);
    central.push(entry, bytes);
    at += head.length + bytes.length + packed.length;
  }
  const directory = Buffer.concat(central),
    last = Buffer.alloc(22);
  last.writeUInt32LE(0x06054b50, 0);
  last.writeUInt16LE(files.length, 8);
  last.writeUInt16LE(files.length, 10);
  last.writeUInt32LE(directory.length, 12);
  last.writeUInt32LE(at, 16);
  return Buffer.concat([...locals, directory, last]);
}
const sha = (data: Buffer): string => createHash('sha256').update(data).digest('hex');
const look = Buffer.from(JSON.stringify(byName('Chalk')));
function made(files: Record<string, Buffer>, manifest: object = {}): { name: string; data: Buffer }[] {
  const all = { 'a/look.json': look, ...files };
  const own = {
    format: 'dyepot-looks',
    version: 1,
    looks: [{ folder: 'a', name: 'Chalk', history: [] }],
    files: Object.fromEntries(Object.entries(all).map(([name, data]) => [name, sha(data)])),
    ...manifest,
  };
  return [
    { name: 'manifest.json', data: Buffer.from(JSON.stringify(own)) },
    ...Object.entries(all).map(([name, data]) => ({ name, data })),
  ];
}
const bomb = Buffer.alloc(80e6);
const manySteps = Buffer.from(
  JSON.stringify({ ...byName('Chalk'), print: Array.from({ length: 100_000 }, () => byName('Chalk').print[0]) }),
);

describe('a hostile file of looks', () => {
  it('made by hand and whole, is read', async () => expect((await post('/parcels', zip(made({})))).body.looks[0]!.look.name).toBe('Chalk'));
  it.each<[string, () => Buffer, RegExp]>([
    ['that is no archive', () => Buffer.from('not at all'), /not an archive/],
    ['that is cut', () => zip(made({})).subarray(0, 300), /not an archive/],
    ['with a file outside its folder', () => zip([...made({}), { name: '../../evil.json', data: look }]), /relative path|not a name/],
    ['with a whole path', () => zip([...made({}), { name: '/etc/cron.d/evil', data: look }]), /absolute path|not a name/],
    ['with a link', () => zip([...made({}), { name: 'a/link.json', data: look, mode: 0o120777 }]), /link/],
    ['with a file twice', () => zip([...made({}), { name: 'a/look.json', data: look }]), /twice/],
    ['with script in a name', () => zip([...made({}), { name: 'a/<script>.json', data: look }]), /not a name/],
    ['with a file that swells', () => zip(made({ 'a/big.json': bomb })), /80 MB/],
    [
      'with a file that swells beyond what it says',
      () => zip([...made({}), { name: 'a/big.json', data: bomb, says: 1000 }]),
      /larger than the archive says|too many bytes/,
    ],
    ['whose file was changed', () => zip(made({}, { files: { 'a/look.json': 'f'.repeat(64) } })), /SHA-256/],
    ['with a file its manifest does not name', () => zip([...made({}), { name: 'a/stray.json', data: look }]), /not named/],
    ['of a later version', () => zip(made({}, { version: 9 })), /version 9/],
    ['without a manifest', () => zip([{ name: 'a/look.json', data: look }]), /no manifest/],
    ['with a hundred thousand steps', () => zip(made({ 'a/look.json': manySteps })), /100000 steps/],
    [
      'whose look names a part that is not there',
      () =>
        zip(
          made({
            'a/look.json': Buffer.from(
              JSON.stringify({ ...byName('Weld gold'), stock: { ...byName('Weld gold').stock, params: { sheet: { file: '../../x' } } } }),
            ),
          }),
        ),
      /not there/,
    ],
  ])('%s is refused with a reason, soon', async (_, data, says) => {
    const made = data();
    // making it takes a while, in which the connection was closed
    await new Promise((r) => setTimeout(r, 100));
    const began = performance.now(),
      count = (await cards()).length,
      { status, body } = await post('/parcels', made);
    expect(status).toBe(400);
    expect(body.message).toMatch(says);
    expect(performance.now() - began).toBeLessThan(2000);
    expect((await cards()).length).toBe(count);
  });
});

describe('a folder of looks', () => {
  const shared = join(data, 'studio'),
    parcels = (): string[] => readdirSync(shared).sort();
  it('has what the shelf has, and the shelf what comes into it; of two who went on from one look both are kept', async () => {
    mkdirSync(shared);
    const [first] = await cards();
    expect((await call('PUT', '/look-folder', { folder: join(shared, 'nowhere') })).status).toBe(400);
    await call('PUT', '/look-folder', { folder: shared });
    await expect.poll(() => parcels().length, { timeout: 30_000 }).toBe((await cards()).length);
    const count = (await cards()).length,
      file = join(shared, `${first!.name}.dyelook`),
      document = (await call<{ document: Look }>('GET', `/looks/${first!.id}`)).body.document,
      base = await parcel([first!.id]);
    expect(readFileSync(file).equals(base)).toBe(true);
    // what is saved here is put there in its place
    await call('POST', `/looks/${first!.id}/revisions`, { look: { ...document, notes: 'ours' }, from: first!.revision });
    await expect.poll(() => readFileSync(file).equals(base), { timeout: 20_000 }).toBe(false);
    expect(parcels()).toHaveLength(count);
    // another machine goes on from what was there before: it is a look of its own, and neither is lost
    const [old] = await unpack(base),
      theirs: ParcelLook = { look: { ...old!.look, notes: 'theirs' }, history: [...old!.history, sayingOf(old!.look)], strip: [] };
    writeFileSync(join(shared, 'theirs.dyelook'), await pack([theirs]));
    await expect.poll(async () => (await cards()).length, { timeout: 20_000 }).toBe(count + 1);
    expect((await cards()).filter((c) => c.name === first!.name)).toHaveLength(2);
    // another machine goes on from what we have: it is our look's next revision
    const [now] = await unpack(readFileSync(file)),
      next: ParcelLook = { look: { ...now!.look, notes: 'ours, further' }, history: [...now!.history, sayingOf(now!.look)], strip: [] };
    writeFileSync(join(shared, 'further.dyelook'), await pack([next]));
    await expect.poll(async () => (await cards()).find((c) => c.id === first!.id)!.revision, { timeout: 20_000 }).toBe(first!.revision + 2);
    // what is damaged is said, and harms nothing; what was taken out here stays out
    writeFileSync(join(shared, 'broken.dyelook'), 'no archive at all');
    await expect
      .poll(async () => (await call<{ troubles: string[] }>('GET', '/look-folder')).body.troubles.join(), { timeout: 20_000 })
      .toMatch(/^broken\.dyelook: /);
    const last = (await cards()).at(-1)!;
    await call('DELETE', `/looks/${last.id}`);
    await end();
    await serve();
    await expect
      .poll(async () => (await call<{ troubles: string[] }>('GET', '/look-folder')).body.troubles.length, { timeout: 20_000 })
      .toBe(1);
    expect((await cards()).some((c) => c.id === last.id || (c.name === last.name && last.name !== first!.name))).toBe(false);
    await call('PUT', '/look-folder', { folder: null });
  });
  it('goes as one file by its family, or the whole shelf', async () => {
    const of = async (query: string): Promise<number> =>
      (await unpack(Buffer.from(await (await fetch(`${origin}/api/looks/parcel${query}`)).arrayBuffer()))).length;
    const all = await cards(),
      family = all.find((c) => c.family !== '')!.family;
    expect(await of('')).toBe(all.length);
    expect(await of(`?family=${encodeURIComponent(family)}`)).toBe(all.filter((c) => c.family === family).length);
    expect((await call('GET', '/looks/parcel?family=nobody')).status).toBe(404);
    expect((await call('GET', '/looks/parcel?family=a&ids=1')).status).toBe(400);
  });
});
