import { execFileSync } from 'node:child_process';
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { emptyLook, newStep } from '@dyepot/core/src/look/look.ts';
import { loadKernels } from '@dyepot/core/src/kernels/kernels.ts';
import { plan } from '@dyepot/core/src/plan/plan.ts';
import { render } from '@dyepot/core/src/render/render.ts';
import { noteUse, pruneFullLevels } from '../src/services/fullLevels.ts';
import { kernelsFile, root } from '../src/places.ts';
import { levelFile, olderLevels } from '../src/work/files.ts';
import { data, raws, names, origin, call, finished, type Job, type Shoot, jpeg, serve, end, open } from './serverTrial.ts';

beforeAll(open);
afterAll(() => end());

describe('a shoot', () => {
  it('takes a folder of raws, referenced in place and not changed', async () => {
    const before = names.map((n) => statSync(join(raws, n)).mtimeMs),
      shoot = (await call<Shoot>('POST', '/shoots', { name: 'Test shoot' })).body;
    const job = await finished((await call<Job>('POST', `/shoots/${shoot.id}/folder`, { folder: raws })).body.id);
    expect([job.done, job.failed]).toEqual([4, 0]);
    expect((await call<Shoot>('GET', '/shoots/1')).body.frames.map((f) => f.name)).toEqual(names.map((n) => n.replace('.dng', '')));
    expect(names.map((n) => statSync(join(raws, n)).mtimeMs)).toEqual(before);
  });
  it('begins the first picture of its sheet when its page is asked for', async () => {
    const made = (): string[] =>
      readdirSync(join(data, 'home', 'thumbs'), { recursive: true })
        .map(String)
        .filter((f) => f.endsWith('.jpg'));
    mkdirSync(join(data, 'home', 'thumbs'), { recursive: true });
    expect(made()).toEqual([]);
    expect((await fetch(`${origin}/shoots/1`)).status).toBe(200);
    await expect.poll(() => made().length, { timeout: 10000 }).toBe(1);
  });
  it('makes one exact view at a time; those nobody waits for any more are passed over, and the rest are right', async () => {
    const frame = (await call<Shoot>('GET', '/shoots/1')).body.frames[0]!,
      ask = (strength: number, signal?: AbortSignal): Promise<Response> =>
        fetch(`${origin}/api/frames/${frame.id}/exact`, {
          method: 'POST',
          body: JSON.stringify({ width: 96, height: 64, look: { ...emptyLook('x'), strength } }),
          headers: { 'Content-Type': 'application/json' },
          ...(signal ? { signal } : {}),
        }),
      leave = new AbortController();
    const first = ask(1),
      left = [0.2, 0.4, 0.6, 0.8].map((s) =>
        ask(s, leave.signal).then(
          () => 'came',
          (e: Error) => e.name,
        ),
      ),
      last = ask(1);
    await new Promise((r) => setTimeout(r, 60));
    leave.abort();
    const [a, b] = await Promise.all([first, last].map(async (r) => Buffer.from(await (await r).arrayBuffer())));
    expect(await Promise.all(left)).toEqual(Array(4).fill('AbortError'));
    expect(a!.length).toBe(96 * 64 * 4);
    expect(a!.equals(b!)).toBe(true);
    expect(
      (
        await fetch(`${origin}/api/frames/${frame.id}/exact`, {
          method: 'POST',
          body: JSON.stringify({ width: 9999, height: 64 }),
          headers: { 'Content-Type': 'application/json' },
        })
      ).status,
    ).toBe(400);
  });
  it('gives plate data from which a browser makes the server’s own bytes', async () => {
    const [first] = (await call<Shoot>('GET', '/shoots/1')).body.frames,
      frame = (await call<Shoot['frames'][number]>('GET', `/frames/${first!.id}`)).body,
      area = { x: 701, y: 333, width: 150, height: 90 },
      look = { ...emptyLook('x'), print: [{ ...newStep('saturation', 's'), params: { change: 30 } }] };
    const plate = new Uint16Array(
      await (
        await fetch(`${origin}/api/frames/${frame.id}/plate/0?${new URLSearchParams(Object.entries(area).map(([k, v]) => [k, String(v)]))}`)
      ).arrayBuffer(),
    );
    const theirs = Buffer.from(
      await (
        await fetch(`${origin}/api/frames/${frame.id}/region/0`, {
          method: 'POST',
          body: JSON.stringify({ area, look }),
          headers: { 'Content-Type': 'application/json' },
        })
      ).arrayBuffer(),
    );
    const ours = render(
      await loadKernels(readFileSync(kernelsFile)),
      plan(look, { profile: frame.profile, seed: Number.parseInt(frame.hash.slice(0, 7), 16) }, 'srgb'),
      { width: 150, height: 90, data: plate },
      area,
      'rgba8',
    );
    expect(theirs.equals(Buffer.from(ours))).toBe(true);
  });
  it('a full plate that is not kept is decoded once, however many pieces are asked for at once', async () => {
    const frame = (await call<Shoot>('GET', '/shoots/1')).body.frames[0]!,
      full = levelFile(join(data, 'home', 'plates', frame.hash), 0);
    rmSync(full);
    const answers = await Promise.all(
      [0, 300, 600, 900].map((y) => fetch(`${origin}/api/frames/${frame.id}/plate/0?x=0&y=${y}&width=64&height=64`)),
    );
    expect(answers.map((a) => a.status)).toEqual([200, 200, 200, 200]);
    expect(statSync(full).size).toBe(frame.width * frame.height * 6);
    expect(readdirSync(join(data, 'home', 'plates', frame.hash)).filter((f) => f.includes('writing'))).toEqual([]);
  });
  it('shows a moved raw as missing and finds it again, but no other picture in its place', async () => {
    renameSync(join(raws, names[1]!), join(raws, 'elsewhere.dng'));
    const frame = (await call<Shoot>('GET', '/shoots/1')).body.frames[1]!;
    expect(frame.missing).toBe(true);
    expect((await call('POST', `/frames/${frame.id}/find`, { path: join(raws, names[2]!) })).body.message).toMatch(/another picture/);
    expect((await call<{ missing: boolean }>('POST', `/frames/${frame.id}/find`, { path: join(raws, 'elsewhere.dng') })).body.missing).toBe(
      false,
    );
    renameSync(join(raws, 'elsewhere.dng'), join(raws, names[1]!));
    await call('POST', `/frames/${frame.id}/find`, { path: join(raws, names[1]!) });
  });
});

