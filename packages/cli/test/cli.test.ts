import { spawnSync } from 'node:child_process';
import { copyFileSync, existsSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { instantiate } from 'lcms-wasm';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { rec2020To, displayP3, srgb } from '@dyepot/core/src/colour/spaces.ts';
import { apply3, invert3 } from '@dyepot/core/src/colour/matrix.ts';
import { decodeSrgb, encodeSrgb } from '@dyepot/core/src/colour/transfer.ts';
import { writeIccProfile } from '@dyepot/core/src/formats/icc.ts';
import { root } from '@dyepot/server/src/places.ts';
import { dyepot, frame } from './cliTrial.ts';

const folder = mkdtempSync(join(tmpdir(), 'dyepot-cli-'));
const exif = (file: string, ...tags: string[]): string[] =>
  spawnSync('/usr/bin/exiftool', ['-T', ...tags, file], { encoding: 'utf8' })
    .stdout.trim()
    .split('\t');

// TYPE_RGB_FLT of lcms2.h: float, RGB, three channels of four bytes
const floatRgb = 0x44001c;

describe('dyepot inspect', () => {
  it('says what exiftool says', () => {
    const [said] = JSON.parse(dyepot('inspect', frame, '--json').out) as [
      {
        width: number;
        camera: string;
        mosaic: string;
        kelvin: number;
        exif: { iso: number; aperture: number; focalMm: number };
        asShotMultipliers: number[];
      },
    ];
    const [width, iso, aperture, focal, neutral] = exif(frame, '-SubIFD:ImageWidth', '-ISO', '-FNumber', '-FocalLength#', '-AsShotNeutral');
    expect([said.width, said.exif.iso, said.exif.aperture, said.exif.focalMm]).toEqual([
      Number(width),
      Number(iso),
      Number(aperture),
      Number(focal),
    ]);
    expect(said.mosaic).toMatch(/^Bayer [RGB]{4}$/);
    expect(said.asShotMultipliers[0]).toBeCloseTo(1 / Number(neutral!.split(' ')[0]), 3);
  });
  it('reports a bad file, goes on with the others, and ends with 1', () => {
    const bad = join(folder, 'bad.dng');
    writeFileSync(bad, 'not a raw at all');
    const r = dyepot('inspect', bad, frame);
    expect([r.status, r.err.trim(), r.out.includes('Hollin Field One')]).toEqual([
      1,
      'dyepot: bad.dng is a text file, not a raw picture',
      true,
    ]);
  });
});

describe('dyepot render', () => {
  it.each([
    ['jpeg', '8', 'srgb', 'jpg', 'sRGB IEC 61966-2-1'],
    ['jpeg', '8', 'p3', 'jpg', 'Display P3'],
    ['tiff', '16', 'p3', 'tif', 'Display P3'],
    ['tiff', '8', 'srgb', 'tif', 'sRGB IEC 61966-2-1'],
    ['png', '16', 'srgb', 'png', 'sRGB IEC 61966-2-1'],
    ['png', '8', 'p3', 'png', 'Display P3'],
  ])('%s, %s bit, %s', async (format, depth, space, extension, profile) => {
    const out = join(folder, `${format}${depth}${space}`),
      r = dyepot(
        'render',
        frame,
        '--look',
        join(root, 'e2e/looks/weld-morning.json'),
        '--out',
        out,
        '--format',
        format,
        '--depth',
        depth,
        '--space',
        space,
        '--size',
        '500',
        '--json',
      );
    expect(r.status).toBe(0);
    const file = join(out, readdirSync(out)[0]!),
      meta = await sharp(file).metadata();
    expect(file.endsWith(extension)).toBe(true);
    expect([meta.width, meta.depth]).toEqual([500, depth === '16' ? 'ushort' : 'uchar']);
    expect(exif(file, '-ProfileDescription', '-Validate')).toEqual([profile, 'OK']);
    // what the raw says of how it was taken goes with the picture
    const said = ['-Make', '-Model', '-LensModel', '-ISO', '-FNumber', '-FocalLength', '-DateTimeOriginal'];
    expect(exif(file, ...said)).toEqual(exif(frame, ...said));
    expect(exif(file, '-ColorSpace', '-Software', '-Orientation#')).toEqual([space === 'srgb' ? 'sRGB' : 'Uncalibrated', 'Dyepot', '1']);
  });
  it('a profile is attached, not applied: the pixels of PNG and TIFF are the same', async () => {
    const pixels = async (f: string): Promise<Buffer> => {
      const d = join(folder, `${f}8srgb`);
      if (!existsSync(d))
        dyepot(
          'render',
          frame,
          '--look',
          join(root, 'e2e/looks/weld-morning.json'),
          '--out',
          d,
          '--format',
          f,
          '--depth',
          '8',
          '--size',
          '500',
        );
      return sharp(join(d, readdirSync(d)[0]!))
        .raw()
        .toBuffer();
    };
    expect((await pixels('tiff')).equals(await pixels('png'))).toBe(true);
  });
  it('one bad file is reported and the others are done', () => {
    const cut = join(folder, 'cut.dng'),
      good = join(folder, 'good.dng'),
      out = join(folder, 'mixed');
    writeFileSync(cut, readFileSync(frame).subarray(0, 4000));
    copyFileSync(frame, good);
    const r = dyepot('render', cut, good, '--look', 'none', '--out', out, '--size', '300');
    expect([r.status, readdirSync(out)]).toEqual([1, ['good.jpg']]);
    expect(r.err).toMatch(/cut\.dng is damaged/);
  });
  it.each([
    [['--look', 'nowhere.json', '--out', folder], /nowhere\.json cannot be read/],
    [['--look', 'none', '--out', folder, '--depth', '16'], /a JPEG holds 8 bits/],
    [['--look', 'none', '--out', folder, '--size', '3'], /--size takes a whole number/],
    [['--look', 'none'], /needs --look and --out/],
  ])('%j is refused in words', (args, pattern) => {
    const r = dyepot('render', frame, ...args);
    expect(r.status).toBe(2);
    expect(r.err).toMatch(pattern);
  });
});

describe('dyepot probe', () => {
  it('middle grey stays middle grey through the neutral response', () => {
    const steps = JSON.parse(dyepot('probe', 'none', '0.18', '0.18', '0.18', '--json').out) as { rgb: number[] }[];
    for (const v of steps[steps.length - 1]!.rgb) expect(v).toBeCloseTo(0.18, 4);
  });
  it('shows each step in turn, and takes negative numbers', () => {
    const r = dyepot('probe', join(root, 'e2e/looks/weld-morning.json'), '-0.01', '0.2', '0.3');
    expect(
      r.out
        .trim()
        .split('\n')
        .map((l) => l.split(/\s{2,}|\s(?=-?\d)/)[0]),
    ).toEqual(['in', 'warm', 'stock', 'Soft paper', 'sat', 'grade']);
  });
  it('a missing number is said so', () => expect(dyepot('probe', 'none', '1', '2').err).toMatch(/three numbers/));
});

describe('ICC profiles, read by LittleCMS', () => {
  it.each([
    ['srgb', srgb],
    ['p3', displayP3],
  ] as const)('%s: LittleCMS converts to sRGB as the primaries say', async (space, primaries) => {
    const lcms = await instantiate(),
      ours = lcms.cmsOpenProfileFromMem(writeIccProfile(space), writeIccProfile(space).length),
      theirs = lcms.cmsCreate_sRGBProfile();
    const transform = lcms.cmsCreateTransform(ours, floatRgb, theirs, floatRgb, 1, 0),
      toSrgb = (v: readonly number[]): number[] =>
        apply3(
          rec2020To(srgb),
          apply3(invert3(rec2020To(primaries)), v.map((x) => decodeSrgb(x)) as unknown as readonly [number, number, number]),
        ).map(encodeSrgb);
    for (const c of [
      [0.5, 0.5, 0.5],
      [0.6, 0.4, 0.3],
      [0.3, 0.5, 0.55],
      [1, 1, 1],
    ]) {
      const out = Array.from(lcms.cmsDoTransform(transform, new Float32Array(c), 1) as Float32Array),
        want = toSrgb(c);
      want.forEach((v, i) => expect(out[i]!).toBeCloseTo(v, 2));
    }
  });
});

describe('groundwork on the command line', () => {
  const write = (name: string, value: unknown): string => {
    const file = join(folder, name);
    writeFileSync(file, typeof value === 'string' ? value : JSON.stringify(value));
    return file;
  };
  it('crops, turns and brightens what is written', async () => {
    const [width, height] = exif(frame, '-SubIFD:ImageWidth', '-SubIFD:ImageHeight').map(Number) as [number, number],
      plain = join(folder, 'plain'),
      ground = join(folder, 'ground'),
      file = write('ground.json', {
        format: 'dyepot-groundwork',
        version: 1,
        exposureEv: 1,
        geometry: { quarterTurns: 1, crop: { x: 0, y: 0, width: 1, height: 0.5 } },
      });
    expect(dyepot('render', frame, '--look', 'none', '--format', 'png', '--out', plain).status).toBe(0);
    expect(dyepot('render', frame, '--look', 'none', '--format', 'png', '--groundwork', file, '--out', ground).status).toBe(0);
    const made = readdirSync(ground)[0]!,
      before = sharp(join(plain, made)),
      after = sharp(join(ground, made)),
      size = await after.metadata();
    expect([size.width, size.height]).toEqual([height, Math.round(width / 2)]);
    const [a, b] = [(await before.stats()).channels[1]!.mean, (await after.stats()).channels[1]!.mean];
    expect(b).toBeGreaterThan(a * 1.15);
  });
  it('a crop is that part of the picture and no other', async () => {
    // the last bit is dithered by its place in the file
    const deep = ['--format', 'tiff', '--depth', '16'],
      plain = join(folder, 'deep'),
      cropped = join(folder, 'cropped'),
      part = (x: number, y: number): string =>
        write('crop.json', { format: 'dyepot-groundwork', version: 1, geometry: { crop: { x, y, width: 0.25, height: 0.25 } } });
    expect(dyepot('render', frame, '--look', 'none', ...deep, '--out', plain).status).toBe(0);
    const whole = join(plain, readdirSync(plain)[0]!),
      { width, height } = await sharp(whole).metadata();
    for (const [x, y] of [
      [0, 0],
      [0.5, 0.25],
      [0.75, 0.75],
    ] as const) {
      const out = join(cropped, `${x} ${y}`);
      expect(dyepot('render', frame, '--look', 'none', ...deep, '--groundwork', part(x, y), '--out', out).status).toBe(0);
      const made = sharp(join(out, readdirSync(out)[0]!)),
        size = await made.metadata(),
        cut = sharp(whole).extract({ left: Math.round(x * width), top: Math.round(y * height), width: size.width, height: size.height });
      const [a, b] = await Promise.all(
        [made, cut].map(async (p) => [...new Uint16Array((await p.raw({ depth: 'ushort' }).toBuffer()).buffer.slice(0))]),
      );
      expect(a!.length).toBe(b!.length);
      expect(
        a!.reduce((most, v, i) => Math.max(most, Math.abs(v - b![i]!)), 0),
        `at ${x}, ${y}`,
      ).toBeLessThanOrEqual(1);
    }
  });
  it.each([
    ['not json', 'is not JSON'],
    [{ format: 'dyepot-look' }, 'is not groundwork'],
    [{ format: 'dyepot-groundwork', version: 1, exposureEv: 40 }, 'exposureEv'],
    [{ format: 'dyepot-groundwork', version: 1, geometry: { crop: { x: 0.9, y: 0, width: 0.5, height: 1 } } }, 'outside the picture'],
    [{ format: 'dyepot-groundwork', version: 2, detail: { sharpness: { sizePx: 90 } } }, 'sizePx'],
  ])('a bad file is refused in words (%j)', (bad, words) => {
    const out = join(folder, 'never'),
      said = dyepot('render', frame, '--look', 'none', '--groundwork', write('bad.json', bad), '--out', out);
    expect(said.status).toBe(2);
    expect(said.err).toContain(words);
    expect(existsSync(out)).toBe(false);
  });
  it('balance wants one file and a place in the picture', () => {
    expect(dyepot('balance').err).toContain('takes one file');
    expect(dyepot('balance', frame, '--at', '0.5').err).toContain('two fractions');
    expect(dyepot('balance', join(folder, 'nowhere.dng')).err).toContain('is not there');
    expect(dyepot('balance', frame, '--at', '0.5,0.5', '--size', '0').err).toContain('--size takes a whole number');
    const said = dyepot('balance', frame, '--at', '0.5,0.3', '--size', '40');
    expect(said.out).toMatch(/^\d+ K, tint -?\d\.\d+, multipliers [\d.]+ 1\.0000 [\d.]+/);
  });
});
