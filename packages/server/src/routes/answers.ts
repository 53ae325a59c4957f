import express, { type RequestHandler } from 'express';
import type { Look } from '@dyepot/core/src/look/look.ts';
import { validateLook } from '@dyepot/core/src/look/schema.ts';
import { keptIn } from '@dyepot/core/src/look/kept.ts';
import { filled } from '../db/keptDocuments.ts';
import { ServiceError } from '../services/errors.ts';

/**
 * Puts the pictures and tables in that a body says by their hashes. Whoever sent one that is not here any more is asked to send it
 * whole; who cannot may still keep the rest: a look that needs it is refused where it is checked, what can be undone is not.
 */
const withKept: RequestHandler = (req, _res, next) => {
  req.body = filled(req.body);
  next(
    req.get('X-Kept-By-Hash') === 'yes' && keptIn(req.body).size > 0
      ? new ServiceError(424, 'a picture or a table that this look uses is not kept here any more')
      : undefined,
  );
};
/** Reads a body; looks may hold tables. */
export const json = [express.json({ limit: '24mb' }), withKept];
/** Reads a draft: a look, and what can be undone of it, which may hold its tables several times. */
export const draftJson = [express.json({ limit: '96mb' }), withKept];

/** Sends pixels with their size beside them. */
export function sendPlanes(res: express.Response, width: number, height: number, data: Uint8Array): void {
  res
    .set({
      'Content-Type': 'application/octet-stream',
      'X-Width': String(width),
      'X-Height': String(height),
      'Cache-Control': 'private, max-age=86400',
    })
    .send(Buffer.from(data.buffer, data.byteOffset, data.byteLength));
}

/** A look in a request, checked; null is none. */
export function lookOf(value: unknown): Look | null {
  if (value === null || value === undefined) return null;
  const read = validateLook(value);
  if ('message' in read) throw new ServiceError(400, read.message);
  return read.look;
}

/** Sends a file of the cache of pictures; one whose address tells its content is kept for a day. */
export const sendPicture = (res: express.Response, file: string, lasting: boolean): Promise<void> =>
  new Promise<void>((resolve, reject) =>
    res
      .set('Cache-Control', `private, max-age=${lasting ? 86_400 : 0}`)
      .sendFile(file, { cacheControl: false, dotfiles: 'allow' }, (error) =>
        error && (error as NodeJS.ErrnoException).code !== 'ECONNABORTED' ? reject(error) : resolve(),
      ),
  );
