import { closeSync, openSync, readSync, statSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { basename, dirname, join } from 'node:path';
import { Worker } from 'node:worker_threads';
import type { RawFacts, RawPixels } from '@dyepot/core/src/plate/mosaic.ts';
import { distFile } from '../places.ts';
import { PlainError } from '../plainError.ts';
import { decodeFinished, finishedKind } from './finished.ts';
import { headTrouble } from './rawHead.ts';
import type { DecodeTask } from './worker.ts';

export interface Decoded {
  facts: RawFacts;
  raw: RawPixels;
  /** SHA-256 of the file */
  hash?: string;
}

/** Checks that a file is there and begins as one that can be read; its first bytes. */
function checkFile(path: string): Uint8Array {
  const name = basename(path);
  const stat = statSync(path, { throwIfNoEntry: false });
  if (!stat?.isFile()) throw new PlainError(`${name} is not there`);
  const head = Buffer.alloc(512),
    file = openSync(path, 'r');
  const length = readSync(file, head, 0, 512, 0);
  closeSync(file);
  const trouble = headTrouble(head.subarray(0, length));
  if (trouble) throw new PlainError(`${name} ${trouble}`);
  return head.subarray(0, length);
}

/** LibRaw, compiled once for all the workers of this thread. */
let compiled: Promise<Pick<DecodeTask, 'folder' | 'module'>> | null = null;
async function compile(): Promise<Pick<DecodeTask, 'folder' | 'module'>> {
  const folder = join(dirname(createRequire(import.meta.url).resolve('libraw-wasm/package.json')), 'dist');
  return { folder, module: await WebAssembly.compile(await readFile(join(folder, 'libraw.wasm'))) };
}

async function run(
  wanted: Pick<DecodeTask, 'path' | 'pixels' | 'hashed'>,
  timeoutMs: number,
): Promise<{ facts: RawFacts; raw?: RawPixels; hash?: string }> {
  const finished = finishedKind(wanted.path, checkFile(wanted.path));
  if (finished) return decodeFinished(wanted.path, finished, wanted);
  const name = basename(wanted.path),
    libRaw = await (compiled ??= compile().catch((error: unknown) => {
      // it is tried again for the next file
      compiled = null;
      throw error;
    }));
  return new Promise((resolve, reject) => {
    const worker = new Worker(distFile('decode-worker.mjs'), { workerData: { ...wanted, ...libRaw } satisfies DecodeTask });
    const end = (finish: () => void): void => {
      clearTimeout(timer);
      // the worker's memory is given back before its picture is worked on
      void worker.terminate().then(finish);
    };
    const timer = setTimeout(() => end(() => reject(new PlainError(`${name} took too long to read and was given up`))), timeoutMs);
    worker.once('message', (m: { facts: RawFacts; raw?: RawPixels; hash?: string; error?: string; cut?: string }) =>
      end(() =>
        m.error === undefined
          ? resolve(m)
          : reject(
              new PlainError(
                m.cut ? `${name} ${m.cut}` : m.error ? `${name}: ${m.error}` : `${name} is damaged or is not a raw file that can be read`,
              ),
            ),
      ),
    );
    worker.once('error', () => end(() => reject(new PlainError(`${name} is damaged: it could not be decoded`))));
  });
}

/** Decodes a raw file in a worker of its own, or a finished picture; with the SHA-256 of the file, in hexadecimal, where that is asked for. Rejects with PlainError naming the file. */
export async function decodeRaw(path: string, hashed = false): Promise<Decoded> {
  return (await run({ path, pixels: true, hashed }, 120000)) as Decoded;
}

/** Reads what a raw file says without its pixels. */
export async function readFacts(path: string): Promise<RawFacts> {
  return (await run({ path, pixels: false, hashed: false }, 30000)).facts;
}
