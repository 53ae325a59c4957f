import { spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { plainGroundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import { emptyLook, newStep } from '@dyepot/core/src/look/look.ts';
import { root } from '../src/places.ts';
import { mutateJson } from './mutate.ts';

const look = { ...emptyLook('Fuzz'), scene: [newStep('warmth', 'w')], print: [newStep('curve', 'c'), newStep('grade', 'g')] };
const wish = { lookId: null, revision: null, look, past: [], future: [] };
const change = { words: 'a', gesture: '', before: plainGroundwork };

/** Every route that takes a body, with a sound one. Those that name folders to write to are given none. */
const bodies: [method: string, path: string, body: unknown][] = [
  ['POST', '/shoots', { name: 'Fuzz' }],
  ['PATCH', '/shoots/1', { name: 'Fuzz', rendition: 'soft' }],
  ['POST', '/shoots/1/look', { lookId: 1, revision: 1 }],
  ['POST', '/shoots/1/folder', { folder: '/nowhere-at-all', deep: true }],
  ['POST', '/shoots/1/import', { paths: ['/nowhere/a.dng'] }],
  ['PATCH', '/frames/1', { light: 'Dusk' }],
  ['POST', '/frames/1/find', { path: '/nowhere/a.dng' }],
  [
    'PUT',
    '/frames/1/groundwork',
    { groundwork: plainGroundwork, history: { past: [change], future: [], snapshots: [], probes: [{ x: 0, y: 1 }] } },
  ],
  [
    'PUT',
    '/frames/1/history',
    { history: { past: [], future: [change], snapshots: [{ name: 'a', ground: plainGroundwork }], probes: [] } },
  ],
  ['POST', '/frames/take-out', { ids: [999] }],
  ['POST', '/frames/1/balance', { at: { x: 0.5, y: 0.5, size: 4 }, groundwork: plainGroundwork }],
  ['POST', '/frames/1/region/4', { look, area: null }],
  ['POST', '/frames/1/exact', { width: 24, height: 16, look, groundwork: plainGroundwork }],
  ['PUT', '/lenses', { folder: '/nowhere' }],
  [
    'POST',
    '/groundwork-presets',
    { name: 'p', camera: null, isoFrom: 100, isoTo: 200, parts: ['light'], groundwork: plainGroundwork, automatic: false },
  ],
  ['POST', '/looks', look],
  ['POST', '/looks/1/revisions', { look, from: null }],
  ['PATCH', '/looks', { ids: [1], favourite: true, family: 'F', addTags: ['a'], dropTags: ['b'] }],
  ['PATCH', '/looks/1/revisions/1', { label: 'First' }],
  ['POST', '/frames/1/picture', { look, edge: 360 }],
  [
    'PUT',
    '/delivery-presets',
    {
      name: 'Web',
      folder: '',
      pattern: '{frame}',
      file: { format: 'webp', depth: 8, space: 'srgb', size: 300, sizeBy: 'short', quality: 80 },
    },
  ],
  ['POST', '/watches', { shootId: 1, folder: '/nowhere-at-all', lookId: null, lookRevision: null, preset: '' }],
  ['POST', '/drafts', wish],
  ['PUT', '/drafts/1', { ...wish, version: 1 }],
  ['POST', '/tables/fit', { before: 'a', after: 'b', size: 17 }],
  ['POST', '/tables/bake-report', { look, format: 'cc', size: 9, input: 'srgb' }],
  [
    'POST',
    '/deliveries',
    { shootId: 1, frameIds: [1], folder: null, file: { format: 'jpeg', depth: 8, space: 'srgb', size: 16, quality: 50 } },
  ],
  ['PATCH', '/settings', { uploadLimitBytes: 2e9, letterKeys: true }],
];
const patience = 5000;

/** Sends mutants of every route's body to the real server; returns what broke a promise: a 500, a stack, no answer in 5 s, an end. */
export async function fuzzRoutes(count: number, raw: Uint8Array): Promise<string[]> {
  const data = mkdtempSync(join(tmpdir(), 'dyepot-fuzz-')),
    raws = join(data, 'raws');
  mkdirSync(raws);
  writeFileSync(join(raws, 'a.dng'), raw);
  const server = spawn(process.execPath, [join(root, 'dist/dyepot.mjs'), 'serve', '--port', '0'], {
    env: { ...process.env, DYEPOT_DATA: join(data, 'home') },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  const broken: string[] = [];
  let ended = false,
    log = '';
  server.once('exit', () => (ended = true));
  server.stderr.on('data', (d: Buffer) => (log += d.toString()));
  const origin = await new Promise<string>((resolve) =>
    server.stdout.on('data', (d: Buffer) => {
      const m = /http:\S+/.exec(d.toString());
      if (m) resolve(m[0]);
    }),
  );
  const send = (method: string, path: string, body: string): Promise<Response> =>
    fetch(`${origin}/api${path}`, { method, body, headers: { 'Content-Type': 'application/json' }, signal: AbortSignal.timeout(patience) });
  await send('POST', '/shoots', '{"name":"Fuzz"}');
  await send('POST', '/shoots/1/folder', JSON.stringify({ folder: raws }));
  await send('POST', '/looks', JSON.stringify(look));
  await send('POST', '/drafts', JSON.stringify(wish));
  for (let i = 0; i < 60; i++) {
    const jobs = (await (await fetch(`${origin}/api/jobs`)).json()) as { state: string }[];
    if (jobs[0]?.state === 'done') break;
    await new Promise((r) => setTimeout(r, 100));
  }
  for (let i = 0; i < count && !ended; i++) {
    const [method, path, body] = bodies[i % bodies.length]!;
    const text = i % 40 === 39 ? JSON.stringify(body).slice(0, 7 + (i % 60)) : (JSON.stringify(mutateJson(body, i)) ?? '');
    try {
      const answer = await send(method, path, text),
        said = answer.headers.get('content-type')?.includes('json') ? await answer.text() : (await answer.arrayBuffer(), '');
      if (answer.status >= 500) broken.push(`${method} ${path} answered ${answer.status} to ${text.slice(0, 300)}: ${said.slice(0, 200)}`);
      if (/\bat .*\.(ts|mjs):\d+/.test(said)) broken.push(`${method} ${path} showed a stack to ${text.slice(0, 300)}`);
    } catch (error) {
      broken.push(`${method} ${path} did not answer ${text.slice(0, 300)}: ${error instanceof Error ? error.message : ''}`);
    }
  }
  if (ended) broken.push(`the server ended: ${log.slice(-2000)}`);
  else {
    server.kill('SIGTERM');
    await new Promise((resolve) => server.once('exit', resolve));
  }
  if (log.trim() !== '') broken.push(`the server's log: ${log.slice(0, 2000)}`);
  rmSync(data, { recursive: true, force: true });
  return broken;
}
