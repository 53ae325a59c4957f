import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { readCdl, writeCdl } from '../src/formats/cdl.ts';
import { readClf, writeClf, type Clf } from '../src/formats/clf.ts';
import { readCube, writeCube } from '../src/formats/cube.ts';
import { haldLevel, readHald, writeHald } from '../src/formats/hald.ts';
import { applyTable, table3d, type Rgb, type Table } from '../src/colour/table.ts';
import { applyCdl } from '../src/colour/cdl.ts';
import { applyClf } from '../src/formats/clfApply.ts';
import { work, put, colours, ocio, farthest, odd, cube, wide, ramp, cdl, clf } from './tableTrial.ts';

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
