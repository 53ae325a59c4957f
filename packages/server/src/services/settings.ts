import Joi from 'joi';
import { Setting } from '../db/models.ts';

/** What is set once for a data folder. */
export interface Settings {
  /** the largest raw that is taken as an upload, in bytes */
  uploadLimitBytes: number;
  /** whether single letters act as shortcuts */
  letterKeys: boolean;
}
const usual: Settings = { uploadLimitBytes: 2e9, letterKeys: true };
export const settingsSchema = Joi.object<Partial<Settings>>({
  uploadLimitBytes: Joi.number().integer().min(1e6).max(1e11).label('upload limit'),
  letterKeys: Joi.boolean().strict().label('letter keys'),
}).min(1);
const name = 'general';

/** The settings; what was never set is as usual. */
export async function settings(): Promise<Settings> {
  const kept = settingsSchema.validate((await Setting.findByPk(name))?.value ?? {});
  return { ...usual, ...(kept.error ? {} : kept.value) };
}
export async function changeSettings(change: Partial<Settings>): Promise<Settings> {
  const next = { ...(await settings()), ...change };
  await Setting.upsert({ name, value: next });
  return next;
}
