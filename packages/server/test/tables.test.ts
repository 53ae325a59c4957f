import { execFileSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { writeCube } from '@dyepot/core/src/formats/cube.ts';
import { applyTable, readStoredTable, table3d, type StoredTable } from '@dyepot/core/src/colour/table.ts';
import { emptyLook, newStep, type Look } from '@dyepot/core/src/look/look.ts';
import { call, data, end, open, origin } from './serverTrial.ts';

beforeAll(open);
afterAll(() => end());

interface Read {
  table: StoredTable;
  corrections: { id: string }[];
  warnings: string[];
  message: string;
}
const send = async (
  path: string,
  name: string,
  body: Uint8Array<ArrayBuffer> | string,
): Promise<{ status: number; body: Read & { id: string } }> => {
  const r = await fetch(`${origin}/api/tables/${path}?name=${encodeURIComponent(name)}`, { method: 'POST', body });
  return { status: r.status, body: (await r.json()) as Read & { id: string } };
};
const graded: Look = {
  ...emptyLook('Graded'),
  scene: [{ ...newStep('haze', 'haze'), params: { amount: 40 } }],
  print: [{ ...newStep('grade', 'grade'), params: { lightsHue: 70, lightsChroma: 0.03 } }],
};
/** Nothing that was sent stays behind. */
const kept = (): string[] =>
  existsSync(join(data, 'home', 'uploads')) ? readdirSync(join(data, 'home', 'uploads')).filter((f) => /^(table|bake)-/.test(f)) : [];

describe('a table that is sent', () => {
  it('comes back as it can stand in a look, with what there is to say of it', async () => {
    const { status, body } = await send('read', 'Swap.cube', writeCube(table3d('Swap', 5, ([r, g, b]) => [b, g, r])));
    expect(status).toBe(200);
    const held = readStoredTable(body.table);
    if ('message' in held) throw new Error(held.message);
    expect(applyTable(held.table, [0.2, 0.5, 0.9]).map((v) => v.toFixed(4))).toEqual(['0.9000', '0.5000', '0.2000']);
    expect(body.warnings.join(' ')).toMatch(/folded.*coarse/);
    expect(kept()).toEqual([]);
  });
  it('a large one is brought down, and it is said', async () => {
    const { body } = await send('read', 'fine.cube', writeCube(table3d('Fine', 81, (c) => c)));
    expect(body.table.size).toBe(65);
    expect(body.warnings.join(' ')).toContain('81³ colours are brought down to 65³');
  });
  it('a Hald image of 8 bits is read, and its steps are mentioned', async () => {
    const t = table3d('h', 16, ([r, g, b]) => [r ** 2, g, b]),
      png = await sharp(
        Uint8Array.from(t.data, (v) => Math.round(v * 255)),
        { raw: { width: 64, height: 64, channels: 3 } },
      )
        .png()
        .toBuffer(),
      { body } = await send('read', 'hald.png', new Uint8Array(png));
    expect(body.table).toMatchObject({ kind: '3d', size: 16 });
    expect(body.warnings.join(' ')).toContain('8-bit Hald image');
  });
  it.each([
    ['cut.cube', 'LUT_3D_SIZE 3\n0 0 0\n', /cut\.cube: line 3: the table ends after 1 of 27 rows/],
    ['odd.cube', 'LUT_3D_SIZE 2\n0 0\n', /odd\.cube: line 2: expected three numbers, found two numbers/],
    ['bomb.clf', '<!DOCTYPE a [<!ENTITY b "c">]>\n<ProcessList/>', /bomb\.clf: line 1: it declares a document type or entities/],
    ['deep.cc', '<a>'.repeat(20000), /deep\.cc: line/],
    ['none.cdl', '<ColorDecisionList/>', /none\.cdl: there is no ColorCorrection in it/],
    ['picture.png', 'not a picture', /picture\.png is damaged or is not a picture/],
    ['recipe.txt', 'hello', /recipe\.txt is not a table that can be read/],
    ['../../etc/passwd.cube', 'x', /passwd\.cube: line 1/],
    ['empty.cube', '', /empty\.cube: line \d+: neither LUT_1D_SIZE nor LUT_3D_SIZE/],
  ])('%s is refused in a second, with its line', async (name, body, words) => {
    const start = performance.now(),
      answer = await send('read', name, body);
    expect(performance.now() - start).toBeLessThan(1000);
    expect(answer.status).toBe(422);
    expect(answer.body.message).toMatch(words);
    expect(kept()).toEqual([]);
  });
  it('a Hald image of the wrong size says what sizes there are', async () => {
    const png = await sharp({ create: { width: 60, height: 60, channels: 3, background: '#888' } })
      .png()
      .toBuffer();
    expect((await send('read', 'no.png', new Uint8Array(png))).body.message).toContain('this one is 60 × 60');
  });
});

describe('a look that is baked', () => {
  it('says first what a table cannot carry, then how near it comes', async () => {
    const { status, body } = await call<{ leftOut: { name: string }[]; error: { mean: number; worst: number }; suggestedSize: number }>(
      'POST',
      '/tables/bake-report',
      { look: graded, format: 'cube', size: 33, input: 'srgb' },
    );
    expect(status).toBe(200);
    expect(body.leftOut).toMatchObject([{ name: 'Haze' }]);
    expect(body.error.mean).toBeLessThan(0.3);
    expect(body.suggestedSize).toBeLessThanOrEqual(65);
  });
  it.each(['cube', 'clf'] as const)('as .%s is a file that OpenColorIO reads as we do', async (format) => {
    const r = await fetch(`${origin}/api/tables/bake`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ look: graded, format, size: 17, input: 'srgb' }),
      }),
      file = join(data, `baked.${format}`);
    expect(r.headers.get('content-disposition')).toContain(`Graded.${format}`);
    writeFileSync(file, Buffer.from(await r.arrayBuffer()));
    const theirs = execFileSync('ociochecklut', [file, '0.3', '0.5', '0.2'], { encoding: 'utf8' })
        .trim()
        .split(/\s+/)
        .slice(-3)
        .map(Number),
      { body } = await send('read', `baked.${format}`, new Uint8Array(readFileSync(file))),
      held = readStoredTable(body.table);
    if ('message' in held) throw new Error(held.message);
    applyTable(held.table, [0.3, 0.5, 0.2]).forEach((v, k) => expect(Math.abs(v - theirs[k]!)).toBeLessThan(1e-5));
    expect(kept()).toEqual([]);
  });
  it('of linear light is no Hald image, and it is said why', async () =>
    expect((await call('POST', '/tables/bake-report', { look: graded, format: 'png', size: 64, input: 'linear' })).body.message).toContain(
      'reaches from 0 to 1',
    ));
  it.each([
    [{ format: 'cube', size: 1, input: 'srgb' }, 'size'],
    [{ format: 'exe', size: 33, input: 'srgb' }, 'format'],
    [{ format: 'cube', size: 33, input: 'guess' }, 'input'],
    [{ format: 'png', size: 33, input: 'srgb' }, 'not 33'],
  ])('%j is refused', async (wish, word) => {
    const { status, body } = await call('POST', '/tables/bake-report', { look: graded, ...wish });
    expect([400, 422]).toContain(status);
    expect(body.message).toContain(word);
  });
});

