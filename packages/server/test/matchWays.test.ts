import { execFileSync } from 'node:child_process';
import { mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { plainGroundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import { root } from '../src/places.ts';
import { call, data, end, finished, frames, open, type Job } from './serverTrial.ts';

interface EvenFrame {
  id: number;
  name: string;
  now: { ev: number; difference: number } | null;
  proposed: { ev: number; difference: number } | null;
  exposureEv: number;
  note: string | null;
  spot: [number, number] | null;
  patches: { now: number; proposed: number } | null;
}
interface Even {
  by: string;
  missing: number;
  groups: { anchorId: number; frames: EvenFrame[] }[];
}
/** One view with a chart and a grey card, exposed and balanced otherwise each time, as finished pictures. */
const drifts = { first: [0, 5200], darker: [-0.7, 5200], lighter: [0.4, 5900], warmer: [-0.2, 6600] } as const;
let id = 0;
const even = async (): Promise<Even> => (await call<Even>('GET', `/shoots/${id}/evenness?under=none`)).body,
  ready = async (): Promise<EvenFrame[]> => {
    await expect
      .poll(
        async () => {
          const now = await even();
          if (now.missing > 0) await call('POST', `/shoots/${id}/evenness`);
          return now.missing;
        },
        { timeout: 60_000, interval: 300 },
      )
      .toBe(0);
    return (await even()).groups.flatMap((g) => g.frames);
  },
  of = (all: readonly EvenFrame[], name: keyof typeof drifts): EvenFrame => all.find((f) => f.name === name)!;
beforeAll(async () => {
  await open();
  const folder = join(data, 'drifted'),
    look = JSON.parse(readFileSync(join(root, 'demo/looks/linen-plain.json'), 'utf8')) as {
      stock: object;
      scene: object[];
      print: object[];
    };
  mkdirSync(folder);
  writeFileSync(
    join(data, 'plain.json'),
    JSON.stringify({ ...look, scene: [], print: [], skeins: [], masks: [], stock: { ...look.stock, kind: 'neutral', params: {} } }),
  );
  for (const [name, [exposureEv, kelvin]] of Object.entries(drifts)) {
    writeFileSync(
      join(data, 'ground.json'),
      JSON.stringify({ ...plainGroundwork, exposureEv, balance: { kind: 'own', kelvin, tintDuv: 0 } }),
    );
    execFileSync(process.execPath, [
      join(root, 'dist/dyepot.mjs'),
      ...['render', join(frames, 'TR-0419.dng'), '--look', join(data, 'plain.json'), '--groundwork', join(data, 'ground.json')],
      ...['--space', 'rec2020', '--format', 'png', '--depth', '16', '--size', '1632', '--out', folder],
    ]);
    renameSync(join(folder, 'TR-0419.png'), join(folder, `${name}.png`));
  }
  id = (await call<{ id: number }>('POST', '/shoots', { name: 'Drifted' })).body.id;
  await finished((await call<Job>('POST', `/shoots/${id}/folder`, { folder, finished: true })).body.id);
  const all = (await even()).groups.flatMap((g) => g.frames);
  await call('POST', '/frames/say', { frames: all.map((f) => ({ id: f.id, light: 'Card' })) });
  await call('PUT', `/shoots/${id}/anchor`, { light: 'Card', frameId: of(all, 'first').id });
}, 120_000);
afterAll(() => end());

/** Of a frame whose balance is its anchor's: one that is warmer is lighter or darker by that too. */
const told = (f: EvenFrame): boolean => f.name !== 'darker' || Math.abs(f.exposureEv + drifts.darker[0]) < 0.1;
describe('frames are matched', () => {
  it('by the chart: it is found in each, exposures come back to 0.1 EV, patches to 1.5 ΔE in the mean', async () => {
    await call('PUT', `/shoots/${id}/matching`, { by: 'chart' });
    const all = await ready();
    for (const name of ['darker', 'lighter', 'warmer'] as const) {
      const f = of(all, name);
      expect([name, f.note, told(f), f.patches!.proposed < 1.5]).toEqual([name, null, true, true]);
      expect(f.patches!.proposed).toBeLessThan(f.patches!.now / 3);
    }
  });
  it('by a patch pointed at in the anchor: found in the others, or pointed at there; what is off says so', async () => {
    await call('PUT', `/shoots/${id}/matching`, { by: 'patch' });
    for (const f of await ready())
      if (f.name !== 'first') expect(f.note).toBe('no patch is pointed at in first: matched by what both show');
    const first = of(await ready(), 'first');
    // the grey card of this view
    await call('PUT', `/shoots/${id}/matching`, { frameId: first.id, at: [0.52, 0.72] });
    const all = await ready();
    expect(of(all, 'first').spot).toEqual([0.52, 0.72]);
    for (const name of ['darker', 'lighter', 'warmer'] as const) {
      const f = of(all, name);
      expect([name, f.note, told(f)]).toEqual([name, null, true]);
      expect(Math.hypot(f.spot![0] - 0.52, f.spot![1] - 0.72)).toBeLessThan(0.03);
    }
    const lighter = of(all, 'lighter');
    await call('PUT', `/shoots/${id}/matching`, { frameId: lighter.id, at: [0.1, 0.3] });
    const moved = of(await ready(), 'lighter');
    expect(moved.spot).toEqual([0.1, 0.3]);
    expect(Math.abs(moved.exposureEv - lighter.exposureEv)).toBeGreaterThan(0.05);
    await call('PUT', `/shoots/${id}/matching`, { frameId: lighter.id, at: null });
    expect(of(await ready(), 'lighter').exposureEv).toBe(lighter.exposureEv);
  });
  it('by near greys; and a way that does not exist, or a place outside, is refused', async () => {
    await call('PUT', `/shoots/${id}/matching`, { by: 'neutral' });
    const all = await ready();
    expect(all.map((f) => f.note)).toEqual(all.map(() => null));
    for (const wrong of [
      { by: 'luck' },
      { frameId: all[0]!.id, at: [0.5, 1.5] },
      { frameId: all[0]!.id },
      { frameId: 9999, at: [0.5, 0.5] },
    ])
      expect([400, 404]).toContain((await call('PUT', `/shoots/${id}/matching`, wrong)).status);
    expect((await even()).by).toBe('neutral');
  });
});
