import { closeSync, openSync, readSync, statSync } from 'node:fs';
import { basename } from 'node:path';
import { Worker } from 'node:worker_threads';
import type { RawFacts, RawPixels } from '@dyepot/core/src/plate/mosaic.ts';
import { distFile } from '../places.ts';
import { PlainError } from '../plainError.ts';
import { headTrouble } from './rawHead.ts';

export interface Decoded {
  facts: RawFacts;
  raw: RawPixels;
}

function checkFile(path: string): void {
  const name = basename(path);
  const stat = statSync(path, { throwIfNoEntry: false });
  if (!stat?.isFile()) throw new PlainError(`${name} is not there`);
  const head = Buffer.alloc(512),
    file = openSync(path, 'r');
  const length = readSync(file, head, 0, 512, 0);
  closeSync(file);
  const trouble = headTrouble(head.subarray(0, length));
  if (trouble) throw new PlainError(`${name} ${trouble}`);
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
    worker.once('message', (m: { facts: RawFacts; raw?: RawPixels; error?: string; cut?: string }) =>
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

/** Decodes a raw file in a worker of its own. Rejects with PlainError naming the file. */
export async function decodeRaw(path: string): Promise<Decoded> {
  return (await run(path, true, 120000)) as Decoded;
}

/** Reads what a raw file says without its pixels. */
export async function readFacts(path: string): Promise<RawFacts> {
  return (await run(path, false, 30000)).facts;
}
