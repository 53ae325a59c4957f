import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { plainDetail } from '@dyepot/core/src/groundwork/detail/detail.ts';
import { plainGroundwork, type Groundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import { plainLens } from '@dyepot/core/src/groundwork/lens.ts';
import { emptyLook, newStep, type Look, type LookStep } from '@dyepot/core/src/look/look.ts';
import { outputSize } from '@dyepot/core/src/plan/draw.ts';
import { stocks } from '@dyepot/core/src/stock/film/stocks.ts';
import { root } from '../src/places.ts';
import { exactRoom, renderBand, scaleBands } from '../src/work/exactTask.ts';
import { deliver, importRaw, type Imported } from '../src/work/tasks.ts';

const folder = mkdtempSync(join(tmpdir(), 'dyepot-exact-')),
  path = join(root, 'packages/camera/frames/TR-0451.dng');
let raw: Imported;
beforeAll(async () => {
  raw = await importRaw({ path, plates: folder });
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const step = (kind: string, params: LookStep['params'] = {}): LookStep => {
  const made = newStep(kind, kind);
  return { ...made, params: { ...made.params, ...params } };
};
/** What reads neighbours, maps of the whole, the film's plane and the place, all in one. */
const wide: Look = {
  ...emptyLook('wide'),
  scene: [step('localContrast', { fine: 40, coarse: 30 }), step('haze', { amount: 40 })],
  stock: step('film', { sheet: stocks[1]! }),
  print: [
    step('glow', { share: 30, size: 3 }),
    step('crispness', { amount: 80, size: 1 }),
    step('grain', { rms: 12 }),
    step('vignette', { edgeEv: -1 }),
  ],
};
const ground: Groundwork = {
  ...plainGroundwork,
  recovery: 60,
  zones: { ...plainGroundwork.zones, ev: [0.6, 0.3, 0, -0.3, -0.6] },
  geometry: { ...plainGroundwork.geometry, straighten: 2, crop: { x: 0.1, y: 0.05, width: 0.8, height: 0.9 } },
  lens: { ...plainLens, distortion: 20, cornerEv: 0.5 },
  detail: {
    noise: { luma: { fine: 2, coarse: 1 }, colour: { fine: 2, coarse: 2 }, darks: 1.2, lights: 0.8 },
    softness: { ...plainDetail.softness, share: 0.5 },
    sharpness: { ...plainDetail.sharpness, gain: 0.8 },
  },
};

/** Linear light of a code of 16 bits (IEC 61966-2-1), of 65535. */
const lightOf = Uint16Array.from({ length: 65536 }, (_, code) => {
  const v = code / 65535;
  return Math.round(65535 * (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4));
});
/** The picture of a frame's full size, by bands that end at the given rows. */
async function banded(look: Look, groundwork: Groundwork | null, ends: readonly number[]): Promise<{ pixels: Uint16Array; width: number }> {
  const { width, height } = outputSize(groundwork, raw),
    into = new SharedArrayBuffer(exactRoom(width, height)),
    task = {
      folder: join(folder, raw.hash),
      full: { width: raw.width, height: raw.height },
      facts: raw.facts,
      hash: raw.hash,
      look,
      groundwork,
      own: null,
      patches: [],
    };
  const rows = [...ends, height];
  // the last first: none needs another
  for (let k = rows.length - 1; k >= 0; k--) await renderBand({ ...task, width, first: k === 0 ? 0 : rows[k - 1]!, end: rows[k]!, into });
  return { pixels: new Uint16Array(into), width };
}

describe('the exact view', () => {
  it.each([
    ['without groundwork', null],
    ['with all of it', ground],
  ] as const)('%s, in bands, is the light of the delivered file’s pixels, code by code', { timeout: 120_000 }, async (_, groundwork) => {
    const waiting = join(folder, 'whole.tif');
    await deliver({
      path,
      hash: raw.hash,
      look: wide,
      groundwork,
      own: null,
      repairs: null,
      plates: null,
      files: [{ settings: { format: 'tiff', depth: 16, space: 'srgb', size: null, quality: 92 }, waiting }],
    });
    const { data, info } = await sharp(waiting, { ignoreIcc: true })
        .raw({ depth: 'ushort' })
        .toColourspace('rgb16')
        .toBuffer({ resolveWithObject: true }),
      { pixels, width } = await banded(wide, groundwork, [400, 401]);
    expect(info.width).toBe(width);
    const codes = new Uint16Array(data.buffer, data.byteOffset, data.length / 2);
    expect(codes.length).toBe(pixels.length);
    let apart = 0;
    for (let i = 0; i < codes.length; i++) if (pixels[i] !== lightOf[codes[i]!]) apart++;
    expect(apart).toBe(0);
  });
  it('is scaled down in linear light: half of the rows white is the grey of half the light', async () => {
    const [width, height] = [60, 40],
      from = new SharedArrayBuffer(exactRoom(width, height));
    new Uint16Array(from).forEach((_, i, all) => (all[i] = Math.floor(i / (3 * width)) % 2 === 0 ? 65535 : 0));
    const small = await scaleBands({ from, width, height, to: { width: 15, height: 10 } }),
      middle = small.subarray((5 * 15 + 7) * 4, (5 * 15 + 7) * 4 + 4);
    // IEC 61966-2-1: the code of a light of ½ is 188
    expect([...middle].map((v, c) => (c < 3 ? Math.abs(v - 188) <= 1 : v === 255))).toEqual([true, true, true, true]);
  });
});
