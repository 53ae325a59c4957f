import {
  groundworkParts,
  plainGroundwork,
  withParts,
  type Groundwork,
  type GroundworkPart,
} from '@dyepot/core/src/groundwork/groundwork.ts';
import { validateGroundwork } from '@dyepot/core/src/groundwork/schema.ts';
import Joi from 'joi';
import { checkedGround } from '../db/checkedGround.ts';
import { GroundworkPreset } from '../db/models.ts';
import { found, ServiceError } from './errors.ts';
import { tellNews } from './news.ts';

/** Parts of groundwork under a name, for one camera (or any) and a range of ISO. */
export interface PresetWish {
  name: string;
  camera: string | null;
  isoFrom: number;
  isoTo: number;
  parts: GroundworkPart[];
  groundwork: unknown;
  automatic: boolean;
}
const schema = Joi.object<PresetWish>({
  name: Joi.string().trim().min(1).max(120).required().label('name'),
  camera: Joi.string().max(200).allow(null).required(),
  isoFrom: Joi.number().min(0).required(),
  isoTo: Joi.number().min(Joi.ref('isoFrom')).required().label('highest ISO'),
  parts: Joi.array()
    .items(Joi.valid(...Object.keys(groundworkParts)))
    .min(1)
    .required()
    .messages({ 'array.min': 'choose at least one part' }),
  groundwork: Joi.object().unknown().required(),
  automatic: Joi.boolean().default(false),
});

/** A preset's groundwork as this version has it, whichever it was kept in; null where it cannot be read. */
const nowOf = (p: GroundworkPreset): Groundwork | null => checkedGround(p.groundwork).groundwork;

const view = (p: GroundworkPreset): object => ({
  id: p.id,
  name: p.name,
  camera: p.camera,
  isoFrom: p.isoFrom,
  isoTo: p.isoTo,
  parts: p.parts,
  groundwork: nowOf(p),
  automatic: p.automatic,
});
export const listPresets = async (): Promise<object[]> =>
  (
    await GroundworkPreset.findAll({
      order: [
        ['name', 'ASC'],
        ['id', 'ASC'],
      ],
    })
  )
    // one that cannot be read hides no other
    .filter((p) => nowOf(p) !== null)
    .map(view);
export async function createPreset(body: unknown): Promise<object> {
  const { error, value } = schema.required().validate(body);
  if (error) throw new ServiceError(400, error.message);
  const read = validateGroundwork((value as PresetWish).groundwork);
  if ('message' in read) throw new ServiceError(400, read.message);
  return view(await GroundworkPreset.create({ ...(value as PresetWish), groundwork: read.groundwork }));
}
/** Takes a preset out, to the trash. */
export async function takeOutPreset(id: number): Promise<void> {
  await found(await GroundworkPreset.findByPk(id), 'this preset').destroy();
  tellNews({ kind: 'presets' });
  tellNews({ kind: 'trash' });
}

/** What the automatic presets give a new frame of a camera and ISO; the more particular ones last. Null when none fits. */
export async function presetGroundwork(camera: string, iso: number): Promise<Groundwork | null> {
  const fitting = (await GroundworkPreset.findAll({ where: { automatic: true } })).filter(
    (p) => (p.camera === null || p.camera === camera) && iso >= p.isoFrom && iso <= p.isoTo,
  );
  if (fitting.length === 0) return null;
  const breadth = (p: GroundworkPreset): number => (p.camera === null ? 1e9 : 0) + p.isoTo - p.isoFrom;
  return fitting.sort((a, b) => breadth(b) - breadth(a)).reduce((g, p) => withParts(g, nowOf(p) ?? g, p.parts), plainGroundwork);
}
