import { validateOwnSteps } from '@dyepot/core/src/look/schema.ts';
import { together } from '../db/database.ts';
import { Frame, withRaw } from '../db/models.ts';
import { found, ServiceError } from './errors.ts';
import { frameViewNow } from './frameView.ts';
import { Overtaken } from './groundwork.ts';
import { tellNews } from './news.ts';

/** Keeps a frame's own steps; null takes them all off. Refused with what stands when they were changed elsewhere since `version`. */
export async function saveOwnSteps(id: number, steps: unknown, version: number): Promise<object> {
  const read = steps === null ? { own: null } : validateOwnSteps(steps);
  if ('message' in read) throw new ServiceError(400, read.message);
  const frame = await together(async (transaction) => {
    const f = found(await Frame.findByPk(id, { include: withRaw, transaction }), 'this frame');
    if (version !== f.ownVersion) throw new Overtaken(`the steps of ${f.name} were changed in another window`, await frameViewNow(f));
    const own = read.own && { format: 'dyepot-local', version: 1, ...read.own };
    await f.update({ own, ownVersion: f.ownVersion + 1 }, { transaction });
    return f;
  });
  const view = await frameViewNow(frame);
  tellNews({ kind: 'frame', shootId: frame.shootId, frame: view });
  return view;
}