describe('plates of an earlier version', () => {
  it('serve while their raw is missing, and go when it is read again', async () => {
    const shoot = (await call<Shoot>('GET', '/shoots/1')).body,
      frame = shoot.frames[0]!,
      folder = join(data, 'home', 'plates', frame.hash),
      level = 2,
      [older] = olderLevels(folder, level) as [string],
      path = join(raws, names[0]!);
    renameSync(levelFile(folder, level), older);
    renameSync(path, `${path}.away`);
    const ask = (): Promise<Response> => fetch(`${origin}/api/frames/${frame.id}/plate/${level}`);
    expect((await ask()).status).toBe(200);
    expect([existsSync(older), existsSync(levelFile(folder, level))]).toEqual([true, false]);
    renameSync(`${path}.away`, path);
    expect((await ask()).status).toBe(200);
    expect([existsSync(older), existsSync(levelFile(folder, level))]).toEqual([false, true]);
  });
});

describe('plates of large pictures at full size', () => {
  it('go, those used longest ago first, when they take too much room; small ones and the newest stay', async () => {
    const plates = mkdtempSync(join(tmpdir(), 'dyepot-plates-')),
      file = (hash: string): string => levelFile(join(plates, hash), 0);
    for (const [hash, size, hoursAgo] of [
      ['old', 3e7, 30],
      ['new', 3e7, 1],
      ['middle', 3e7, 5],
      ['small', 1e6, 90],
    ] as const) {
      mkdirSync(join(plates, hash));
      writeFileSync(file(hash), Buffer.alloc(size));
      const at = new Date(Date.now() - hoursAgo * 3.6e6);
      utimesSync(file(hash), at, at);
    }
    await noteUse(file('old'));
    expect(await pruneFullLevels(plates, 6.5e7)).toBe(1);
    expect(
      readdirSync(plates)
        .filter((h) => existsSync(file(h)))
        .sort(),
    ).toEqual(['new', 'old', 'small']);
    expect(await pruneFullLevels(plates, 1e7)).toBe(1);
    expect(existsSync(file('old'))).toBe(true);
  });
});

describe('deliveries', () => {
  it('write every frame under the shoot’s look, with time left on the way, and zip them', async () => {
    const look = (await call<{ id: number }>('POST', '/looks', JSON.parse(readFileSync(join(root, 'e2e/looks/oak-gall.json'), 'utf8'))))
      .body;
    await call('POST', '/shoots/1/look', { lookId: look.id, revision: 1 });
    const job = await finished((await call<Job>('POST', '/deliveries', { shootId: 1, file: jpeg })).body.id);
    expect(job.items.map((i) => i.state)).toEqual(['done', 'done', 'done', 'done']);
    const said = execFileSync('/usr/bin/exiftool', ['-T', '-ImageWidth', '-ProfileDescription', job.items[0]!.output!]).toString();
    expect(said).toMatch(/^400\tsRGB/);
    const zip = Buffer.from(await (await fetch(`${origin}/api/jobs/${job.id}/zip`)).arrayBuffer());
    expect(zip.subarray(0, 2).toString()).toBe('PK');
    expect(zip.includes(names[0]!.replace('.dng', '.jpg'))).toBe(true);
  });
  it('go on after the server is killed, and no finished frame is done twice', async () => {
    const id = (await call<Job>('POST', '/deliveries', { shootId: 1, file: { ...jpeg, format: 'tiff', depth: 16, size: null } })).body.id;
    let job: Job;
    do {
      await new Promise((r) => setTimeout(r, 30));
      job = (await call<Job>('GET', `/jobs/${id}`)).body;
    } while (job.done < 1);
    await end('SIGKILL');
    const written = job.items.filter((i) => i.state === 'done').map((i) => [i.output!, statSync(i.output!).mtimeMs] as const);
    await serve();
    job = await finished(id);
    expect([job.done, job.failed]).toEqual([4, 0]);
    for (const [file, time] of written) expect(statSync(file).mtimeMs).toBe(time);
    expect(readdirSync(job.folder).filter((f) => f.includes('writing')).length).toBeLessThanOrEqual(2);
  });
  it('can be stopped', async () => {
    const id = (await call<Job>('POST', '/deliveries', { shootId: 1, file: { ...jpeg, format: 'png', depth: 16, size: null } })).body.id;
    const job = (await call<Job>('POST', `/jobs/${id}/cancel`)).body;
    expect(job.state).toBe('cancelled');
    await new Promise((r) => setTimeout(r, 300));
    expect((await call<Job>('GET', `/jobs/${id}`)).body.state).toBe('cancelled');
  });
});
