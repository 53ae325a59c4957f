import { closeSync, openSync, readSync, statSync } from 'node:fs';
import { basename } from 'node:path';
import { Worker } from 'node:worker_threads';
import type { RawFacts, RawPixels } from '@dyepot/core/src/plate/mosaic.ts';
import { distFile } from '../places.ts';

export interface Decoded {
  facts: RawFacts;
  raw: RawPixels;
}
/** An error whose message is meant for the person at the screen. */
export class PlainError extends Error {}

function checkFile(path: string): void {
  const name = basename(path);
  const stat = statSync(path, { throwIfNoEntry: false });
  if (!stat?.isFile()) throw new PlainError(`${name} is not there`);
  if (stat.size === 0) throw new PlainError(`${name} is empty (0 bytes)`);
  const head = Buffer.alloc(512),
    file = openSync(path, 'r');
  const length = readSync(file, head, 0, 512, 0);
  closeSync(file);
  const printable = head.subarray(0, length).every((b) => b === 9 || b === 10 || b === 13 || (b >= 32 && b < 127));
  if (printable) throw new PlainError(`${name} is a text file, not a raw picture`);
}

function run(path: string, pixels: boolean, timeoutMs: number): Promise<{ facts: RawFacts; raw?: RawPixels }> {
  checkFile(path);
  const name = basename(path);
  return new Promise((resolve, reject) => {
    const worker = new Worker(distFile('decode-worker.mjs'), { workerData: { path, pixels } });
    const end = (finish: () => void): void => {
      clearTimeout(timer);
      // the worker's memory is given back before its picture is worked on
      void worker.terminate().then(finish);
    };
    const timer = setTimeout(() => end(() => reject(new PlainError(`${name} took too long to read and was given up`))), timeoutMs);
    worker.once('message', (m: { facts: RawFacts; raw?: RawPixels; error?: string }) =>
      end(() =>
        m.error === undefined
          ? resolve(m)
          : reject(new PlainError(m.error ? `${name}: ${m.error}` : `${name} is damaged or is not a raw file that can be read`)),
      ),
    );
    worker.once('error', () => end(() => reject(new PlainError(`${name} is damaged: it could not be decoded`))));
  });
}

/** Decodes a raw file in a worker of its own. Rejects with PlainError naming the file. */
export async function decodeRaw(path: string): Promise<Decoded> {
  return (await run(path, true, 120000)) as Decoded;
}

/** Reads what a raw file says without its pixels. */
export async function readFacts(path: string): Promise<RawFacts> {
  return (await run(path, false, 30000)).facts;
}
