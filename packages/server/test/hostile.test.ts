import { copyFileSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { request } from 'node:http';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { emptyLook } from '@dyepot/core/src/look/look.ts';
import { data, raws, frames, names, origin, call, finished, type Job, type Shoot, end, open } from './serverTrial.ts';

beforeAll(open);
afterAll(() => end());

describe('bad input is answered plainly and harms nothing', () => {
  beforeAll(async () => {
    const shoot = (await call<Shoot>('POST', '/shoots', { name: 'Sound' })).body;
    await finished((await call<Job>('POST', `/shoots/${shoot.id}/folder`, { folder: raws })).body.id);
  });
  const good = readFileSync(join(frames, names[0]!));
  const cut = (length: number): Buffer => good.subarray(0, length);
  const absurd = (): Buffer => {
    const b = Buffer.from(good),
      at = b.indexOf(Buffer.from([0x00, 0x01, 0x04, 0x00, 0x01, 0x00, 0x00, 0x00, 0x60, 0x06, 0x00, 0x00]));
    b.writeUInt32LE(4000000000, at + 8);
    return b;
  };
  const cases: [string, () => Buffer, RegExp][] = [
    ['empty.dng', () => Buffer.alloc(0), /empty \(0 bytes\)/],
    ['letter.dng', () => Buffer.from('Dear Sir or Madam,\n'.repeat(40)), /text file, not a raw/],
    ['unknown.dng', () => Buffer.alloc(5000, 0xa7), /damaged or is not a raw/],
    ...[40, 700, 3000, 30000, 400000, good.length - 20000].map((n): [string, () => Buffer, RegExp] => [
      `cut-${n}.dng`,
      () => cut(n),
      /cut-/,
    ]),
    ['absurd.dng', absurd, /absurd\.dng/],
  ];
  it.each(cases)('%s', async (name, bytes, pattern) => {
    const folder = join(data, `bad-${name}`);
    mkdirSync(folder);
    writeFileSync(join(folder, name), bytes());
    copyFileSync(join(frames, names[3]!), join(folder, 'sound.dng'));
    const shoot = (await call<Shoot>('POST', '/shoots', { name })).body,
      job = await finished((await call<Job>('POST', `/shoots/${shoot.id}/folder`, { folder })).body.id);
    const bad = job.items.find((i) => i.name === name)!,
      sound = job.items.find((i) => i.name === 'sound.dng')!;
    expect(bad.state).toBe('failed');
    expect(bad.message).toMatch(pattern);
    expect(sound.state).toBe('done');
    expect((await call('GET', '/shoots')).status).toBe(200);
  });
  it('an upload of nothing, and a name with slashes and script tags', async () => {
    const put = (name: string, body: Buffer): Promise<Response> =>
      fetch(`${origin}/api/shoots/1/upload?name=${encodeURIComponent(name)}`, { method: 'PUT', body: new Uint8Array(body) });
    const empty = await put('nothing.dng', Buffer.alloc(0));
    expect([empty.status, ((await empty.json()) as { message: string }).message]).toEqual([400, 'nothing.dng is empty (0 bytes)']);
    const { path } = (await (await put('../../../etc/<script>alert(1)</script>.dng', good)).json()) as { path: string };
    expect(path.startsWith(join(data, 'home', 'uploads'))).toBe(true);
    expect(path).not.toMatch(/[<>]/);
    expect((await call('POST', '/shoots/1/import', { paths: ['/etc/passwd'] })).status).toBe(400);
  });
  it('a look with an unknown step or an out-of-range value', async () => {
    expect((await call('POST', '/looks', { ...emptyLook('x'), print: [{ id: 'a', kind: 'sparkle', params: {} }] })).body.message).toMatch(
      /no step kind called “sparkle”/,
    );
    expect((await call('POST', '/looks', { ...emptyLook('x'), strength: 9 })).body.message).toMatch(/strength/);
    const r = await fetch(`${origin}/api/looks`, { method: 'POST', body: '{"format":', headers: { 'Content-Type': 'application/json' } });
    expect([r.status, ((await r.json()) as { message: string }).message]).toEqual([400, 'what was sent is not JSON']);
  });
  it.each([
    ['/frames/1/plate/9', 400],
    ['/frames/1/plate/0?x=0&y=0&width=99999&height=1', 400],
    ['/frames/77777', 404],
    ['/frames/1/plate/0?x=-1&y=0&width=5&height=5', 400],
    ['/nowhere', 404],
    ['/frames/1/picture?edge=7', 400],
  ])('%s is refused with %i', async (path, status) => {
    const answer = await call('GET', path);
    expect(answer.status).toBe(status);
    expect(answer.body.message).toBeTruthy();
  });
});

describe('requests that are no sound ones are refused with a sentence', () => {
  const raw = (
    method: string,
    path: string,
    body: string | Buffer | null,
    headers: Record<string, string> = {},
  ): Promise<[number, string]> =>
    new Promise((resolve, reject) => {
      const asked = request(`${origin}${path}`, { method, headers }, (r) => {
        let text = '';
        r.on('data', (d: Buffer) => (text += d.toString()));
        r.on('end', () => resolve([r.statusCode!, (JSON.parse(text) as { message: string }).message]));
      });
      asked.on('error', reject);
      asked.end(body ?? undefined);
    });
  const sent = { 'Content-Type': 'application/json' };
  const taking = [
    ...[
      'POST /shoots',
      'PATCH /shoots/1',
      'POST /shoots/1/look',
      'POST /shoots/1/folder',
      'POST /shoots/1/import',
      'POST /frames/say',
      'PUT /shoots/1/anchor',
      'POST /shoots/1/match',
      'PUT /shoots/1/groundworks',
      'POST /frames/1/figure',
    ],
    ...['POST /frames/1/find', 'PUT /frames/1/groundwork', 'PUT /frames/1/history', 'POST /frames/take-out', 'POST /frames/1/balance'],
    ...['POST /frames/1/region/3', 'POST /frames/1/exact', 'PUT /lenses', 'POST /groundwork-presets', 'POST /looks'],
    ...['POST /looks/1/revisions', 'POST /drafts', 'PUT /drafts/1', 'POST /tables/fit', 'POST /tables/bake-report', 'POST /tables/bake'],
    ...['POST /deliveries', 'PATCH /settings', 'PATCH /looks', 'PATCH /looks/1/revisions/1', 'POST /frames/1/picture'],
    ...['POST /parcels', 'POST /parcels/taken?own=0', 'PUT /delivery-presets', 'POST /watches'],
  ];
  it.each(taking)('%s without a body, with an array, with a text', async (route) => {
    const [method, path] = route.split(' ') as [string, string];
    for (const [body, headers] of [
      [null, {}],
      ['[]', sent],
      ['null', sent],
      ['hello', { 'Content-Type': 'text/plain' }],
    ] as const) {
      const [status, message] = await raw(method, `/api${path}`, body, headers);
      expect([body, status >= 400 && status < 500, message.length > 10]).toEqual([body, true, true]);
    }
  });
  it.each([
    ['GET', '/api/frames/%F0', null, {}, 400],
    ['POST', '/api/shoots', 'x', { ...sent, 'Content-Encoding': 'zork' }, 415],
    ['GET', '/api/looks/1?revision=abc', null, {}, 400],
    ['GET', '/api/frames/1e3', null, {}, 404],
    ['POST', '/api/shoots/1/folder', JSON.stringify({ folder: '/a\0b' }), sent, 400],
    ['POST', '/api/shoots', '{"name":"\\ud800"}', sent, 400],
    ['PUT', `/api/shoots/1/upload?name=${'%C3%A9'.repeat(280)}.dng`, Buffer.alloc(64, 7), {}, 415],
  ] as const)('%s %s', async (method, path, body, headers, wanted) => {
    const [status, message] = await raw(method, path, body, headers);
    expect([status, message.length > 10]).toEqual([wanted, true]);
  });
  it('numbers beyond a limit cost nothing, and the limit is said', async () => {
    const paths = JSON.stringify({ paths: Array.from({ length: 200000 }, (_, i) => `/x/${i}`) }),
      steps = JSON.stringify({ ...emptyLook('x'), scene: Array.from({ length: 100000 }, () => ({ kind: 'warmth' })) });
    expect(await raw('POST', '/api/shoots/1/import', paths, sent)).toEqual([413, 'at most 20000 files are brought in at a time']);
    expect(await raw('POST', '/api/looks', steps, sent)).toEqual([400, 'the scene lane has 100000 steps; at most 40 fit']);
  });
});

describe('only this machine’s own pages are answered', () => {
  const ask = (headers: Record<string, string>): Promise<number> =>
    new Promise((resolve) => {
      request(`${origin}/api/shoots`, { headers }, (r) => {
        r.resume();
        resolve(r.statusCode!);
      }).end();
    });
  it('another Host or Origin is refused', async () => {
    expect(await ask({ Host: 'dyepot.example' })).toBe(403);
    expect(await ask({ Origin: 'http://dyepot.example' })).toBe(403);
    expect(await ask({ Origin: origin })).toBe(200);
  });
  it('the content policy is strict', async () => {
    const policy = (await fetch(origin)).headers.get('content-security-policy')!;
    expect(policy).toContain("default-src 'none'");
    expect(policy).not.toContain("'unsafe-eval'");
    expect(policy).toContain("script-src 'self' 'wasm-unsafe-eval'");
  });
});
