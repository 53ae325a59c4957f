import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { nameFrom, patternTrouble, type NameFacts } from '@dyepot/core/src/formats/fileNames.ts';
import { plainGroundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import { root } from '../src/places.ts';
import type { DeliveryRecord } from '../src/jobs/record.ts';
import type { MovedSince } from '@dyepot/web/src/deliveries/deliveryApi.ts';
import { call, end, finished, open, shootWith, type Job } from './serverTrial.ts';

let shootId = 0,
  frameIds: number[] = [];
const folder = (): string => mkdtempSync(join(tmpdir(), 'dyepot-files-'));
const plain = { format: 'jpeg', depth: 8, space: 'srgb', size: 400, quality: 90 } as const;
async function delivered(file: object, more: object = {}): Promise<{ job: Job; dir: string; files: string[] }> {
  const dir = folder(),
    order = await call<Job>('POST', '/deliveries', { shootId, frameIds, folder: dir, file: { ...plain, ...file }, ...more });
  expect(order.body.message ?? null).toBeNull();
  const job = await finished(order.body.id);
  return { job, dir, files: readdirSync(dir).sort() };
}
/** What ExifTool reads in a file. */
function exiftool(file: string): Record<string, string> {
  const r = spawnSync('exiftool', ['-j', '-G1', '-a', file], { encoding: 'utf8' });
  return (JSON.parse(r.stdout) as Record<string, string>[])[0]!;
}
const validity = (file: string): string => spawnSync('exiftool', ['-validate', '-warning', '-a', file], { encoding: 'utf8' }).stdout;

beforeAll(async () => {
  await open();
  const shoot = await shootWith('Autumn');
  shootId = shoot.id;
  frameIds = shoot.frames.slice(0, 2).map((f) => f.id);
});
afterAll(() => end());

describe('file names by a pattern', () => {
  const facts: NameFacts = {
    frame: 'TR-0412',
    shoot: 'Autumn',
    look: 'Weld gold',
    revision: 3,
    date: '2026-10-02',
    counter: 7,
    count: 1200,
    dip: 2,
  };
  it('say what is asked, safely', () => {
    expect(nameFrom('{date}_{shoot}-{counter}_{look} r{revision} dip {dip}', facts)).toBe('2026-10-02_Autumn-0007_Weld gold r3 dip 2');
    for (const hostile of [
      '../../etc/passwd',
      '/abs',
      'a/../../b',
      'C:\\x',
      '..',
      '.',
      '\u0000x',
      'con',
      'NUL.txt',
      '   ',
      '{frame}/../../x',
    ]) {
      const name = nameFrom(hostile, facts);
      expect(name).not.toMatch(/[/\\\u0000]|^\.|^(con|nul)(\.|$)/i);
      expect(name.length).toBeGreaterThan(0);
    }
    expect(Buffer.byteLength(nameFrom('{shoot}', { ...facts, shoot: '染'.repeat(200) }))).toBeLessThanOrEqual(230);
  });
  it('are refused in a sentence where they mean nothing', () => {
    expect(patternTrouble('{frame}_{look}')).toBeNull();
    expect(patternTrouble('{nonsense}')).toContain('There is no {nonsense}');
    expect(patternTrouble('{frame')).toContain('brace');
    expect(patternTrouble('  ')).toContain('empty');
  });
  it('are given to files, each once', async () => {
    const { files } = await delivered({}, { pattern: '{shoot} {date}' });
    expect(files.length).toBe(2);
    expect(files.some((f) => f.endsWith('-2.jpg'))).toBe(true);
    expect((await call('POST', '/deliveries', { shootId, frameIds, folder: folder(), file: plain, pattern: '{x}' })).status).toBe(400);
  });
});

describe('finished files', () => {
  it.each(['webp', 'avif', 'png', 'tiff'] as const)('%s is read by another reader, near the picture a JPEG has', async (format) => {
    const [{ dir, files }, jpeg] = [await delivered({ format, quality: 92 }), await delivered({ quality: 98 })],
      read = async (file: string): Promise<Buffer> => sharp(file).removeAlpha().toColourspace('srgb').raw().toBuffer();
    const [own, other] = [await read(join(dir, files[0]!)), await read(join(jpeg.dir, jpeg.files[0]!))];
    expect(own.length).toBe(other.length);
    let sum = 0;
    for (let i = 0; i < own.length; i++) sum += Math.abs(own[i]! - other[i]!);
    expect(sum / own.length).toBeLessThan(format === 'avif' ? 3 : 2);
  });
  it.each([
    ['long', 400, (w: number, h: number) => Math.max(w, h) === 400],
    ['short', 300, (w: number, h: number) => Math.min(w, h) === 300],
    ['megapixels', 0.1, (w: number, h: number) => Math.abs((w * h) / 1e6 - 0.1) < 0.002],
  ] as const)('are measured by %s', async (sizeBy, size, is) => {
    const { dir, files } = await delivered({ size, sizeBy }),
      { width, height } = await sharp(join(dir, files[0]!)).metadata();
    expect(is(width, height), `${width} × ${height}`).toBe(true);
  });
  it.each(['jpeg', 'webp', 'png', 'tiff', 'avif'] as const)(
    '%s says who made it and under which look, as ExifTool reads it, and is valid',
    async (format) => {
      const credit = { author: 'Ada Fullgarth & Co <studio>', copyright: '© 2026 Ada Fullgarth', contact: 'ada@studio.invalid' },
        { dir, files } = await delivered({ format, credit, namesLook: true }),
        file = join(dir, files[0]!),
        said = exiftool(file);
      expect(said['XMP-dc:Creator']).toBe(credit.author);
      expect(said['XMP-dc:Rights']).toBe(credit.copyright);
      expect(said['XMP-iptcCore:CreatorWorkEmail']).toBe(credit.contact);
      expect(said['IFD0:Artist']).toBe(credit.author);
      expect(Object.entries(said).some(([k, v]) => /Look$/.test(k) && v === 'Neutral response')).toBe(true);
      expect(validity(file)).not.toMatch(/Error/);
    },
  );
  it('say nothing of how they were taken where that is not wanted', async () => {
    const [with_, without] = [await delivered({}), await delivered({ taken: false })];
    expect(exiftool(join(with_.dir, with_.files[0]!))['ExifIFD:ISO']).toBeDefined();
    const said = exiftool(join(without.dir, without.files[0]!));
    expect([said['ExifIFD:ISO'], said['IFD0:Model'], said['IFD0:Software']]).toEqual([undefined, undefined, 'Dyepot']);
  });
  it('are sharper for paper than for a screen, and greys stay where they are', async () => {
    const edges = async (sharpen: string): Promise<{ edge: number; mean: number }> => {
      const { dir, files } = await delivered({ sharpen, format: 'png' }),
        { data, info } = await sharp(join(dir, files[0]!)).greyscale().raw().toBuffer({ resolveWithObject: true });
      let edge = 0,
        sum = 0;
      for (let i = 1; i < data.length; i++) {
        if (i % info.width !== 0) edge += Math.abs(data[i]! - data[i - 1]!);
        sum += data[i]!;
      }
      return { edge: edge / data.length, mean: sum / data.length };
    };
    const [none, screen, matte] = [await edges('none'), await edges('screen'), await edges('matte')];
    expect(screen.edge).toBeGreaterThan(none.edge * 1.01);
    expect(matte.edge).toBeGreaterThan(screen.edge);
    expect(Math.abs(matte.mean - none.mean)).toBeLessThan(0.5);
  });
  it('are in the space they are asked for: read back by their profile, the colours are those of the sRGB file', async () => {
    // greys and skins of a frame lie in every space: what littleCMS makes of each file is one picture
    const seen = async (file: string): Promise<Buffer> => sharp(file).toColourspace('srgb').removeAlpha().resize(60, 40).raw().toBuffer();
    const first = async (settings: object): Promise<string> => {
      const { dir, files } = await delivered({ format: 'tiff', depth: 16, size: 300, ...settings });
      return join(dir, files[0]!);
    };
    const reference = await seen(await first({}));
    for (const space of ['oprgb', 'rec2020', 'linear', 'p3']) {
      const file = await first({ space }),
        other = await seen(file),
        apart = other.reduce((sum, v, i) => sum + Math.abs(v - reference[i]!), 0) / other.length;
      expect([space, apart < 2.5]).toEqual([space, true]);
      const { 'ICC_Profile:ProfileDescription': name } = exiftool(file);
      expect(name).toMatch({ oprgb: /opRGB/, rec2020: /BT\.2020/, linear: /^Linear/, p3: /Display P3/ }[space]!);
      expect(validity(file)).toMatch(/OK/);
    }
  });
  it('fit in a box, never enlarged', async () => {
    const sizeIn = async (box: [number, number]): Promise<[number, number]> => {
      const { dir, files } = await delivered({ size: null, sizeBy: 'box', box }),
        { width, height } = await sharp(join(dir, files[0]!)).metadata();
      return [width, height];
    };
    expect(await sizeIn([300, 300])).toEqual([300, 200]);
    expect(await sizeIn([3000, 100])).toEqual([150, 100]);
    expect(await sizeIn([30000, 30000])).toEqual([1632, 1088]);
  });
  it('that cannot be are refused', async () => {
    const said = async (file: object): Promise<string | undefined> =>
      (await call('POST', '/deliveries', { shootId, frameIds, folder: folder(), file: { ...plain, ...file } })).body.message;
    expect(await said({ format: 'webp', depth: 16 })).toContain('WebP holds 8 bits');
    expect(await said({ format: 'avif', space: 'p3' })).toContain('AVIF');
    expect(await said({ size: 3 })).toContain('16 to 30000');
  });
});

describe('a file is replaced only by the frame it was made of', () => {
  const order = (folder: string, ids: number[], more: object = {}): ReturnType<typeof call<Job>> =>
    call<Job>('POST', '/deliveries', { shootId, frameIds: ids, folder, file: plain, pattern: 'proof {counter}', ...more });
  it('numbers that begin anew do not take another frame’s file; the same frame’s own goes without asking', async () => {
    const dir = folder(),
      [first, second] = frameIds as [number, number];
    await finished((await order(dir, [first])).body.id);
    const own = readFileSync(join(dir, 'proof 001.jpg')),
      asked = await order(dir, [second]);
    expect([asked.status, asked.body.message]).toEqual([409, expect.stringMatching(/is made of other frames/)]);
    await finished((await order(dir, [second], { conflict: 'rename' })).body.id);
    expect(readdirSync(dir).sort()).toEqual(['proof 001-2.jpg', 'proof 001.jpg']);
    expect(readFileSync(join(dir, 'proof 001.jpg')).equals(own)).toBe(true);
    expect(await finished((await order(dir, [first])).body.id)).toMatchObject({ state: 'done', done: 1 });
  });
  it('what has moved is delivered under the names it had', async () => {
    const { job, dir } = await delivered({}, { pattern: 'proof {counter}' }),
      [, second] = frameIds as [number, number],
      before = ['proof 001.jpg', 'proof 002.jpg'].map((f) => readFileSync(join(dir, f)));
    await call('PUT', `/frames/${second}/groundwork`, { groundwork: { ...plainGroundwork, exposureEv: 1 } });
    await finished((await call<Job>('POST', `/jobs/${job.id}/moved`, {})).body.id);
    expect(readdirSync(dir).sort()).toEqual(['proof 001.jpg', 'proof 002.jpg']);
    expect(readFileSync(join(dir, 'proof 001.jpg')).equals(before[0]!)).toBe(true);
    expect(readFileSync(join(dir, 'proof 002.jpg')).equals(before[1]!)).toBe(false);
    await call('PUT', `/frames/${second}/groundwork`, { groundwork: null });
  });
  it('a dip is counted among all of its raw, whichever are delivered', async () => {
    const dir = folder(),
      { ids } = (await call<{ ids: number[] }>('POST', '/frames/dip', { ids: [frameIds[0]] })).body;
    await finished((await order(dir, ids, { pattern: 'dip {dip}' })).body.id);
    expect(readdirSync(dir)).toEqual(['dip 2.jpg']);
  });
});

describe('the record of a delivery', () => {
  const verify = (...args: string[]): ReturnType<typeof spawnSync> =>
    spawnSync(process.execPath, [join(root, 'packages/cli/bin/dyepot.mjs'), 'verify', ...args], { encoding: 'utf8' });
  it('names each file by its content; verify finds what was changed and what is missing', async () => {
    const { job, dir, files } = await delivered({}),
      record = (await call<DeliveryRecord>('GET', `/jobs/${job.id}/record`)).body,
      at = join(folder(), 'record.json');
    expect(record.files.map((f) => f.file)).toEqual(files);
    writeFileSync(at, JSON.stringify(record));
    expect(verify(at)).toMatchObject({ status: 0, stdout: expect.stringContaining('2 of 2') as string });
    writeFileSync(join(dir, files[0]!), Buffer.concat([readFileSync(join(dir, files[0]!)), Buffer.from('x')]));
    const wrong = verify(at);
    expect([wrong.status, wrong.stdout]).toEqual([1, expect.stringMatching(/changed\s+.*\n1 of 2/)]);
    writeFileSync(at, JSON.stringify({ ...record, files: [{ ...record.files[0]!, file: '../../x' }] }));
    expect(verify(at)).toMatchObject({ status: 2, stderr: expect.stringContaining('cannot mean') as string });
  });
  it('delivered again the files are the same, byte for byte; another’s file in their place is left', async () => {
    const { job, dir, files } = await delivered({ quality: 80 }),
      before = files.map((f) => readFileSync(join(dir, f)));
    const again = await finished((await call<Job>('POST', `/jobs/${job.id}/again`)).body.id);
    expect(again).toMatchObject({ state: 'done', done: 2 });
    files.forEach((f, i) => expect(readFileSync(join(dir, f)).equals(before[i]!)).toBe(true));
    writeFileSync(join(dir, files[0]!), 'somebody else’s');
    expect((await call('POST', `/jobs/${job.id}/again`)).status).toBe(409);
    expect(readFileSync(join(dir, files[0]!), 'utf8')).toBe('somebody else’s');
  });
  it('tells which frames have moved since, and why', async () => {
    const { job } = await delivered({}),
      moved = async (): Promise<MovedSince['moved']> => (await call<MovedSince>('GET', `/jobs/${job.id}/moved`)).body.moved;
    expect(await moved()).toEqual([]);
    const { frames } = (await call<{ frames: { id: number; name: string }[] }>('GET', `/shoots/${shootId}`)).body,
      second = frames.find((f) => f.id === frameIds[1])!;
    const ground = { format: 'dyepot-groundwork', version: 1, exposureEv: 0.5 };
    expect((await call('PUT', `/frames/${second.id}/groundwork`, { groundwork: ground })).status).toBeLessThan(300);
    expect(await moved()).toEqual([{ frameId: second.id, name: second.name, why: ['its groundwork'] }]);
  });
  it('presets are kept, and nonsense is not', async () => {
    const preset = { name: 'Web', folder: '', pattern: '{frame}', file: plain };
    expect((await call('PUT', '/delivery-presets', preset)).status).toBe(200);
    expect((await call('PUT', '/delivery-presets', { ...preset, name: 'Print' })).status).toBe(200);
    expect((await call('PUT', '/delivery-presets', { ...preset, pattern: '{counter}' })).status).toBe(200);
    const kept = async (): Promise<object[]> => (await call<{ presets: object[] }>('GET', '/delivery-presets')).body.presets;
    expect(await kept()).toEqual([
      { ...preset, name: 'Print' },
      { ...preset, pattern: '{counter}' },
    ]);
    expect((await call('PUT', '/delivery-presets', { ...preset, name: ' ' })).status).toBe(400);
    expect((await call('DELETE', '/delivery-presets?name=Web')).status).toBe(200);
    expect(await kept()).toEqual([{ ...preset, name: 'Print' }]);
  });
});
