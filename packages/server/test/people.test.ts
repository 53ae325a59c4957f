import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { request } from 'node:https';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { emptyLook } from '@dyepot/core/src/look/look.ts';
import type { Router } from 'express';
import { apiRoutes } from '../src/routes/api.ts';
import { root } from '../src/places.ts';
import { call, data, end, open, shootWith, stop, type Shoot } from './serverTrial.ts';

const password = 'seven skeins hang by the weir',
  dyepot = join(root, 'dist/dyepot.mjs'),
  env = { ...process.env, DYEPOT_DATA: join(data, 'home') };
const people = (...args: string[]): { status: number | null; said: string } => {
  const r = spawnSync(process.execPath, [dyepot, 'people', ...args], { env, input: `${password}\n`, encoding: 'utf8' });
  return { status: r.status, said: r.stdout + r.stderr };
};
/** Starts the server for other machines; behind a proxy unless told otherwise. */
function listen(tls: string[] = [], extra: Record<string, string> = {}): Promise<{ child: ChildProcess; port: number }> {
  const args = [dyepot, 'serve', '--port', '0', '--listen', '127.0.0.1', ...(tls.length > 0 ? tls : ['--trust-proxy'])],
    child = spawn(process.execPath, args, { env: { ...env, ...extra }, stdio: ['ignore', 'pipe', 'pipe'] });
  let said = '';
  child.stderr.on('data', (d: Buffer) => (said += d.toString()));
  return new Promise((resolve, reject) => {
    child.once('exit', () => reject(new Error(said)));
    child.stdout.on('data', (d: Buffer) => {
      const port = /port (\d+)/.exec(d.toString())?.[1];
      if (port) resolve({ child, port: Number(port) });
    });
  });
}
let server: ChildProcess,
  shoot: Shoot,
  port = 0;
interface Asked {
  method?: string;
  cookie?: string;
  body?: unknown;
  headers?: Record<string, string>;
}
/** Asks as the proxy hands it on. */
const ask = (path: string, { method = 'GET', cookie = '', body, headers = {} }: Asked = {}): Promise<Response> =>
  fetch(`http://127.0.0.1:${port}${path}`, {
    method,
    redirect: 'manual',
    headers: {
      'X-Forwarded-Proto': 'https',
      ...(cookie && { Cookie: cookie }),
      ...(body !== undefined && { 'Content-Type': 'application/json' }),
      ...headers,
    },
    ...(body !== undefined && { body: JSON.stringify(body) }),
  });
const logIn = (name: string, given = password, from = '192.0.2.1'): Promise<Response> =>
  ask('/api/session', { method: 'POST', body: { name, password: given }, headers: { 'X-Forwarded-For': from } });
const cookieOf = (r: Response): string => /^[^;]+/.exec(r.headers.get('set-cookie') ?? '')![0];
const enter = async (name: string): Promise<string> => cookieOf(await logIn(name));
/** Every method and address that is answered under /api. */
function routes(): { method: string; path: string }[] {
  const api = apiRoutes({} as never, {} as never, {} as never, { away: true, farm: null });
  return api.stack.flatMap((layer) =>
    ((layer.handle as unknown as Partial<Router>).stack ?? []).flatMap(({ route }) =>
      route
        ? [...new Set(route.stack.map(({ method }) => method!.toUpperCase()))].map((method) => ({
            method,
            path: `/api${route.path
              .replace(/:token/g, 'A'.repeat(22))
              .replace(/:kind/g, 'look')
              .replace(/:\w+/g, '1')}`,
          }))
        : [],
    ),
  );
}

beforeAll(async () => {
  await open();
  shoot = await shootWith('Skeins');
  await call('POST', '/looks', { ...emptyLook('Weld'), notes: 'early light' });
  await call('PUT', `/shoots/${shoot.id}/swatches`, { frames: [shoot.frames[0]!.id], looks: [0, 1], said: {} });
  await end();
});
afterAll(() => stop(server, 'SIGTERM'));

