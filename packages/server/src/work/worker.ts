import { workerData } from 'piscina';
import type { Look } from '@dyepot/core/src/look/look.ts';
import { provideFilms } from '../filmEngine.ts';
import { PlainError } from '../plainError.ts';
import { FullDisk } from './files.ts';
import { keptFilms } from './keptFilms.ts';
import type { Sent, TaskName } from './pool.ts';
import { feel } from './pulse.ts';
import * as tasks from './tasks.ts';
import { warmUp } from './warmUp.ts';

interface Asked {
  name: TaskName;
  task: never;
  pulse: SharedArrayBuffer;
}

provideFilms(keptFilms);
const { expected } = workerData as { expected: readonly Look[] | null };
if (expected) warmUp(expected).catch((error: unknown) => console.error(error));

/** Runs one task in a render worker. A plain error is returned as a value, since classes do not cross threads. */
export default async function work({ name, task, pulse }: Asked): Promise<Sent> {
  feel(pulse);
  try {
    return { value: await tasks[name](task) };
  } catch (error) {
    if (error instanceof PlainError) return { plain: error.message, full: error instanceof FullDisk };
    throw error;
  }
}
