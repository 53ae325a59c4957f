import { mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { writeDng } from '@dyepot/camera/src/dng.ts';
import { writeCdl } from '@dyepot/core/src/formats/cdl.ts';
import { writeClf } from '@dyepot/core/src/formats/clf.ts';
import { writeCube } from '@dyepot/core/src/formats/cube.ts';
import { writeHald } from '@dyepot/core/src/formats/hald.ts';
import { inspectTable } from '@dyepot/core/src/formats/inspectTable.ts';
import { readLensDatabase } from '@dyepot/core/src/formats/lensfun.ts';
import { readOpcodes } from '@dyepot/core/src/formats/opcodes.ts';
import { table3d } from '@dyepot/core/src/colour/table.ts';
import { readDirectories } from '@dyepot/core/src/formats/tiff.ts';
import { plainGroundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import { readGroundwork } from '@dyepot/core/src/groundwork/schema.ts';
import { readLook } from '@dyepot/core/src/look/schema.ts';
import { bakeClf } from '@dyepot/core/src/plan/bake.ts';
import { validateRepairs } from '@dyepot/core/src/repair/schema.ts';
import { loadKernels } from '@dyepot/core/src/kernels/kernels.ts';
import { decodeRaw } from '../src/decode/decode.ts';
import { tiffExtents } from '../src/decode/extents.ts';
import { kernelsFile, root } from '../src/places.ts';
import { PlainError } from '../src/plainError.ts';
import { pack, unpack } from '../src/work/parcel.ts';
import { forLook, readTableFile } from '../src/work/tableFile.ts';

/** One kind of file that is read: its sound examples, and what reading one must do. */
export interface Format {
  name: string;
  seeds: Uint8Array[];
  /** Reads a mutant. Throws when a promise is broken; a PlainError or a message is as it should be. */
  read: (bytes: Uint8Array, cutAt: number | null) => Promise<void> | void;
  /** its share of all mutants: what is slow to read has fewer */
  share: number;
}
const bytesOf = (text: string): Uint8Array => new TextEncoder().encode(text);
const spoken = (message: string): void => {
  if (/undefined|\[object|\bat .*\.ts:|Cannot read|is not a function|Maximum call stack/.test(message))
    throw new Error(`it speaks as a program: ${message}`);
};
/** Nothing but PlainError may be thrown, and its words are a person's. */
async function plainly(work: () => Promise<unknown> | unknown): Promise<boolean> {
  try {
    await work();
    return true;
  } catch (error) {
    if (!(error instanceof PlainError)) throw error;
    spoken(error.message);
    return false;
  }
}

/** Small raws of every layout the simulated camera writes, 96 × 64. */
function rawSeeds(): Uint8Array[] {
  const [width, height] = [96, 64],
    mosaic = Uint16Array.from({ length: width * height }, (_, i) => 300 + ((i * 37) % 12000)),
    camera = new Float32Array(0),
    e = { ev: 0, kelvin: 5500, believedKelvin: 5500, iso: 200, seed: 1, pattern: 'RGGB', bits: 14, black: 256 } as never;
  const preview = { width: 16, height: 16, jpeg: new Uint8Array(0) },
    exif = { iso: 200, shutterSeconds: 0.01, aperture: 4, focalMm: 35, time: '2026:01:01 00:00:00' };
  return (['none', 'lossless'] as const).flatMap((compression) =>
    (['strips', 'tiles'] as const).map((layout) =>
      writeDng({ width, height, mosaic, asShotNeutral: [0.5, 1, 0.6], camera }, e, {
        compression,
        layout,
        preview: { ...preview, jpeg: whiteJpeg },
        exif,
        baselineExposureEv: 0,
      }),
    ),
  );
}
const whiteJpeg = new Uint8Array(
  await sharp({ create: { width: 16, height: 16, channels: 3, background: '#fff' } })
    .jpeg()
    .toBuffer(),
);

/** Everything Dyepot reads. */
export async function formats(): Promise<Format[]> {
  const kernels = await loadKernels(readFileSync(kernelsFile)),
    looks = readdirSync(join(root, 'demo/looks')).map((f) => readFileSync(join(root, 'demo/looks', f))),
    look = (readLook(looks[0]!.toString()) as { look: never }).look,
    small = table3d('t', 5, ([r, g, b]) => [r ** 0.9, g, b * 0.95]),
    curve = { ...small, kind: '1d' as const, size: 16, data: Float32Array.from({ length: 48 }, (_, i) => (i % 16) / 15) },
    hald = writeHald(table3d('t', 16, (c) => c)) as { width: number; pixels: Uint16Array };
  const image = (): ReturnType<typeof sharp> =>
      sharp(hald.pixels, { raw: { width: hald.width, height: hald.width, channels: 3 } }).toColourspace('rgb16'),
    cdl = { slope: [1.1, 1, 0.9], offset: [0, 0.01, 0], power: [1, 1.1, 1], saturation: 1.2 } as never;
  const table = (ending: string, seeds: Uint8Array[], share: number): Format => ({
    name: ending,
    seeds,
    share,
    read: async (bytes) => {
      await plainly(async () => {
        const { table: read } = await readTableFile(bytes, `mutant${ending}`);
        inspectTable(forLook(read).table);
      });
    },
  });
  const texts = (name: string, seeds: Uint8Array[], read: (text: string) => object): Format => ({
    name,
    seeds,
    share: 4,
    read: (bytes) => {
      const answer = read(Buffer.from(bytes).toString('utf8'));
      if ('message' in answer) spoken(String(answer.message));
    },
  });
  const folder = mkdtempSync(join(tmpdir(), 'dyepot-fuzz-'));
  mkdirSync(folder, { recursive: true });
  let n = 0;
  return [
    table('.cube', [bytesOf(writeCube(small, ['a'])), bytesOf(writeCube(curve, []))], 5),
    table('.png', [new Uint8Array(await image().png().toBuffer())], 1),
    table('.tif', [new Uint8Array(await image().tiff().toBuffer())], 1),
    table('.clf', [bytesOf(writeClf(bakeClf(kernels, look, 5, 'srgb'))), bytesOf(writeClf(bakeClf(kernels, look, 4, 'linear')))], 4),
    table('.cc', [bytesOf(writeCdl({ id: 'a', cdl }, 'cc'))], 3),
    table('.ccc', [bytesOf(writeCdl({ id: 'a', cdl }, 'ccc'))], 2),
    table('.cdl', [bytesOf(writeCdl({ id: 'a', cdl }, 'cdl'))], 2),
    texts('look', looks, readLook),
    texts('groundwork', [bytesOf(JSON.stringify(plainGroundwork))], readGroundwork),
    texts('repairs', [bytesOf(repairsJson)], (text) => {
      try {
        return validateRepairs(JSON.parse(text));
      } catch (error) {
        if (error instanceof SyntaxError) return {};
        throw error;
      }
    }),
    {
      name: '.dyelook',
      seeds: [new Uint8Array(await pack([{ look, history: [], strip: ['#102030', '#ffffff'] }]))],
      share: 4,
      read: async (bytes) => {
        await plainly(() => unpack(Buffer.from(bytes)));
      },
    },
    texts('lens database', [bytesOf(lensXml)], readLensDatabase),
    {
      name: 'TIFF directories and opcodes',
      seeds: rawSeeds(),
      share: 4,
      read: (bytes) => {
        readDirectories(bytes);
        readOpcodes(bytes.subarray(0, 400));
        tiffExtents((offset, length) => bytes.subarray(offset, offset + length));
      },
    },
    {
      name: 'raw',
      seeds: rawSeeds(),
      share: 1,
      read: async (bytes, cutAt) => {
        const file = join(folder, `mutant-${n++}.dng`);
        writeFileSync(file, bytes);
        let whole = false;
        const decoded = await plainly(async () => {
          whole = (await decodeRaw(file)).facts.doubt === undefined;
        });
        rmSync(file);
        // all a seed's bytes belong to its picture or to what says of it
        if (cutAt !== null && decoded && whole) throw new Error(`a raw cut at ${cutAt} was taken for whole`);
      },
    },
  ];
}
const repairsJson = JSON.stringify({
  format: 'dyepot-repairs',
  version: 1,
  repairs: [
    {
      id: 'a',
      kind: 'heal',
      on: true,
      shape: { kind: 'spot', x: 0.4, y: 0.3, radius: 0.01, feather: 0.4 },
      source: { dx: 0.03, dy: 0, turn: 0, mirror: false, scale: 1 },
    },
  ],
});
const lensXml = `<!DOCTYPE lensdatabase SYSTEM "lensfun-database.dtd"><lensdatabase version="1">
<camera><maker>Hollin</maker><model>Field One</model><mount>H</mount><cropfactor>1.5</cropfactor></camera>
<lens><maker>Hollin</maker><model>24-70 mm f/2.8</model><mount>H</mount><cropfactor>1.5</cropfactor>
<calibration><distortion model="ptlens" focal="24" a="0.01" b="-0.02" c="0.003"/><tca model="poly3" focal="24" vr="1.0002" vb="0.9998"/>
<vignetting model="pa" focal="24" aperture="2.8" distance="10" k1="-0.5" k2="0.2" k3="-0.1"/></calibration></lens></lensdatabase>`;
