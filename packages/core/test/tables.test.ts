import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { readCdl, writeCdl } from '../src/formats/cdl.ts';
import { applyClf, readClf, writeClf, type Clf } from '../src/formats/clf.ts';
import { readCube, writeCube } from '../src/formats/cube.ts';
import { fitReport, fitTable } from '../src/formats/fitTable.ts';
import { haldLevel, readHald, writeHald } from '../src/formats/hald.ts';
import { fateOf, inspectTable } from '../src/formats/inspectTable.ts';
import { applyTable, table3d, type Rgb, type Table } from '../src/formats/table.ts';
import { bakeError, bakeLook, lookThrough, suggestedSize, testColours, unbakeable } from '../src/look/bake.ts';
import { emptyLook, newStep, type Look } from '../src/look/look.ts';
import { applyCdl } from '../src/steps/cdl/index.ts';
import { kernels } from './kernels.ts';

const work = mkdtempSync(join(tmpdir(), 'dyepot-tables-')),
  bytes = (text: string): Uint8Array => new TextEncoder().encode(text),
  put = (name: string, text: string): string => {
    const path = join(work, name);
    writeFileSync(path, text);
    return path;
  };
// a thousand colours, a fifth of them outside 0–1
const colours: Rgb[] = Array.from({ length: 1000 }, (_, i) => {
  const c = [0.8191725, 0.6710436, 0.5497005].map((a) => (0.5 + a * (i + 1)) % 1),
    wide = i % 5 === 0;
  return c.map((v) => (wide ? v * 2 - 0.5 : v)) as unknown as Rgb;
});
const ocio = (jobs: { file: string; interpolation?: string; cccid?: string }[]): Rgb[][] =>
  JSON.parse(
    execFileSync('/usr/bin/python3', [new URL('./ocio.py', import.meta.url).pathname], {
      input: JSON.stringify({ jobs, colours }),
      encoding: 'utf8',
      maxBuffer: 1e8,
    }),
  ) as Rgb[][];
const farthest = (ours: (c: Rgb) => Rgb, theirs: Rgb[], relative = false): number =>
  Math.max(
    ...colours.map((c, i) =>
      Math.max(...ours(c).map((v, k) => Math.abs(v - theirs[i]![k]!) / (relative ? Math.max(1, Math.abs(theirs[i]![k]!)) : 1))),
    ),
  );
const odd = (rgb: Rgb): Rgb => [
  Math.max(0, rgb[0]) ** 1.3 * 0.9 + 0.05 * rgb[1],
  0.1 + 0.8 * Math.sin(rgb[1] * 1.5) * (1 - 0.2 * rgb[2]),
  rgb[2] * 0.7 + 0.3 * rgb[0] * rgb[1],
];
const cube = table3d('Odd', 17, odd),
  wide = table3d('Wide', 9, odd, [-0.2, 0, 0], [1.4, 1.2, 1]);
const ramp: Table = {
  kind: '1d',
  title: 'Ramp',
  size: 64,
  domainMin: [0, 0, 0],
  domainMax: [1, 1, 1],
  data: Float32Array.from({ length: 192 }, (_, i) => ((i % 64) / 63) ** (0.6 + 0.4 * Math.floor(i / 64))),
};
const cdl = { slope: [1.2, 0.9, 0.75], offset: [0.03, -0.02, 0.06], power: [0.8, 1.1, 1.4], saturation: 1.3 } as const;
const log = {
  base: 10,
  linSideSlope: 5.5,
  linSideOffset: 0.05,
  logSideSlope: 0.25,
  logSideOffset: 0.4,
  linSideBreak: null,
  linearSlope: null,
} as const;
const clf: Clf = {
  id: 'trial',
  name: 'Trial',
  nodes: [
    {
      type: 'matrix',
      rows: [
        [0.9, 0.1, 0],
        [0.05, 0.85, 0.1],
        [0, 0.2, 0.8],
      ],
      offsets: [0.01, 0, -0.01],
    },
    { type: 'range', minIn: 0, maxIn: 1, minOut: 0.02, maxOut: 0.98, clamp: true },
    {
      type: 'exponent',
      style: 'monCurveFwd',
      params: [
        { exponent: 2.4, offset: 0.055 },
        { exponent: 2.2, offset: 0.099 },
        { exponent: 2.4, offset: 0.055 },
      ],
    },
    { type: 'cdl', cdl: { slope: [1.1, 1, 0.9], offset: [0.01, 0.02, 0], power: [1, 0.95, 1.1], saturation: 0.9 }, style: 'Fwd' },
    { type: 'log', style: 'linToLog', params: [log, log, log] },
    { type: 'table', linear: false, table: table3d('', 9, odd) },
    { type: 'table', linear: true, table: ramp },
  ],
};

