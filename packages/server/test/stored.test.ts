import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { writeDng } from '@dyepot/camera/src/dng.ts';
import { expose } from '@dyepot/camera/src/sensor.ts';
import { decodeRaw } from '../src/decode/decode.ts';
import { tiffExtents } from '../src/decode/extents.ts';
import { storedValues } from '../src/decode/storedValues.ts';

const width = 96,
  height = 160,
  folder = mkdtempSync(join(tmpdir(), 'dyepot-stored-')),
  light = Float32Array.from({ length: width * height * 3 }, (_, i) => ((i * 37) % 101) / 101),
  e = { ev: 0, iso: 800, seed: 4, bits: 14 as const, black: 512, pattern: 'GRBG' as const, believedKelvin: 5000 },
  shot = expose(light, width, height, e);
const kinds = [
  ['none', 'strips'],
  ['none', 'tiles'],
  ['lossless', 'strips'],
  ['lossless', 'tiles'],
] as const;
const written = kinds.map(([compression, layout]) => {
  const path = join(folder, `${compression}-${layout}.dng`);
  writeFileSync(
    path,
    writeDng(shot, e, {
      compression,
      layout,
      preview: { width: 16, height: 16, jpeg: new Uint8Array([255, 216, 255, 217]) },
      exif: { iso: 800, shutterSeconds: 0.01, aperture: 4, focalMm: 24, time: '2026:10:12 09:30:00' },
      baselineExposureEv: 0,
    }),
  );
  return path;
});
/** What is taken from a file's own memory, if anything. */
function storedIn(file: Uint8Array): Uint16Array | null {
  const extents = tiffExtents((offset, length) => file.slice(offset, Math.min(file.length, offset + length)))!;
  return storedValues(file, extents, width, height);
}

it('a mosaic has the values the sensor gave, however it is stored: those LibRaw unpacks and those read from the file as they lie', async () => {
  const read = await Promise.all(written.map((path) => decodeRaw(path)));
  for (const { raw, facts } of read) {
    expect(Buffer.from(raw.data.buffer, raw.data.byteOffset, raw.data.byteLength).equals(Buffer.from(shot.mosaic.buffer))).toBe(true);
    expect(facts).toEqual(read[0]!.facts);
  }
});
it('only strips without compression, one behind the other, are read as they lie', () => {
  const files = written.map((path) => new Uint8Array(readFileSync(path)));
  expect(files.map((file) => storedIn(file) !== null)).toEqual([true, false, false, false]);
  // numbers that begin with their high byte, and a strip that is short, are LibRaw's to read
  const extents = tiffExtents((offset, length) => files[0]!.slice(offset, offset + length))!,
    raw = extents.parts.findIndex((p) => p.raw),
    shorter = extents.parts.map((p, i) => (i === raw ? { ...p, length: p.length - 2 } : p));
  expect(storedValues(files[0]!, { ...extents, little: false }, width, height)).toBeNull();
  expect(storedValues(files[0]!, { ...extents, parts: shorter }, width, height)).toBeNull();
  expect(storedValues(files[0]!, { ...extents, linearised: true }, width, height)).toBeNull();
});
it('a value changed in a file that is read as it lies differs from its digest, and that is said', async () => {
  const file = new Uint8Array(readFileSync(written[0]!)),
    values = storedIn(file)!;
  values[5000] = values[5000]! ^ 1;
  const path = join(folder, 'changed.dng');
  writeFileSync(path, file);
  expect((await decodeRaw(path)).facts.doubt).toMatch(/digest differs/);
});
