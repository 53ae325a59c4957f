import { PlainError } from '../decode/decode.ts';
import type { TaskName } from './pool.ts';
import * as tasks from './tasks.ts';

/** Runs one task in a render worker. A plain error is returned as a value, since classes do not cross threads. */
export default async function work({ name, task }: { name: TaskName; task: never }): Promise<{ value: unknown } | { plain: string }> {
  try {
    return { value: await tasks[name](task) };
  } catch (error) {
    if (error instanceof PlainError) return { plain: error.message };
    throw error;
  }
}
