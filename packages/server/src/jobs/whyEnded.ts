import { PlainError } from '../plainError.ts';
import { dataFolder } from '../places.ts';
import { FullDisk, writingError } from '../work/files.ts';

/** What ended a job, in words a person can act on. */
export function whyEnded(thrown: unknown): string {
  const error = writingError(thrown, `${dataFolder()}/dyepot.sqlite`);
  if (error instanceof FullDisk) return `${error.message[0]!.toUpperCase()}${error.message.slice(1)}. Make room, then go on.`;
  if (error instanceof PlainError) return error.message;
  console.error(error);
  return 'Something went wrong inside Dyepot; its log says what. What is done is kept, and it can go on.';
}
