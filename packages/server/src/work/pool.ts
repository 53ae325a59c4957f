import { Piscina } from 'piscina';
import { PlainError } from '../decode/decode.ts';
import { distFile } from '../places.ts';
import type * as Tasks from './tasks.ts';

/** The names of what a render worker does. */
export type TaskName =
  | 'importRaw'
  | 'ensureFullLevel'
  | 'renderRegion'
  | 'renderThumb'
  | 'renderExact'
  | 'deliver'
  | 'readLensShelf'
  | 'readTable'
  | 'fitPair'
  | 'bake';
type Answer<N extends TaskName> = Awaited<ReturnType<(typeof Tasks)[N]>>;

export interface RenderPool {
  run<N extends TaskName>(name: N, task: Parameters<(typeof Tasks)[N]>[0]): Promise<Answer<N>>;
  close(): Promise<void>;
}

/** Worker threads that decode, render and write. Errors meant for people come back as PlainError. */
export function openPool(threads = 2): RenderPool {
  const pool = new Piscina({ filename: distFile('render-worker.mjs'), minThreads: threads, maxThreads: threads, idleTimeout: 60000 });
  let closing = false;
  return {
    async run(name, task) {
      const answer = (await pool.run({ name, task }).catch((error: unknown) => {
        throw closing ? new PlainError('Dyepot is being closed') : error;
      })) as { value: never } | { plain: string };
      if ('plain' in answer) throw new PlainError(answer.plain);
      return answer.value;
    },
    close() {
      closing = true;
      return pool.destroy();
    },
  };
}
