import type { NextFunction, Request, RequestHandler, Response } from 'express';
import Joi from 'joi';
import { ServiceError } from '../services/errors.ts';

/** Checks a value against a schema and returns it; a ServiceError says in words what is wrong. */
export function check<T>(schema: Joi.ObjectSchema<T>, value: unknown): T {
  const result = schema.validate(value, { errors: { wrap: { label: '“' } } });
  if (result.error) throw new ServiceError(400, result.error.message);
  return result.value;
}
/** A number from the path. */
export function idOf(req: Request, name = 'id'): number {
  const id = Number(req.params[name]);
  if (!Number.isSafeInteger(id) || id < 0) throw new ServiceError(404, 'there is nothing at this address');
  return id;
}
/** Answers with what the handler returns, as JSON. */
export function answer(handler: (req: Request, res: Response) => Promise<unknown>): RequestHandler {
  return (req: Request, res: Response, next: NextFunction) => {
    handler(req, res).then((value) => {
      if (!res.headersSent) res.json(value ?? {});
    }, next);
  };
}
export const areaSchema = Joi.object<{ x?: number; y?: number; width?: number; height?: number; v?: string }>({
  v: Joi.string().max(64),
  x: Joi.number().integer(),
  y: Joi.number().integer(),
  width: Joi.number().integer(),
  height: Joi.number().integer(),
}).and('x', 'y', 'width', 'height');
