import { existsSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { emptyLook, newStep } from '@dyepot/core/src/look/look.ts';
import { common, maskOf, type Mask } from '@dyepot/core/src/mask/mask.ts';
import { thingColours } from '@dyepot/camera/src/truth.ts';
import { root } from '@dyepot/server/src/places.ts';
import { dyepot } from './cliTrial.ts';

const folder = mkdtempSync(join(tmpdir(), 'dyepot-cli-mask-')),
  frame = join(root, 'packages/camera/frames/TR-0451.dng'),
  step = (mask: Mask): object => ({ ...newStep('exposure', 'x'), params: { shiftEv: 1 }, mask }),
  write = (name: string, value: object): string => {
    writeFileSync(join(folder, name), JSON.stringify(value));
    return join(folder, name);
  },
  grey = (file: string): Promise<Buffer> => sharp(file).greyscale().raw().toBuffer();

describe('places on the command line', () => {
  it('a step’s gradient is written as a grey picture that follows its formula', async () => {
    const look = write('look.json', {
        ...emptyLook('t'),
        scene: [step(maskOf({ ...common, kind: 'gradient', from: [0.5, 1], to: [0.5, 0], middle: 0.5 }))],
      }),
      out = join(folder, 'mask.png');
    expect(JSON.parse(dyepot('mask', frame, '--look', look, '--step', 'x', '--out', out, '--json').out)).toMatchObject({
      width: 1632,
      height: 1088,
    });
    // its own is written over, another's is not
    expect(dyepot('mask', frame, '--look', look, '--step', 'x', '--out', out).status).toBe(0);
    const theirs = write('theirs.png', { not: 'ours' });
    expect(dyepot('mask', frame, '--look', look, '--step', 'x', '--out', theirs).err).toMatch(/was not made by Dyepot/);
    const pixels = await grey(out);
    for (const y of [0, 200, 544, 900, 1087]) {
      const t = 1 - (y + 0.5) / 1088;
      expect(Math.abs(pixels[y * 1632 + 800]! - 255 * t * t * (3 - 2 * t))).toBeLessThanOrEqual(1);
    }
  });
  it(
    'what is found lies where the simulated camera knows it is: intersection over union, sky and figures in their boxes',
    { timeout: 180_000 },
    async () => {
      const [width, height] = [408, 272],
        frames = join(root, 'packages/camera/frames'),
        is = async (name: string, ...what: (keyof typeof thingColours)[]): Promise<Uint8Array> => {
          const colours = what.map((w) => thingColours[w].join()),
            rgb = await sharp(join(frames, `${name}.things.png`))
              .removeAlpha()
              .toColourspace('srgb')
              .raw()
              .toBuffer();
          return Uint8Array.from({ length: width * height }, (_, i) => (colours.includes(rgb.subarray(3 * i, 3 * i + 3).join()) ? 1 : 0));
        };
      const found = async (name: string, find: string): Promise<Buffer> => {
        const out = join(folder, `${name}.png`);
        expect(dyepot('mask', join(frames, `${name}.dng`), '--find', find, '--out', out).status).toBe(0);
        return sharp(out).resize(width, height, { fit: 'fill' }).greyscale().raw().toBuffer();
      };
      const overlap = (mask: Buffer, truth: Uint8Array): number => {
        let [both, any] = [0, 0];
        truth.forEach((t, i) => {
          const m = mask[i]! > 127;
          if (m && t) both++;
          if (m || t) any++;
        });
        return both / any;
      };
      const boxOf = (truth: Uint8Array): string => {
        const at = [...truth.keys()].filter((i) => truth[i]),
          [xs, ys] = [at.map((i) => i % width), at.map((i) => Math.floor(i / width))],
          [left, right, top, bottom] = [
            Math.min(...xs) / width,
            (Math.max(...xs) + 1) / width,
            Math.min(...ys) / height,
            (Math.max(...ys) + 1) / height,
          ];
        return `figure:${[left, top, right - left, bottom - top].map((v) => v.toFixed(4)).join()}`;
      };
      // at dusk; in strips between cloths; over land in mist; clouds darker than the house's walls in the sun
      for (const name of ['TR-0451', 'TR-0455', 'TR-0466', 'TR-0468', 'TR-0470', 'TR-0490'])
        expect([name, overlap(await found(name, 'sky'), await is(name, 'sky')) > 0.9]).toEqual([name, true]);
      const vat = await is('TR-0438', 'figure', 'skin');
      expect(overlap(await found('TR-0438', boxOf(vat)), vat)).toBeGreaterThan(0.8);
      // people whose surroundings have their colours too
      for (const name of ['TR-0415', 'TR-0421', 'TR-0472']) {
        const figure = await is(name, 'figure', 'skin');
        expect([name, overlap(await found(name, boxOf(figure)), figure) > 0.9]).toEqual([name, true]);
      }
      // a barrel is no person, and is cut out by its colours
      const barrel = (await found('TR-0440', 'figure:0,0.5,0.3,0.4')).reduce((sum, v) => sum + v / 255, 0) / (width * height);
      expect([barrel > 0.04, barrel < 0.11]).toEqual([true, true]);
      expect(dyepot('mask', frame, '--find', 'figure:0.5,0.5,0.9,0.2', '--out', join(folder, 'x.png')).err).toMatch(/lies inside of it/);
    },
  );
  it('a sky is found, a frame’s own steps are drawn and rendered, and what cannot be is said', async () => {
    const sky = join(folder, 'sky.png'),
      found = JSON.parse(dyepot('mask', frame, '--find', 'sky', '--out', sky, '--json').out) as { share: number };
    expect(found.share).toBeGreaterThan(0.25);
    expect(found.share).toBeLessThan(0.4);
    const stroke = { erase: false, size: 0.1, feather: 0.5, flow: 1, points: [5000, 5000, 100] },
      local = write('local.json', {
        format: 'dyepot-local',
        version: 1,
        scene: [step(maskOf({ ...common, kind: 'brush', strokes: [stroke] }))],
        print: [],
        skeins: [],
        masks: [],
      });
    const plain = join(folder, 'plain'),
      lit = join(folder, 'lit'),
      render = (out: string, ...more: string[]): void => {
        expect(dyepot('render', frame, '--look', 'none', '--out', out, '--size', '300', ...more).status).toBe(0);
      };
    render(plain);
    render(lit, '--local', local);
    const [a, b] = [await grey(join(plain, 'TR-0451.jpg')), await grey(join(lit, 'TR-0451.jpg'))],
      at = (p: Buffer, x: number, y: number): number => p[y * 300 + x]!;
    expect(at(b, 150, 150)).toBeGreaterThan(at(a, 150, 150) + 15);
    expect(Math.abs(at(b, 20, 190) - at(a, 20, 190))).toBeLessThan(3);
    const everywhere = write('all.json', { ...emptyLook('t'), scene: [{ ...newStep('exposure', 'x'), params: { shiftEv: 1 } }] }),
      none = join(folder, 'none.png'),
      refused = dyepot('mask', frame, '--look', everywhere, '--step', 'x', '--out', none);
    expect([refused.status, refused.err]).toEqual([2, expect.stringMatching(/acts everywhere/) as string]);
    expect(existsSync(none)).toBe(false);
    expect(dyepot('mask', frame, '--find', 'cats', '--out', none).err).toMatch(/--find takes sky or foliage or skin or lights/);
    expect(dyepot('render', frame, '--look', 'none', '--out', lit, '--local', everywhere).err).toMatch(/dyepot-local/);
  });
});
