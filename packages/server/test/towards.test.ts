import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { root } from '../src/places.ts';
import { call, end, open, origin, shootWith, type Shoot } from './serverTrial.ts';

interface Found {
  steps: { kind: string; name: string; params: Record<string, unknown> }[];
  before: number;
  after: number;
}
const lookOf = (name: string): object => JSON.parse(readFileSync(join(root, `demo/looks/${name}.json`), 'utf8')) as object;
let shoot: Shoot;
beforeAll(async () => {
  await open();
  shoot = await shootWith('Skeins');
});
afterAll(() => end());
const picture = async (frame: number, look: string): Promise<Buffer> => {
    const r = await fetch(`${origin}/api/frames/${frame}/picture`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ look: lookOf(look) }),
    });
    return Buffer.from(await r.arrayBuffer());
  },
  send = async (bytes: Buffer, name: string): Promise<string> => {
    const r = await fetch(`${origin}/api/tables/picture?name=${encodeURIComponent(name)}`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/octet-stream' },
      body: new Uint8Array(bytes),
    });
    return ((await r.json()) as { id: string }).id;
  },
  towards = (frame: number, id: string): Promise<{ status: number; body: Found & { message?: string } }> =>
    call<Found>('POST', `/frames/${frame}/towards`, { look: lookOf('linen-plain'), picture: id });

describe('towards a finished picture', () => {
  it('steps that can be read and changed bring a frame within a third of where it was, as the engine draws it', async () => {
    const [first, second] = shoot.frames.map((f) => f.id) as [number, number];
    for (const [from, of, look] of [
      [first, first, 'weld-gold'],
      [first, second, 'chalk-high'],
      [second, first, 'logwood-sea'],
    ] as const) {
      const { status, body } = await towards(from, await send(await picture(of, look), `${look}.jpg`));
      expect(status).toBe(200);
      expect(new Set(body.steps.map((s) => s.kind)).size).toBe(body.steps.length);
      for (const s of body.steps) expect(['curve', 'saturation', 'grade']).toContain(s.kind);
      console.log(`${look}: ${body.before.toFixed(2)} before, ${body.after.toFixed(2)} after`);
      expect(body.after).toBeLessThan(body.before / 3);
    }
  });
  it('what is no picture, and one that was not sent, are refused in a sentence', async () => {
    const [first] = shoot.frames.map((f) => f.id) as [number],
      none = await towards(first, await send(Buffer.from('not a picture'), 'notes.txt'));
    expect(none.status).toBe(422);
    expect(none.body.message).toMatch(/^notes\.txt is not a picture that can be read/);
    expect((await towards(first, 'nowhere')).status).toBe(404);
    expect((await towards(9999, await send(Buffer.from('x'), 'x.jpg'))).status).toBe(404);
  });
});