describe('a server that other machines meet', () => {
  it('does not start before someone could log in, nor without TLS', async () => {
    await expect(listen()).rejects.toThrow(/nobody could log in yet/);
    const bare = spawnSync(process.execPath, [dyepot, 'serve', '--listen', '127.0.0.1'], { env, encoding: 'utf8' });
    expect([bare.status, bare.stderr]).toEqual([2, expect.stringMatching(/goes over TLS/)]);
    for (const [given, reason] of [
      ['short', /at least 12 letters/],
      ['password1234', /easily guessed/],
      ['a'.repeat(129), /at most 128/],
    ] as const) {
      const r = spawnSync(process.execPath, [dyepot, 'people', 'add', 'Ines'], { env, input: given, encoding: 'utf8' });
      expect([r.status, r.stderr]).toEqual([2, expect.stringMatching(reason)]);
    }
    expect(people('add', 'Ines Fell').status).toBe(0);
    expect(people('add', 'ines fell').said).toMatch(/someone called/);
    expect(people('add', 'Odo', '--role', 'look').status).toBe(0);
    expect(people('remove', 'Ines Fell').said).toMatch(/nobody who may change anything would be left/);
    ({ child: server, port } = await listen());
  });
  it('refuses every address without a session, but logging in and what links lead to', async () => {
    const all = routes(),
      open: string[] = [];
    expect(all.length).toBeGreaterThan(110);
    for (const { method, path } of all) {
      const r = await ask(path, { method, ...(method === 'GET' ? {} : { body: {} }) });
      if (r.status !== 401) open.push(`${method} ${path.replace(/A{22}/, ':token')} ${r.status}`);
      await r.body?.cancel();
    }
    expect(open.sort()).toEqual([
      'DELETE /api/session 200',
      'GET /api/links/:token/page.pdf 404',
      'GET /api/links/:token/pictures/1/1 404',
      'GET /api/links/:token/shown 404',
      'GET /api/session 200',
      'POST /api/session 400',
    ]);
    expect((await ask('/api/%73ettings')).status).toBe(401);
    expect((await ask('/api/SETTINGS')).status).toBe(401);
    expect((await ask('/api/session/../settings')).status).toBe(401);
  });
  it('answers only over TLS, and nothing that another page asks', async () => {
    const cookie = await enter('Ines Fell');
    expect((await ask('/api/shoots', { cookie, headers: { 'X-Forwarded-Proto': 'http' } })).status).toBe(403);
    for (const headers of [{ Origin: 'https://elsewhere.example' }, { 'Sec-Fetch-Site': 'cross-site' }] as Record<string, string>[])
      expect((await ask('/api/shoots', { cookie, method: 'POST', body: { name: 'x' }, headers })).status).toBe(403);
    const r = await ask('/api/shoots', { cookie });
    expect(r.status).toBe(200);
    expect(r.headers.get('strict-transport-security')).toMatch(/max-age=\d{8}/);
    expect(r.headers.get('cache-control')).toMatch(/private, no-store/);
  });
  it('keeps its cookie from scripts, other sites and other hosts (RFC 6265bis)', async () => {
    const r = await logIn('INES FELL');
    expect(r.headers.get('set-cookie')).toMatch(/^__Host-dyepot=[\w-]{43}; Path=\/; HttpOnly; Secure; SameSite=Strict$/);
  });
  it('lets those who may look look, and change nothing', async () => {
    const cookie = await enter('Odo'),
      refused: string[] = [],
      let_in: string[] = [];
    for (const { method, path } of routes()) {
      if (/events|\/session|\/links\/A|zip|exact|region|picture|light|balance|repair-source|bake-report/.test(path)) continue;
      const r = await ask(path, { method, cookie, ...(method === 'GET' ? {} : { body: {} }) });
      (r.status === 403 ? refused : let_in).push(`${method} ${path}${r.status === 401 ? ' 401' : ''}`);
      await r.body?.cancel();
    }
    expect(let_in.filter((a) => !a.startsWith('GET'))).toEqual([]);
    expect(refused.filter((a) => a.startsWith('GET')).sort()).toEqual([
      'GET /api/folders',
      'GET /api/jobs/1/record',
      'GET /api/links',
      'GET /api/people',
    ]);
    // the same addresses, written as the router takes them too
    for (const path of ['/People', '/people/', '/FOLDERS', '/Links', '/links/', '/links//', '/Jobs/1/Record', '/jobs/1/record/'])
      expect([path, (await ask(`/api${path}`, { cookie })).status]).toEqual([path, 403]);
    expect(((await (await ask('/api/settings', { cookie })).json()) as { person: object }).person).toMatchObject({
      name: 'Odo',
      role: 'look',
    });
  });
  it('ends a session that is logged out, whose password was changed, or that was not used', async () => {
    const [one, two] = [await enter('Odo'), await enter('Odo')];
    const own = { old: 'not that one', password: 'the heron stands in green water' };
    expect((await ask('/api/session/password', { method: 'PUT', cookie: one, body: own })).status).toBe(403);
    expect((await ask('/api/session/password', { method: 'PUT', cookie: one, body: { ...own, old: password } })).status).toBe(200);
    expect([(await ask('/api/shoots', { cookie: one })).status, (await ask('/api/shoots', { cookie: two })).status]).toEqual([200, 401]);
    const news = await ask('/api/events', { cookie: one });
    await ask('/api/session', { method: 'DELETE', cookie: one });
    expect((await ask('/api/shoots', { cookie: one })).status).toBe(401);
    // the news end too
    await news.text();
    await stop(server, 'SIGTERM');
    ({ child: server, port } = await listen([], { DYEPOT_UNUSED_MS: '1500' }));
    const idle = await enter('Ines Fell');
    expect((await ask('/api/shoots', { cookie: idle })).status).toBe(200);
    await new Promise((r) => setTimeout(r, 1900));
    expect((await ask('/api/shoots', { cookie: idle })).status).toBe(401);
    await stop(server, 'SIGTERM');
    ({ child: server, port } = await listen());
  });
  it('slows guessing, by where it comes from and by whom it is for', async () => {
    const tries = await Promise.all(Array.from({ length: 12 }, () => logIn('Odo', 'wrong wrong wrong', '192.0.2.9')));
    expect(tries.map((r) => r.status).sort()).toEqual([...Array<number>(10).fill(401), 429, 429]);
    // from elsewhere one may still log in
    expect((await logIn('Ines Fell', password, '192.0.2.10')).status).toBe(200);
    // however the name is written: in other letters for the same, or with spaces
    const names = ['odo', 'ODO', ' odo', 'odo  ', '\uff4fdo', 'o\uff24o', '\u2003odo'];
    const spread = await Promise.all(
      Array.from({ length: 14 }, (_, i) => logIn(names[i % names.length]!, 'wrong wrong wrong', `198.51.100.${i}`)),
    );
    // ten were wrong before
    expect(spread.filter((r) => r.status === 429).length).toBeGreaterThanOrEqual(4);
    const large = await ask('/api/session', {
      method: 'POST',
      body: { name: 'x'.repeat(20_000), password },
      headers: { 'X-Forwarded-For': '203.0.113.1' },
    });
    expect(large.status).toBe(413);
  });
  it('opens by a link what it is for, until it is taken back', async () => {
    const cookie = await enter('Ines Fell'),
      make = async (body: object): Promise<{ id: number; token: string }> =>
        (await (await ask('/api/links', { method: 'POST', cookie, body })).json()) as { id: number; token: string };
    const look = await make({ kind: 'look', lookId: 1, days: 7 }),
      card = await make({ kind: 'swatches', shootId: 1, days: 1 });
    // 128 bits
    expect(Buffer.from(look.token, 'base64url')).toHaveLength(16);
    const shown = (await (await ask(`/api/links/${look.token}/shown`)).json()) as {
      name: string;
      notes: string;
      rows: object[];
      frames: { id: number }[];
    };
    expect([shown.name, shown.notes, shown.rows.length]).toEqual(['Weld', 'early light', 2]);
    const picture = await ask(`/api/links/${card.token}/pictures/${shoot.frames[0]!.id}/1`);
    expect(picture.headers.get('content-type')).toBe('image/jpeg');
    expect(
      Buffer.from(await (await ask(`/api/links/${card.token}/page.pdf`)).arrayBuffer())
        .subarray(0, 5)
        .toString(),
    ).toBe('%PDF-');
    // the shoot's other frames and looks are not behind it
    const [first, second] = shoot.frames.map((f) => f.id);
    for (const other of [`${first}/2`, `${second}/0`, `${second}/1`, '999/1'])
      expect([other, (await ask(`/api/links/${card.token}/pictures/${other}`)).status]).toEqual([other, 404]);
    // nor are others shown in the place of frames that were taken out
    const single = await make({ kind: 'look', lookId: 1, frames: [second], days: 1 });
    expect((await ask(`/api/links/${single.token}/pictures/${second}/1`)).status).toBe(200);
    await ask('/api/frames/take-out', { method: 'POST', cookie, body: { ids: [second] } });
    for (const gone of ['page.pdf', `pictures/${second}/1`])
      expect([gone, (await ask(`/api/links/${single.token}/${gone}`)).status]).toEqual([gone, 404]);
    expect((await ask('/api/looks/1')).status).toBe(401);
    await ask(`/api/links/${look.id}`, { method: 'DELETE', cookie });
    expect((await ask(`/api/links/${look.token}/shown`)).status).toBe(404);
    // what is kept of a link lets nobody in
    const kept =
      readFileSync(join(data, 'home/dyepot.sqlite')).toString('latin1') +
      readFileSync(join(data, 'home/dyepot.sqlite-wal')).toString('latin1');
    expect(kept).not.toContain(card.token);
    expect((await ask('/api/links', { method: 'POST', cookie, body: { kind: 'look', lookId: 1, days: 400 } })).status).toBe(400);
  });
  it('does its own TLS with a certificate and a key', async () => {
    await stop(server, 'SIGTERM');
    const [cert, key] = [join(data, 'cert.pem'), join(data, 'key.pem')];
    const subject = ['-subj', '/CN=127.0.0.1', '-addext', 'subjectAltName=IP:127.0.0.1'];
    const made = spawnSync('openssl', [
      'req',
      '-x509',
      '-newkey',
      'rsa:2048',
      '-nodes',
      '-keyout',
      key,
      '-out',
      cert,
      '-days',
      '2',
      ...subject,
    ]);
    expect(made.status).toBe(0);
    await expect(listen(['--tls-cert', key, '--tls-key', cert])).rejects.toThrow(/cannot be used together/);
    ({ child: server, port } = await listen(['--tls-cert', cert, '--tls-key', key]));
    const status = await new Promise<number | undefined>((resolve, reject) => {
      request({ host: '127.0.0.1', port, path: '/api/shoots', ca: readFileSync(cert) }, (res) => resolve(res.resume().statusCode))
        .on('error', reject)
        .end();
    });
    expect(status).toBe(401);
    // the proxy's words are not believed where there is none
    await expect(fetch(`http://127.0.0.1:${port}/`, { headers: { 'X-Forwarded-Proto': 'https' } })).rejects.toThrow();
  });
});
