import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { parentPort, workerData } from 'node:worker_threads';
import { describeRaw, type LibRawMetadata } from './describe.ts';

interface LibRawReader {
  open(file: Uint8Array, settings: object): void;
  metadata(full: boolean): LibRawMetadata;
  rawImageData():
    { data: Uint16Array; raw_width: number; top_margin: number; left_margin: number; width: number; height: number } | undefined;
  imageData(): { data: Uint16Array; width: number; height: number } | undefined;
}

/** Opens the file named in workerData and posts its facts and pixels; lives for one file only. */
async function main(): Promise<void> {
  const { path, pixels } = workerData as { path: string; pixels: boolean };
  const folder = join(dirname(createRequire(import.meta.url).resolve('libraw-wasm/package.json')), 'dist');
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
  const { LibRaw } = await factory.default({ wasmBinary: readFileSync(join(folder, 'libraw.wasm')), print: () => {}, printErr: () => {} });
  const file: Uint8Array = readFileSync(path);
  const reader = new LibRaw();
  reader.open(file, {});
  const facts = describeRaw(reader.metadata(true), file);
  if (!pixels) return finish({ facts });
  if (facts.mosaic.startsWith('Bayer')) {
    const raw = reader.rawImageData();
    if (!raw || raw.data.length < raw.raw_width * (raw.top_margin + raw.height)) throw new Error('the picture data end early');
    const width = facts.width,
      height = facts.height,
      whole = raw.raw_width === width && raw.top_margin === 0 && raw.data.length === width * height,
      data = whole ? raw.data : new Uint16Array(width * height);
    if (!whole)
      for (let y = 0; y < height; y++)
        data.set(
          raw.data.subarray(
            (y + raw.top_margin) * raw.raw_width + raw.left_margin,
            (y + raw.top_margin) * raw.raw_width + raw.left_margin + width,
          ),
          y * width,
        );
    return finish({ facts, raw: { width, height, data, colours: 1, cell: [...facts.mosaic.slice(6)].map((c) => 'RGB'.indexOf(c)) } }, data);
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
      facts: { ...facts, white: 65535, width: image.width, height: image.height },
      raw: { width: image.width, height: image.height, data, colours: 3, cell: [0, 1, 1, 2] },
    },
    data,
  );
}

function finish(message: object, data?: Uint16Array): void {
  parentPort!.postMessage(message, data ? [data.buffer as ArrayBuffer] : []);
}

main().catch((error: unknown) => parentPort!.postMessage({ error: error instanceof Error ? error.message : '' }));
