import { createHash, webcrypto } from 'node:crypto';
import { closeSync, fstatSync, openSync, readSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { parentPort, workerData } from 'node:worker_threads';
import { describeRaw, type LibRawMetadata } from './describe.ts';
import { tiffExtents, type Extents } from './extents.ts';
import { storedValues } from './storedValues.ts';
import { checkParts, digestDoubt } from './wholeness.ts';

interface LibRawReader {
  open(file: Uint8Array, settings: object): void;
  metadata(full: boolean): LibRawMetadata;
  rawImageData():
    { data: Uint16Array; raw_width: number; top_margin: number; left_margin: number; width: number; height: number } | undefined;
  imageData(): { data: Uint16Array; width: number; height: number } | undefined;
}

/** A file that is cut short: the message ends a sentence that begins with its name. */
class CutShort extends Error {}
/** The most that is read of a raw whose own directories do not say how far it goes, in bytes. */
const mostUnknown = 1e9,
  pieceBytes = 1 << 24;

/** Reads as much of a raw as it speaks of, and checks that its picture is all there. */
function readRaw(
  path: string,
  hashed: boolean,
): { file: Uint8Array; extents: Extents | null; doubt: string | null; hash: Promise<string> | null } {
  const descriptor = openSync(path, 'r');
  try {
    const { size } = fstatSync(descriptor);
    const readAt = (offset: number, length: number): Uint8Array => {
      const piece = new Uint8Array(Math.max(0, Math.min(length, size - offset)));
      for (let done = 0; done < piece.length;) {
        const got = readSync(descriptor, piece, done, piece.length - done, offset + done);
        if (got === 0) return piece.subarray(0, done);
        done += got;
      }
      return piece;
    };
    const extents = tiffExtents(readAt),
      state = extents ? checkParts(extents, size, readAt) : { cut: null, doubt: null };
    if (state.cut) throw new CutShort(state.cut);
    // what follows the last thing a DNG speaks of is not its picture
    const wanted = extents?.dng ? Math.min(size, extents.end) : size;
    if (wanted > mostUnknown) throw new Error(`it is larger (${(wanted / 1e9).toFixed(1)} GB) than a raw picture is`);
    const file = readAt(0, wanted);
    // what the picture ends before is summed up piece by piece; else all beside the decoding, in a thread of its own
    if (size > wanted && hashed) {
      const sum = createHash('sha256').update(file);
      for (let at = wanted; at < size; at += pieceBytes) sum.update(readAt(at, pieceBytes));
      return { file, extents, doubt: state.doubt, hash: Promise.resolve(sum.digest('hex')) };
    }
    const digest = hashed ? webcrypto.subtle.digest('SHA-256', file) : null;
    return { file, extents, doubt: state.doubt, hash: digest && digest.then((sum) => Buffer.from(sum).toString('hex')) };
  } finally {
    closeSync(descriptor);
  }
}

/** The values LibRaw reads of a mosaic: all that the sensor gave, and those inside its margins. */
function unpacked(reader: LibRawReader, width: number, height: number): { all: Uint16Array; data: Uint16Array } {
  const raw = reader.rawImageData();
  if (!raw || raw.data.length < raw.raw_width * (raw.top_margin + raw.height)) throw new Error('the picture data end early');
  const all = raw.data;
  if (raw.raw_width === width && raw.top_margin === 0 && all.length === width * height) return { all, data: all };
  const data = new Uint16Array(width * height);
  for (let y = 0; y < height; y++) {
    const from = (y + raw.top_margin) * raw.raw_width + raw.left_margin;
    data.set(all.subarray(from, from + width), y * width);
  }
  return { all, data };
}

/** What a decode worker is given. */
export interface DecodeTask {
  path: string;
  /** its pixels too, not only what it says */
  pixels: boolean;
  /** the SHA-256 of the whole file too, in hexadecimal */
  hashed: boolean;
  /** where LibRaw lies, and it compiled */
  folder: string;
  module: WebAssembly.Module;
}

/** Opens the file named in workerData and posts its facts and pixels; lives for one file only. */
async function main(): Promise<void> {
  const { path, pixels, hashed, folder, module } = workerData as DecodeTask;
  Object.assign(globalThis, {
    WorkerGlobalScope: class {},
    self: globalThis,
    Worker: class {
      postMessage(): void {}
      terminate(): void {}
    },
  });
  const factory = (await import(pathToFileURL(join(folder, 'libraw.js')).href)) as {
    default: (o: object) => Promise<{ LibRaw: new () => LibRawReader }>;
  };
  // compiled once for all files
  const instantiateWasm = (imports: WebAssembly.Imports, done: (made: WebAssembly.Instance, of: WebAssembly.Module) => void): object => {
    void WebAssembly.instantiate(module, imports).then((made) => done(made, module));
    return {};
  };
  const { LibRaw } = await factory.default({ instantiateWasm, print: () => {}, printErr: () => {} });
  const { file, extents, doubt, hash: summing } = readRaw(path, hashed),
    hash = async (): Promise<{ hash?: string }> => (summing ? { hash: await summing } : {});
  const reader = new LibRaw();
  reader.open(file, {});
  const said = describeRaw(reader.metadata(true), file),
    facts = doubt ? { ...said, doubt } : said;
  if (!pixels) return finish({ facts, ...(await hash()) });
  if (facts.mosaic.startsWith('Bayer')) {
    const { width, height } = facts,
      stored = extents && storedValues(file, extents, width, height),
      { all, data } = stored ? { all: stored, data: stored } : unpacked(reader, width, height),
      digestSays = extents ? digestDoubt(extents, all) : null;
    if (digestSays) facts.doubt = digestSays;
    return finish(
      { facts, ...(await hash()), raw: { width, height, data, colours: 1, cell: [...facts.mosaic.slice(6)].map((c) => 'RGB'.indexOf(c)) } },
      data,
    );
  }
  const other = new LibRaw();
  other.open(file, {
    outputBps: 16,
    gamm: [1, 1, 0, 0, 0, 0],
    noAutoBright: true,
    adjustMaximumThr: 0,
    outputColor: 0,
    userMul: [1, 1, 1, 1],
    userFlip: 0,
    highlight: 1,
  });
  const image = other.imageData();
  if (!image) throw new Error('this kind of mosaic could not be interpolated');
  const data = new Uint16Array(image.data);
  finish(
    {
      ...(await hash()),
      facts: { ...facts, white: 65535, width: image.width, height: image.height },
      raw: { width: image.width, height: image.height, data, colours: 3, cell: [0, 1, 1, 2] },
    },
    data,
  );
}

function finish(message: object, data?: Uint16Array): void {
  parentPort!.postMessage(message, data ? [data.buffer as ArrayBuffer] : []);
}

main().catch((error: unknown) =>
  parentPort!.postMessage(
    error instanceof CutShort ? { error: '', cut: error.message } : { error: error instanceof Error ? error.message : '' },
  ),
);
