import type { NextFunction, Request, RequestHandler, Response } from 'express';
import Joi from 'joi';
import { leanlyKnown } from '../db/keptDocuments.ts';
import { ServiceError } from '../services/errors.ts';

/** The header by which a page says that it knows kept pictures and tables by their hashes. */
const byHash = 'X-Kept-By-Hash';

/** Whether a text can be a name or a path: no NUL, no lone half of a surrogate pair. */
const sound = (text: string): boolean => !text.includes('\0') && !/\p{Surrogate}/u.test(text);
/** A text from outside. */
export const words = (most: number): Joi.StringSchema =>
  Joi.string()
    .max(most)
    .custom((text: string, helpers) =>
      sound(text) ? text : helpers.message({ custom: '{{#label}} holds characters that no name can have' }),
    );
/** A path on this machine. */
export const pathWords = (): Joi.StringSchema => words(4096).trim().min(1);
/** A document that is checked by its own rules later. */
export const document = (): Joi.ObjectSchema => Joi.object().unknown();

/** Checks a value against a schema and returns it; a ServiceError says in words what is wrong. What is missing or unknown is refused. */
export function check<T>(schema: Joi.ObjectSchema<T>, value: unknown): T {
  if (value === undefined || value === null || typeof value !== 'object' || Array.isArray(value))
    throw new ServiceError(400, 'what was sent is not a JSON object');
  const result = schema.validate(value, { errors: { wrap: { label: '“' } } });
  if (result.error) throw new ServiceError(400, result.error.message.replace(/“([^“]*)“/g, '“$1”'));
  return result.value;
}
/** A number from the path. */
export function idOf(req: Request, name = 'id'): number {
  const id = Number(req.params[name]);
  if (!/^\d{1,15}$/.test(String(req.params[name])) || !Number.isSafeInteger(id))
    throw new ServiceError(404, 'there is nothing at this address');
  return id;
}
/** Answers with what the handler returns, as JSON. */
export function answer(handler: (req: Request, res: Response) => Promise<unknown> | unknown): RequestHandler {
  return (req: Request, res: Response, next: NextFunction) => {
    Promise.resolve()
      .then(() => handler(req, res))
      .then((value) => {
        if (!res.headersSent) res.json((req.get(byHash) === 'yes' ? leanlyKnown(value) : value) ?? {});
      }, next);
  };
}
export const areaSchema = Joi.object<{ x?: number; y?: number; width?: number; height?: number; v?: string; mended?: 'yes' | 'no' }>({
  v: Joi.string().max(64),
  mended: Joi.valid('yes', 'no'),
  x: Joi.number().integer(),
  y: Joi.number().integer(),
  width: Joi.number().integer(),
  height: Joi.number().integer(),
}).and('x', 'y', 'width', 'height');
