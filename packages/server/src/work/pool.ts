import { basename } from 'node:path';
import type { Look } from '@dyepot/core/src/look/look.ts';
import { Piscina } from 'piscina';
import { PlainError } from '../plainError.ts';
import { distFile } from '../places.ts';
import { FullDisk } from './files.ts';
import type * as Tasks from './tasks.ts';

/** The names of what a render worker does. */
export type TaskName =
  | 'importRaw'
  | 'ensureFullLevel'
  | 'renderRegion'
  | 'renderThumb'
  | 'readLight'
  | 'findRegions'
  | 'readChart'
  | 'readGreys'
  | 'readTones'
  | 'readSpot'
  | 'findSpot'
  | 'mergeRaws'
  | 'sameView'
  | 'compareFrames'
  | 'readLightFacts'
  | 'cutFigure'
  | 'cutFigureOf'
  | 'renderBand'
  | 'scaleBands'
  | 'deliver'
  | 'drawPlace'
  | 'readLensShelf'
  | 'startFrame'
  | 'mendFrame'
  | 'seekDust'
  | 'drawDust'
  | 'seekSource'
  | 'readTable'
  | 'readPicture'
  | 'fitPair'
  | 'bake';
type Answer<N extends TaskName> = Awaited<ReturnType<(typeof Tasks)[N]>>;

export interface RenderPool {
  /** Runs a task in a worker; `signal` ends it and its worker. Errors meant for people come back as PlainError. */
  run<N extends TaskName>(name: N, task: Parameters<(typeof Tasks)[N]>[0], signal?: AbortSignal): Promise<Answer<N>>;
  /** How many tasks of a job it has hands for at a time. */
  hands(): number;
  close(): Promise<void>;
}
/** What a worker sends back. */
export type Sent = { value: unknown } | { plain: string; full: boolean };

/** The answer that was sent, or the error that was. */
export function answerOf(sent: Sent): unknown {
  if ('plain' in sent) throw sent.full ? new FullDisk(sent.plain) : new PlainError(sent.plain);
  return sent.value;
}
/** Why a task ended that was told to. */
export const stoppedError = (closing: boolean): PlainError => new PlainError(closing ? 'Dyepot is being closed' : 'stopped');

/** How long a task may show no progress, in milliseconds: several times the longest stage of a 150-megapixel frame. */
const usualPatience = 180_000;

/** What a task is about, for a sentence. */
const aboutOf = (task: object): string => {
  const { path, name, file } = task as Record<string, unknown>;
  const known = [name, path, file].find((v): v is string => typeof v === 'string');
  return known ? basename(known) : 'a picture';
};

/** Worker threads that decode, render and write; they make ready for looks that are expected, unless null: for one errand that costs more than it brings. A worker that shows no progress for too long is ended and replaced. */
export function openPool({
  threads = 2,
  filename = distFile('render-worker.mjs'),
  patience = Number(process.env['DYEPOT_PATIENCE_MS']) || usualPatience,
  expected = null,
}: { threads?: number; filename?: string; patience?: number; expected?: readonly Look[] | null } = {}): RenderPool {
  // a worker that waits by Atomics stands still: it could not warm up before its first task
  const pool = new Piscina({
    filename,
    minThreads: threads,
    maxThreads: threads,
    idleTimeout: 60000,
    atomics: 'disabled',
    workerData: { expected },
  });
  let closing = false;
  return {
    async run<N extends TaskName>(name: N, task: Parameters<(typeof Tasks)[N]>[0], signal?: AbortSignal): Promise<Answer<N>> {
      const shared = new SharedArrayBuffer(4),
        pulse = new Int32Array(shared),
        giveUp = new AbortController();
      let seen = 0,
        since = performance.now(),
        stuck = false;
      const watch = setInterval(
        () => {
          const now = Atomics.load(pulse, 0);
          // nought: it has not begun, and only waits for a worker
          if (now !== seen || now === 0) {
            seen = now;
            since = performance.now();
          } else if (performance.now() - since > patience) {
            stuck = true;
            giveUp.abort();
          }
        },
        Math.min(1000, patience / 4),
      );
      const stop = (): void => giveUp.abort();
      signal?.addEventListener('abort', stop);
      if (signal?.aborted) stop();
      try {
        return answerOf((await pool.run({ name, task, pulse: shared }, { signal: giveUp.signal })) as Sent) as Answer<N>;
      } catch (error) {
        if (closing) throw stoppedError(true);
        if (stuck) throw new PlainError(`${aboutOf(task)} made no progress for ${Math.round(patience / 1000)} s and was given up`);
        if (signal?.aborted) throw stoppedError(false);
        throw error;
      } finally {
        clearInterval(watch);
        signal?.removeEventListener('abort', stop);
      }
    },
    hands: () => threads,
    close() {
      closing = true;
      return pool.destroy();
    },
  };
}
