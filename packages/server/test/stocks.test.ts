import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { stocks } from '@dyepot/core/src/stock/film/stocks.ts';
import type { StockSheet } from '@dyepot/core/src/stock/film/sheet.ts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { call, data, end, finished, jpeg, open, origin, shootWith, type Job } from './serverTrial.ts';

interface Stock {
  id: number;
  revision: number;
  newest: number;
  sheet: StockSheet;
}
beforeAll(async () => {
  await open();
});
afterAll(() => end());
const own = { ...stocks[0]!, name: 'Own', notes: 'mine' };

describe('a stock on the shelf', () => {
  it('has revisions; the one it was made from says when another was newer; the file is the sheet', async () => {
    const made = (await call<Stock>('POST', '/stocks', own)).body;
    expect([made.revision, made.sheet.name]).toEqual([1, 'Own']);
    const next = await call<Stock>('POST', `/stocks/${made.id}/revisions`, { sheet: { ...own, grey: 0.2 }, from: 1 });
    expect(next.body.revision).toBe(2);
    const late = await call('POST', `/stocks/${made.id}/revisions`, { sheet: own, from: 1 });
    expect([late.status, late.body.message]).toEqual([409, 'Own is at revision 2, and this was made from revision 1']);
    expect((await call<Stock>('GET', `/stocks/${made.id}?revision=1`)).body.sheet.grey).toBe(0.18);
    const file = (await (await fetch(`${origin}/api/stocks/${made.id}/file`)).json()) as StockSheet;
    expect(file).toEqual({ ...own, grey: 0.2 });
    const list = (await call<{ id: number | null; name: string }[]>('GET', '/stocks')).body;
    expect(list.map((s) => s.name)).toEqual(['Own', ...stocks.map((s) => s.name)]);
  });
  it('goes to the trash and comes back', async () => {
    const made = (await call<Stock>('POST', '/stocks', { ...own, name: 'Second' })).body;
    await call('DELETE', `/stocks/${made.id}`);
    const trash = (await call<{ kind: string; name: string; words: string }[]>('GET', '/trash')).body;
    expect(trash[0]).toMatchObject({ kind: 'stock', name: 'Second', words: 'a film stock of 1 revision' });
    await call('POST', `/trash/stock/${made.id}/restore`);
    expect((await call<Stock>('GET', `/stocks/${made.id}`)).body.sheet.name).toBe('Second');
  });
  it('that is none is refused in words that say where, and changes nothing', async () => {
    const count = (await call<object[]>('GET', '/stocks')).body.length,
      said = async (sheet: object): Promise<string> => {
        const r = await call('POST', '/stocks', sheet);
        expect(r.status).toBe(400);
        return r.body.message!;
      };
    const curve = own.curves[0]!;
    expect(await said({ ...own, curves: [{ ...curve, dmin: 1.9, dmax: 1.2 }, curve, curve] })).toContain('Dmin is not under Dmax');
    expect(await said({ ...own, layers: Array.from({ length: 1000 }, () => own.layers[0]) })).toContain('1000 layers');
    expect(await said({ ...own, grey: null })).toContain('grey');
    expect(await said({ format: 'dyepot-look' })).toContain('not a stock');
    expect((await call<object[]>('GET', '/stocks')).body.length).toBe(count);
  });
  it('under way in the designer is kept, and another window’s work is not written over', async () => {
    const at = `/stocks/draft?from=${encodeURIComponent('name:Weld')}`,
      body = { sheet: { ...own, name: 'Under way' }, past: [], future: [], use: { contrast: 5, colour: 0, rated: -1, push: 0, print: 0 } };
    expect((await call('GET', at)).body).toBeNull();
    expect((await call<{ version: number }>('PUT', at, { ...body, version: 0 })).body.version).toBe(1);
    expect((await call('PUT', at, { ...body, version: 0 })).status).toBe(409);
    expect((await call<{ sheet: StockSheet; use: object }>('GET', at)).body).toMatchObject({
      sheet: { name: 'Under way' },
      use: { rated: -1 },
    });
    // curves are moved one after another: what crosses for the moment is kept, but is no stock yet
    const crossing = { ...own, curves: own.curves.map((c, i) => (i === 0 ? { ...c, gamma: 1.4, start: -1.2 } : c)) };
    expect((await call<{ version: number }>('PUT', at, { ...body, sheet: crossing, version: 1 })).body.version).toBe(2);
    expect((await call('POST', '/stocks', crossing)).status).toBe(400);
    await call('DELETE', at);
    expect((await call('GET', at)).body).toBeNull();
  });
});

describe('a picture to lay over', () => {
  const send = async (
    bytes: Uint8Array<ArrayBuffer>,
    name: string,
  ): Promise<{ status: number; body: { message?: string; width?: number; data?: string } }> => {
    const r = await fetch(`${origin}/api/pictures/read?name=${name}`, {
      method: 'POST',
      body: bytes,
      headers: { 'Content-Type': 'application/octet-stream' },
    });
    return { status: r.status, body: (await r.json()) as { message?: string } };
  };
  const png = async (width: number, height: number): Promise<Uint8Array<ArrayBuffer>> =>
    Uint8Array.from(
      await sharp({ create: { width, height, channels: 3, background: '#804020' } })
        .png()
        .toBuffer(),
    );
  it('is read as large as is kept, its colours as they are', async () => {
    const { body } = await send(await png(2000, 500), 'wood.png');
    expect(body.width).toBe(1280);
    expect([...Buffer.from(body.data!, 'base64').subarray(0, 3)]).toEqual([0x80, 0x40, 0x20]);
  });
  it('that is none, or too large, or cut short, says so plainly; the server goes on', async () => {
    expect((await send(Uint8Array.from([1, 2, 3]), 'x.png')).body.message).toContain('not a picture');
    expect((await send(await png(30000, 8), 'wide.png')).body.message).toContain('30000 × 8 pixels');
    const whole = await png(400, 400);
    expect((await send(whole.slice(0, whole.length - 60), 'cut.png')).body.message).toContain('cannot be read to its end');
    expect((await call('GET', '/stocks')).status).toBe(200);
  });
});

it('a look with stock, grain, halation and a vignette is delivered, and twice with the same bytes', async () => {
  const shoot = await shootWith('Film'),
    step = (id: string, kind: string, params: object): object => ({ id, kind, params });
  const look = await call<{ id: number; message?: string }>('POST', '/looks', {
    format: 'dyepot-look',
    version: 2,
    name: 'Finished',
    family: '',
    scene: [],
    stock: step('stock', 'film', { sheet: stocks[1] }),
    print: [step('a', 'grain', { rms: 20 }), step('b', 'vignette', { edgeEv: -1 }), step('c', 'glow', { share: 20 })],
  });
  expect(look.body.message).toBeUndefined();
  await call('POST', `/shoots/${shoot.id}/look`, { lookId: look.body.id, revision: 1 });
  const deliver = async (folder: string): Promise<Buffer> => {
    const order = {
        shootId: shoot.id,
        frameIds: [shoot.frames[0]!.id],
        folder: join(data, folder),
        file: { ...jpeg, format: 'png', depth: 16, size: null },
      },
      job = await finished((await call<Job>('POST', '/deliveries', order)).body.id);
    expect([job.state, job.failed]).toEqual(['done', 0]);
    return readFileSync(
      join(
        data,
        folder,
        readdirSync(join(data, folder)).find((f) => f.endsWith('.png'))!,
      ),
    );
  };
  expect((await deliver('one')).equals(await deliver('two'))).toBe(true);
});
