import Joi from 'joi';
import { groundworkOfAnyVersion, validateGroundwork } from '@dyepot/core/src/groundwork/schema.ts';
import { together } from '../db/database.ts';
import { Frame, FrameHistory, withRaw } from '../db/models.ts';
import { found, ServiceError } from './errors.ts';
import { frameViewNow } from './frameView.ts';
import { tellNews } from './news.ts';

/** A save of groundwork: the document (null takes it all off), the version it was made from, and what the Ground remembers of it. */
export interface GroundSave {
  groundwork: unknown;
  version?: number | undefined;
  history?: object | undefined;
}
const change = Joi.object({
  words: Joi.string().max(300).required(),
  gesture: Joi.string().max(200).allow('').required(),
  before: groundworkOfAnyVersion.required(),
});
const share = Joi.number().min(0).max(1).required();
/** What the Ground remembers of a frame. */
const historySchema = Joi.object({
  past: Joi.array().items(change).max(300).required(),
  future: Joi.array().items(change).max(300).required(),
  snapshots: Joi.array()
    .items(Joi.object({ name: Joi.string().max(200).required(), ground: groundworkOfAnyVersion.required() }))
    .max(200)
    .required(),
  probes: Joi.array()
    .items(Joi.object({ x: share, y: share }))
    .max(8)
    .required(),
});
function checkedHistory(history: object): object {
  const result = historySchema.validate(history, { convert: false });
  if (result.error) throw new ServiceError(400, `what was done to the frame: ${result.error.message}`);
  return result.value as object;
}

/** Something was saved in another window meanwhile; what stands now goes with the error. */
export class Overtaken extends ServiceError {
  readonly now: object;
  constructor(message: string, now: object) {
    super(409, message);
    this.now = now;
  }
}

/** Keeps a frame's groundwork. Refused with what stands when it was changed elsewhere since `version`. */
export async function saveGroundwork(id: number, save: GroundSave): Promise<object> {
  const read = save.groundwork === null ? { groundwork: null } : validateGroundwork(save.groundwork);
  if ('message' in read) throw new ServiceError(400, read.message);
  const history = save.history && checkedHistory(save.history);
  const frame = await together(async (transaction) => {
    const f = found(await Frame.findByPk(id, { include: withRaw, transaction }), 'this frame');
    if (save.version !== undefined && save.version !== f.groundVersion)
      throw new Overtaken(`the groundwork of ${f.name} was changed in another window`, await frameViewNow(f));
    await f.update({ groundwork: read.groundwork, groundVersion: f.groundVersion + 1 }, { transaction });
    if (history) await FrameHistory.upsert({ frameId: id, document: history }, { transaction });
    return f;
  });
  const view = await frameViewNow(frame);
  tellNews({ kind: 'frame', shootId: frame.shootId, frame: view });
  return view;
}
/** What the Ground remembers of a frame; null when nothing was done yet. */
export async function historyOf(id: number): Promise<object | null> {
  found(await Frame.findByPk(id, { attributes: ['id'] }), 'this frame');
  const kept = (await FrameHistory.findByPk(id))?.document;
  if (!kept) return null;
  // one that cannot be read is no reason not to open the frame
  const read = historySchema.validate(kept, { convert: false });
  return read.error ? null : (read.value as object);
}
/** Keeps what the Ground remembers of a frame, where the groundwork itself stays. */
export async function saveHistory(id: number, document: object): Promise<void> {
  found(await Frame.findByPk(id, { attributes: ['id'] }), 'this frame');
  await FrameHistory.upsert({ frameId: id, document: checkedHistory(document) });
}