describe('against OpenColorIO (Debian opencolorio-tools, python3-pyopencolorio 2.1), 1,000 colours, some outside the domain', () => {
  const files = {
    cube: put('odd.cube', writeCube(cube)),
    wide: put('wide.cube', writeCube(wide)),
    ramp: put('ramp.cube', writeCube(ramp)),
    cc: put('trial.cc', writeCdl({ id: 'trial', cdl }, 'cc')),
    ccc: put('trial.ccc', writeCdl({ id: 'trial', cdl }, 'ccc')),
    cdl: put('trial.cdl', writeCdl({ id: 'trial', cdl }, 'cdl')),
    clf: put('trial.clf', writeClf(clf)),
  };
  const camera = {
      base: 2,
      linSideSlope: 1,
      linSideOffset: 0.01,
      logSideSlope: 0.08,
      logSideOffset: 0.6,
      linSideBreak: 0.02,
      linearSlope: null,
    } as const,
    more: Clf = {
      id: 'more',
      name: 'More',
      nodes: [
        { type: 'log', style: 'cameraLinToLog', params: [camera, camera, camera] },
        { type: 'exponent', style: 'basicMirrorFwd', params: [1.2, 1, 0.8].map((exponent) => ({ exponent, offset: 0 })) },
        { type: 'range', minIn: 0.1, maxIn: 0.9, minOut: 0, maxOut: 1, clamp: false },
        { type: 'table', linear: true, table: table3d('', 5, odd) },
      ],
    },
    moreFile = put('more.clf', writeClf(more));
  const [three, domain, one, list, second, ...corrections] = ocio([
    { file: files.cube },
    { file: files.wide },
    { file: files.ramp, interpolation: 'LINEAR' },
    { file: files.clf },
    { file: moreFile, interpolation: 'LINEAR' },
    { file: files.cc },
    { file: files.ccc, cccid: 'trial' },
    { file: files.cdl, cccid: 'trial' },
  ]) as [Rgb[], Rgb[], Rgb[], Rgb[], Rgb[], ...Rgb[][]];
  const back = <T>(r: { table: T } | { message: string }): T => {
    if ('message' in r) throw new Error(r.message);
    return r.table;
  };
  it('3D .cube, with and without a domain of its own: within 1e-5, the file written by us and read by both', () => {
    const [own, other] = [files.cube, files.wide].map((f) => back(readCube(readFileSync(f)))) as [Table, Table];
    expect(farthest((c) => applyTable(own, c), three)).toBeLessThan(1e-5);
    expect(farthest((c) => applyTable(other, c), domain)).toBeLessThan(1e-5);
  });
  it('1D .cube: within 1e-5', () => {
    const own = back(readCube(readFileSync(files.ramp)));
    expect(farthest((c) => applyTable(own, c), one)).toBeLessThan(1e-5);
  });
  it.each([
    ['cc', 0],
    ['ccc', 1],
    ['cdl', 2],
  ] as const)('.%s: within 1e-5', (kind, i) => {
    const read = readCdl(readFileSync(files[kind]));
    if ('message' in read) throw new Error(read.message);
    expect(read.corrections[0]!.id).toBe('trial');
    expect(farthest((c) => applyCdl(read.corrections[0]!.cdl, c), corrections[i]!)).toBeLessThan(1e-5);
  });
  it('.clf of every kind of node: within 1e-4', () => {
    for (const [path, theirs] of [
      [files.clf, list],
      [moreFile, second],
    ] as const) {
      const read = readClf(readFileSync(path));
      if ('message' in read) throw new Error(read.message);
      expect(farthest((c) => applyClf(read.clf, c), theirs, true)).toBeLessThan(1e-4);
    }
  });
  it('ociochecklut itself says the same of single colours', () => {
    for (const c of colours.slice(1, 12))
      for (const [file, ours] of [
        [files.cube, (v: Rgb): Rgb => applyTable(cube, v)],
        [files.clf, (v: Rgb): Rgb => applyClf(clf, v)],
      ] as const) {
        const said = execFileSync('ociochecklut', [file, ...c.map(String)], { encoding: 'utf8' })
          .trim()
          .split('\n')
          .pop()!
          .replace(/^.*\[(?=[^[]*$)|\]/g, '')
          .trim()
          .split(/\s+/)
          .map(Number);
        ours(c).forEach((v, k) => expect(Math.abs(v - said[k]!)).toBeLessThan(1e-4));
      }
  });
});

describe('Hald images', () => {
  it('levels 2 to 16 are known by their size; a table goes there and back', () => {
    for (let level = 2; level <= 16; level++) expect(haldLevel(level ** 3, level ** 3)).toBe(level);
    expect(haldLevel(100, 100)).toBe(null);
    const t = table3d('h', 9, odd),
      hald = writeHald(t);
    if ('message' in hald) throw new Error(hald.message);
    const read = readHald(hald.pixels, hald.width, hald.width);
    if ('message' in read) throw new Error(read.message);
    expect(Math.max(...read.table.data.map((v, i) => Math.abs(v - Math.min(1, Math.max(0, t.data[i]!)))))).toBeLessThan(1e-5);
    expect(writeHald(table3d('no', 17, odd))).toMatchObject({ message: expect.stringContaining('not 17') as string });
    expect(readHald(new Uint8Array(300), 10, 10)).toMatchObject({ message: expect.stringContaining('10 × 10') as string });
  });
  it('applied by ImageMagick (-hald-clut) is within a code of ours', () => {
    const t = table3d('h', 64, odd),
      hald = writeHald(t);
    if ('message' in hald) throw new Error(hald.message);
    const ppm = (name: string, width: number, height: number, depth: 255 | 65535, data: Buffer): string => {
      const path = join(work, name);
      writeFileSync(path, Buffer.concat([Buffer.from(`P6\n${width} ${height}\n${depth}\n`), data]));
      return path;
    };
    const clut = ppm('hald.ppm', hald.width, hald.width, 65535, Buffer.from(hald.pixels.buffer).swap16()),
      photo = ppm(
        'photo.ppm',
        50,
        20,
        255,
        Buffer.from(colours.flatMap((c) => c.map((v) => Math.round(Math.min(1, Math.max(0, v)) * 255)))),
      );
    execFileSync('/usr/bin/convert-im6.q16', [photo, clut, '-hald-clut', '-depth', '8', join(work, 'out.ppm')]);
    const theirs = readFileSync(join(work, 'out.ppm')).subarray(-3000);
    colours.forEach((c, i) =>
      applyTable(t, c.map((v) => Math.round(Math.min(1, Math.max(0, v)) * 255) / 255) as unknown as Rgb).forEach((v, k) =>
        expect(Math.abs(Math.min(255, Math.max(0, v * 255)) - theirs[i * 3 + k]!)).toBeLessThan(1.01),
      ),
    );
  });
});

describe('malformed tables are refused with the line, in less than a second', () => {
  const rows = (n: number): string => Array.from({ length: n }, (_, i) => `0 0 ${i / n}`).join('\n');
  it.each([
    ['a missing row', `LUT_3D_SIZE 3\n${rows(26)}`, /line 27: the table ends after 26 of 27 rows/],
    ['a row too many', `LUT_1D_SIZE 4\n${rows(5)}`, /line 6: there are more rows/],
    ['NaN', 'LUT_1D_SIZE 2\n0 0 0\n1 nan 1', /line 3: “nan” is not a number/],
    ['size 1', 'LUT_3D_SIZE 1\n0 0 0', /line 1: .*from 2 to 129, not “1”/],
    ['size 10⁶', 'LUT_3D_SIZE 1000000\n0 0 0', /line 1: .*not “1000000”/],
    ['two numbers', 'LUT_1D_SIZE 2\n0 0\n1 1 1', /line 2: expected three numbers, found two numbers/],
    ['no size', 'TITLE "x"\n', /neither/],
    ['a foreign word', 'LUT_1D_SIZE 2\nSPARKLE 3\n0 0 0\n1 1 1', /line 2: “SPARKLE”/],
    ['a domain upside down', 'LUT_1D_SIZE 2\nDOMAIN_MIN 1 1 1\nDOMAIN_MAX 0 0 0\n0 0 0\n1 1 1', /not below/],
    ['a size said twice', 'LUT_1D_SIZE 2\nLUT_3D_SIZE 2\n', /second time/],
    ['text', 'hello there', /“hello”/],
    ['a title without quotes', 'TITLE x\n', /double quotes/],
  ])('%s', (_, text, words) => {
    const from = performance.now(),
      read = readCube(bytes(text));
    expect('message' in read && read.message).toMatch(words);
    expect(performance.now() - from).toBeLessThan(1000);
  });
  it('UTF-16 and binary', () => {
    expect(readCube(Uint8Array.from([255, 254, 76, 0, 85, 0]))).toMatchObject({ message: expect.stringContaining('UTF-16') as string });
    expect(readCube(Uint8Array.from([1, 0, 7, 9]))).toHaveProperty('message');
  });
  it('XML bombs, cut XML and foreign nodes', () => {
    const bomb = `<?xml version="1.0"?>\n<!DOCTYPE l [\n<!ENTITY a "${'ha'.repeat(50)}">\n${Array.from({ length: 9 }, (_, i) => `<!ENTITY a${i} "${`&a${i - 1 < 0 ? '' : i - 1};`.repeat(10)}">`).join('\n')}]>\n<ProcessList compCLFversion="3">&a8;</ProcessList>`,
      from = performance.now();
    expect(readClf(bytes(bomb))).toMatchObject({ message: expect.stringMatching(/^line 2: .*entities/) as string });
    expect(readCdl(bytes(bomb))).toHaveProperty('message');
    expect(readClf(bytes('<ProcessList compCLFversion="3">\n<Matrix>'))).toMatchObject({
      message: expect.stringMatching(/^line \d/) as string,
    });
    expect(readClf(bytes('<ProcessList compCLFversion="3"><Sparkle inBitDepth="32f" outBitDepth="32f"/></ProcessList>'))).toMatchObject({
      message: expect.stringContaining('Sparkle') as string,
    });
    expect(
      readClf(
        bytes(
          '<ProcessList compCLFversion="3"><LUT3D inBitDepth="32f" outBitDepth="32f"><Array dim="2 2 2 3">0 0 0</Array></LUT3D></ProcessList>',
        ),
      ),
    ).toMatchObject({ message: expect.stringContaining('should hold 24') as string });
    expect(readCdl(bytes('<ColorCorrection id="a"><SOPNode><Slope>1 -1 1</Slope></SOPNode></ColorCorrection>'))).toMatchObject({
      message: expect.stringContaining('below zero') as string,
    });
    expect(performance.now() - from).toBeLessThan(1000);
  });
  it('a large good one is read well within the time', () => {
    const text = bytes(writeCube(table3d('big', 65, odd))),
      from = performance.now();
    expect(readCube(text)).toHaveProperty('table');
    expect(performance.now() - from).toBeLessThan(2000);
  });
});

describe('baking', () => {
  const step = (kind: string, params: Record<string, unknown>): Look['stock'] => {
    const s = newStep(kind, `${kind}${JSON.stringify(params).length}`);
    return { ...s, params: { ...s.params, ...params } as Look['stock']['params'] };
  };
  const twelve: Look = {
    ...emptyLook('Twelve steps'),
    scene: [
      step('warmth', { shiftMired: 18 }),
      step('exposure', { shiftEv: 0.2 }),
      step('contrast', { contrast: 12 }),
      step('gel', { hue: 70, density: 0.12 }),
      step('mixer', { redFromGreen: 6 }),
    ],
    print: [
      step('curve', {
        points: [
          [0, 0.03],
          [0.3, 0.27],
          [0.75, 0.8],
          [1, 0.98],
        ],
      }),
      step('hueBands', { hue: [[110, -15, 60]], lightness: [[255, -0.06, 70]] }),
      step('grade', { lightsHue: 70, lightsChroma: 0.02, darksHue: 250, darksChroma: 0.02 }),
      step('saturation', { change: -12 }),
      step('vibrance', { change: 20 }),
      step('cdl', { slopeRed: 1.03, saturation: 0.96 }),
    ],
  };
  it('a twelve-step look at 33³ from sRGB: mean CIEDE2000 under 0.3, worst under 2', () => {
    const table = bakeLook(kernels, twelve, 33, 'srgb'),
      error = bakeError(kernels, twelve, table, 'srgb');
    console.log(
      `baked at 33³: mean ${error.mean.toFixed(3)}, worst ${error.worst.toFixed(2)} at ${error.worstAt.map((v) => v.toFixed(2)).join(' ')}`,
    );
    expect(error.mean).toBeLessThan(0.3);
    expect(error.worst).toBeLessThan(2);
    expect([17, 33]).toContain(suggestedSize(kernels, twelve, 'srgb'));
    expect(bakeError(kernels, twelve, bakeLook(kernels, twelve, 9, 'srgb'), 'srgb').mean).toBeGreaterThan(error.mean);
  });
  it('a look without steps changes no picture', () => {
    lookThrough(kernels, emptyLook('none'), 'srgb', testColours.slice(0, 64)).forEach((c, i) =>
      c.forEach((v, k) => expect(Math.abs(v - testColours[i]![k]!)).toBeLessThan(0.002)),
    );
  });
  it('what a table cannot carry is listed first, with the reason; what does nothing is not', () => {
    const look = { ...twelve, scene: [...twelve.scene, step('haze', { amount: 30 }), step('localContrast', {})] };
    expect(unbakeable(look)).toEqual([{ name: 'Haze', reason: expect.stringContaining('hazy') as string }]);
    expect(unbakeable(twelve)).toEqual([]);
  });
});

describe('a table looked at', () => {
  it('a plain one has nothing against it; one that clips, folds or falls back is told so in words', () => {
    expect(inspectTable(table3d('plain', 33, (c) => c))).toMatchObject({ warnings: [], folded: 0, falls: [] });
    const bad = inspectTable(table3d('bad', 33, ([r, g, b]) => [Math.min(1, r * 2), g < 0.6 ? g : 1.2 - g, b]));
    expect(bad.falls).toMatchObject([{ channel: 1 }]);
    expect(bad.falls[0]!.at).toBeCloseTo(0.63, 1);
    expect(bad.warnings.join(' ')).toMatch(/fall back in green.*folded.*upper end/s);
    expect(inspectTable(table3d('coarse', 5, (c) => c)).warnings.join()).toContain('coarse');
  });
  it('greys that go up in sixteen steps band, a smooth S does not, and one sharp bend is told apart from both', () => {
    const stairs = inspectTable(table3d('stairs', 65, (c) => c.map((v) => Math.round(v * 16) / 16) as unknown as Rgb));
    expect(stairs.bands.map((b) => b.channel)).toEqual([0, 1, 2]);
    expect(stairs.warnings.join(' ')).toContain('will band');
    const smooth = inspectTable(table3d('s', 33, (c) => c.map((v) => v * v * (3 - 2 * v)) as unknown as Rgb));
    expect(smooth).toMatchObject({ bands: [], bends: [], falls: [], warnings: [] });
    const bent = inspectTable(table3d('bent', 33, ([r, g, b]) => [r < 0.5 ? r * 0.2 : 0.1 + (r - 0.5) * 1.8 * 1.5, g, b]));
    expect(bent.bends).toMatchObject([{ channel: 0 }]);
    expect(bent.bends[0]!.at).toBeCloseTo(0.5, 1);
    expect(bent.bands).toEqual([]);
    // an 8-bit Hald image of a smooth curve is rounded to a code, which no one sees as a step
    const eight = inspectTable(table3d('hald', 64, (c) => c.map((v) => Math.round(255 * v ** 1.3) / 255) as unknown as Rgb));
    expect(eight.bands).toEqual([]);
  });
  it('says of single colours whether they clip or lie in a fold', () => {
    const t = table3d('t', 17, ([r, g, b]) => [Math.min(1, r * 1.5), g, b < 0.5 ? b : 1 - b]);
    expect(fateOf(t, [0.9, 0.5, 0.25])).toEqual({ clips: true, folds: false });
    expect(fateOf(t, [0.4, 0.5, 0.75])).toEqual({ clips: false, folds: true });
    expect(fateOf(t, [0.4, 0.5, 0.25])).toEqual({ clips: false, folds: false });
    // a corner of the cube lies on its end by rights
    expect(
      fateOf(
        table3d('plain', 17, (c) => c),
        [1, 1, 1],
      ),
    ).toEqual({ clips: false, folds: false });
  });
});

describe('a table from a picture pair', () => {
  it('recovers a lost recipe: what it says of colours in the picture is within two codes, and it goes on smoothly elsewhere', () => {
    const truth = (c: Rgb): Rgb => [c[0] ** 0.85 * 0.95 + 0.03, 0.02 + 0.9 * c[1] + 0.04 * c[0], c[2] * 0.8 + 0.12],
      n = 40000,
      before = new Float32Array(n * 3),
      after = new Float32Array(n * 3);
    // colours of a picture: round a warm grey, not over the whole cube
    for (let i = 0; i < n; i++) {
      const t = (i * 0.6180339) % 1,
        c = [0, 1, 2].map((k) =>
          Math.min(1, Math.max(0, t + 0.25 * (((i * [0.7548776, 0.5698403, 0.381966][k]!) % 1) - 0.5))),
        ) as unknown as Rgb;
      before.set(c, i * 3);
      after.set(truth(c), i * 3);
    }
    const table = fitTable(before, after, 17, 'found'),
      report = fitReport(table, before, after);
    console.log(
      `fitted: coverage ${(report.coverage * 100).toFixed(0)} %, residual mean ${report.mean.toFixed(2)}, worst ${report.worst.toFixed(2)} of 255`,
    );
    expect(report.mean).toBeLessThan(0.6);
    expect(report.worst).toBeLessThan(4);
    expect(report.coverage).toBeLessThan(0.5);
    for (const c of [
      [1, 0, 0],
      [0, 1, 0.2],
      [0.1, 0.1, 1],
    ] as Rgb[])
      applyTable(table, c).forEach((v, k) => expect(Math.abs(v - truth(c)[k]!)).toBeLessThan(0.12));
    expect(inspectTable(table).folded).toBeLessThan(0.01);
  });
});
