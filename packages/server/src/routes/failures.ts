import type { ErrorRequestHandler } from 'express';
import { OrderQuestion } from '../jobs/ordering.ts';
import { PlainError } from '../plainError.ts';
import { ServiceError } from '../services/errors.ts';
import { Overtaken } from '../services/groundwork.ts';
import { dataFolder } from '../places.ts';
import { FullDisk, writingError } from '../work/files.ts';

/** What the reader of a request says was wrong with it, in words. */
const refusals: Record<string, string> = {
  'entity.parse.failed': 'what was sent is not JSON',
  'entity.too.large': 'what was sent is too large',
  'encoding.unsupported': 'what was sent is encoded in a way that is not read here',
  'charset.unsupported': 'what was sent is written in letters that are not read here',
  'request.aborted': 'what was sent broke off',
};

/** Says what went wrong, as JSON with a sentence; what nobody foresaw goes to the log. */
export const failures: ErrorRequestHandler = (thrown: unknown, req, res, next) => {
  if (res.headersSent) return next(thrown);
  const error = writingError(thrown, `${dataFolder()}/dyepot.sqlite`),
    { status, statusCode, type } = (thrown ?? {}) as { status?: number; statusCode?: number; type?: string },
    refused = status ?? statusCode;
  // what is still being sent is read to its end and dropped, so that the answer is met
  if (!req.readableEnded) req.resume();
  const say = (code: number, body: object): void => {
    res.status(code).json(body);
  };
  if (error instanceof OrderQuestion)
    return say(409, { message: error.message, question: error.question, names: error.names, count: error.count });
  if (error instanceof Overtaken) return say(409, { message: error.message, now: error.now });
  if (error instanceof ServiceError) return say(error.status, { message: error.message });
  if (error instanceof FullDisk) return say(507, { message: error.message });
  if (error instanceof PlainError) return say(422, { message: error.message });
  if (typeof refused === 'number' && refused >= 400 && refused < 500)
    return say(refused, {
      message:
        refusals[type ?? ''] ??
        (refused === 404 ? 'there is nothing at this address' : 'this address or what was sent with it cannot be read'),
    });
  console.error(thrown);
  say(500, { message: 'something went wrong inside Dyepot; its log says what' });
};