describe('a table from a picture pair', () => {
  const picture = async (
    width: number,
    change: (r: number, g: number, b: number) => [number, number, number],
  ): Promise<Uint8Array<ArrayBuffer>> => {
    const pixels = new Uint8Array(width * 64 * 3);
    for (let i = 0; i < width * 64; i++) pixels.set(change((i * 37) % 256, (i * 101) % 256, (i * 199) % 256), i * 3);
    return new Uint8Array(
      await sharp(pixels, { raw: { width, height: 64, channels: 3 } })
        .png()
        .toBuffer(),
    );
  };
  it('is found, and says how much of the cube was there and what is left', async () => {
    const before = await send('picture', 'before.png', await picture(64, (r, g, b) => [r, g, b])),
      after = await send(
        'picture',
        'after.png',
        await picture(64, (r, g, b) => [Math.round(255 * (r / 255) ** 1.4), g, Math.round(b * 0.8)]),
      ),
      { status, body } = await call<{ table: StoredTable; coverage: number; mean: number; worst: number }>('POST', '/tables/fit', {
        before: before.body.id,
        after: after.body.id,
        size: 9,
      });
    expect(status).toBe(200);
    expect(body.coverage).toBeGreaterThan(0.2);
    expect(body.mean).toBeLessThan(3);
    const held = readStoredTable(body.table);
    if ('message' in held) throw new Error(held.message);
    const [r, , b] = applyTable(held.table, [0.5, 0.5, 0.5]);
    expect(r).toBeCloseTo(0.5 ** 1.4, 1);
    expect(b).toBeCloseTo(0.4, 1);
    // both pictures are gone once they have served
    expect((await call('POST', '/tables/fit', { before: before.body.id, after: after.body.id, size: 9 })).body.message).toContain(
      'send both pictures first',
    );
  });
  it('pictures of two sizes are refused, with both', async () => {
    const a = await send('picture', 'a.png', await picture(64, (r, g, b) => [r, g, b])),
      b = await send('picture', 'b.png', await picture(48, (r, g, b) => [r, g, b])),
      { status, body } = await call('POST', '/tables/fit', { before: a.body.id, after: b.body.id, size: 17 });
    expect(status).toBe(422);
    expect(body.message).toMatch(/a\.png is 64 × 64 and b\.png is 48 × 64/);
  });
});
