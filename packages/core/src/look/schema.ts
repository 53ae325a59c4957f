import Joi from 'joi';
import { stepKind, stepKinds } from './kinds.ts';
import { readStoredTable } from '../colour/table.ts';
import type { DocumentParameter, Lane, Parameter } from '../render/step.ts';
import { validateSheet } from '../stock/film/sheetSchema.ts';
import { validatePicture } from '../formats/storedPicture.ts';
import { frameMask, portableMask } from '../mask/schema.ts';
import type { Mask } from '../mask/mask.ts';
import { isKept, type KeptDocument } from './kept.ts';
import { blends, type Chain, type Look } from './look.ts';
import type { OwnSteps } from './worn.ts';
import { lookVersion, migrateLook } from './migrate.ts';

/** Steps a lane can hold. */
const mostSteps = 40;

/** How documents that stand in a look are checked, by their format. */
const documents: Record<DocumentParameter['format'], (value: unknown) => object> = {
  'dyepot-stock': (value) => validateSheet(value),
  'dyepot-picture': validatePicture,
};

const notThere = ({ kept }: KeptDocument): string => `documents/${kept.slice(0, 12)}….json is missing from the data folder, or damaged`;

/** A parameter that is left out stays so, and means its default. */
function parameterSchema(p: Parameter): Joi.Schema {
  if (p.type === 'number') return Joi.number().strict().min(p.min).max(p.max).label(p.label);
  if (p.type === 'choice')
    return Joi.string()
      .valid(...p.options.map(([value]) => value))
      .label(p.label);
  if (p.type === 'band')
    return Joi.array()
      .items(
        Joi.array().ordered(
          Joi.number().strict().min(0).max(360).required(),
          Joi.number().strict().min(p.min).max(p.max).required(),
          Joi.number().strict().min(5).max(180).required(),
        ),
      )
      .max(16)
      .label(p.label);
  if (p.type === 'document')
    return Joi.object()
      .unknown()
      .allow(null)
      .label(p.label)
      .custom((value: object | null, helpers) => {
        const read = value === null ? null : isKept(value) ? { message: notThere(value) } : documents[p.format](value);
        return read && 'message' in read ? helpers.message({ custom: `{{#label}}: ${read.message}` }) : value;
      });
  if (p.type === 'table')
    return Joi.object()
      .unknown()
      .allow(null)
      .label(p.label)
      .custom((value: object | null, helpers) => {
        const read = value === null ? { table: null } : isKept(value) ? { message: notThere(value) } : readStoredTable(value);
        return 'message' in read ? helpers.message({ custom: `{{#label}}: ${read.message}` }) : value;
      });
  const point = Joi.array().ordered(Joi.number().strict().min(0).max(1).required(), Joi.number().strict().min(0).max(1).required());
  return Joi.array()
    .items(point)
    .min(2)
    .max(24)
    .label(p.label)
    .custom((points: [number, number][], helpers) => {
      for (let i = 1; i < points.length; i++)
        if (points[i]![0] - points[i - 1]![0] < 1e-3)
          return helpers.message({ custom: `{{#label}}: point ${i + 1} is not to the right of point ${i}` });
      return points;
    });
}

function stepSchema(lane: Lane, place: Joi.ObjectSchema<Mask>): Joi.ObjectSchema {
  const kinds = stepKinds.filter((k) => k.lane === lane);
  return Joi.object({
    id: Joi.string().max(64).required(),
    kind: Joi.string()
      .valid(...kinds.map((k) => k.kind))
      .required(),
    name: Joi.string().max(80).allow('').default(''),
    on: Joi.boolean().strict().default(true),
    strength: Joi.number().strict().min(0).max(2).default(1),
    mask: lane === 'stock' ? Joi.valid(null).default(null) : place.allow(null).default(null),
    skein: lane === 'stock' ? Joi.valid('').default('') : Joi.string().max(64).allow('').default(''),
    blend: Joi.valid(...(lane === 'stock' ? ['normal'] : blends)).default('normal'),
    params: Joi.alternatives()
      .conditional('kind', {
        switch: kinds.map((k) => ({
          is: k.kind,
          then: Joi.object(Object.fromEntries(Object.entries(k.params).map(([name, p]) => [name, parameterSchema(p)]))).required(),
        })),
      })
      .default({}),
  });
}

/** Lanes, skeins and masks; `place` is what a mask may be there. */
const chainKeys = (place: Joi.ObjectSchema<Mask>): Record<keyof Chain, Joi.Schema> => ({
  scene: Joi.array().items(stepSchema('scene', place)).max(mostSteps).required(),
  print: Joi.array().items(stepSchema('print', place)).max(mostSteps).required(),
  skeins: Joi.array()
    .items(
      Joi.object({
        id: Joi.string().max(64).required(),
        name: Joi.string().max(80).allow('').default(''),
        on: Joi.boolean().strict().default(true),
        strength: Joi.number().strict().min(0).max(2).default(1),
        mask: place.allow(null).default(null),
      }),
    )
    .unique('id')
    .max(mostSteps)
    .default([]),
  masks: Joi.array()
    .items(Joi.object({ id: Joi.string().max(64).required(), name: Joi.string().trim().min(1).max(80).required(), mask: place.required() }))
    .unique('id')
    .max(mostSteps)
    .default([]),
});
/** What a document's parts say of one another, in words where they do not fit. */
function misfit({ scene, print, skeins, masks }: Chain): string | null {
  for (const { name, mask } of masks)
    if (mask.parts.some((p) => p.kind === 'named'))
      return `the place “${name}” is made of places with names; those may only stand in steps`;
  for (const [lane, steps] of [
    ['scene', scene],
    ['print', print],
  ] as const) {
    const left = new Set<string>();
    for (const [i, step] of steps.entries()) {
      const at = `step ${i + 1} of the ${lane} lane`;
      for (const part of [...(step.mask?.parts ?? []), ...(skeins.find((s) => s.id === step.skein)?.mask?.parts ?? [])])
        if (part.kind === 'named' && !masks.some((m) => m.id === part.mask)) return `${at} uses a place that is not there (“${part.mask}”)`;
      const before = steps[i - 1]?.skein ?? '';
      if (before !== '' && before !== step.skein) left.add(before);
      if (step.skein === '') continue;
      if (!skeins.some((s) => s.id === step.skein)) return `${at} is in a skein that is not there (“${step.skein}”)`;
      if (left.has(step.skein)) return `${at} is in a skein whose other steps are not beside it`;
    }
  }
  const both = scene.find((s) => s.skein !== '' && print.some((p) => p.skein === s.skein));
  return both ? `the skein “${skeins.find((s) => s.id === both.skein)!.name}” is in two lanes` : null;
}
/** The look document's schema. The JSON form is documented in docs/look.md. */
export const lookSchema = Joi.object<Look>({
  format: Joi.string().valid('dyepot-look').required(),
  version: Joi.number().valid(lookVersion).required(),
  name: Joi.string().trim().min(1).max(80).required(),
  family: Joi.string().max(60).allow('').default(''),
  tags: Joi.array().items(Joi.string().max(40)).max(24).default([]),
  notes: Joi.string().max(4000).allow('').default(''),
  strength: Joi.number().strict().min(0).max(2).default(1),
  stock: stepSchema('stock', portableMask).required(),
  ...chainKeys(portableMask),
});
/** A frame's own steps. */
const ownSchema = Joi.object<OwnSteps & { format: string; version: number }>({
  format: Joi.valid('dyepot-local').required(),
  version: Joi.valid(1).required(),
  ...chainKeys(frameMask),
  worn: Joi.object({
    strength: Joi.number().strict().min(0).max(2).default(1),
    steps: Joi.object().pattern(Joi.string().max(64), Joi.number().strict().min(0).max(2)).max(mostSteps).default({}),
  }),
});
const inWords = (error: Joi.ValidationError): string => {
  const where = error.details[0]!.path,
    place =
      typeof where[1] === 'number' && where[0] !== 'tags'
        ? `${sorts[String(where[0])] ?? 'part'} ${where[1] + 1}${lanes[String(where[0])] ?? ''}: `
        : where[0] === 'stock'
          ? 'the stock: '
          : '';
  return place + error.details[0]!.message.replace(/“([^“]*)“/g, '“$1”');
};
const sorts: Readonly<Record<string, string>> = { scene: 'step', print: 'step', skeins: 'skein', masks: 'place' },
  lanes: Readonly<Record<string, string>> = { scene: ' of the scene lane', print: ' of the print lane' };
/** Validates a frame's own steps, as a file or the database has them. */
export function validateOwnSteps(value: unknown): { own: OwnSteps } | { message: string } {
  const result = ownSchema.validate(value, { convert: false, errors: { wrap: { label: '“' } } });
  if (result.error) return { message: inWords(result.error) };
  const { scene, print, skeins, masks, worn } = result.value,
    own: OwnSteps = { scene, print, skeins, masks, ...(worn && { worn }) },
    wrong = misfit(own);
  return wrong === null ? { own } : { message: wrong };
}

/** Validates a parsed look document. On failure the message says in words what is wrong and where. */
export function validateLook(value: unknown): { look: Look } | { message: string } {
  if (typeof value !== 'object' || value === null || (value as { format?: unknown }).format !== 'dyepot-look')
    return { message: 'this is not a look: it does not say "format": "dyepot-look"' };
  const version = (value as { version?: unknown }).version;
  if (typeof version === 'number' && version > lookVersion)
    return { message: `this look is of version ${version}; this Dyepot reads up to version ${lookVersion}` };
  for (const lane of ['scene', 'print'] as const) {
    const steps = (value as Record<string, unknown>)[lane];
    if (!Array.isArray(steps)) continue;
    // counted before each is looked at
    if (steps.length > mostSteps) return { message: `the ${lane} lane has ${steps.length} steps; at most ${mostSteps} fit` };
    for (const [i, step] of steps.entries()) {
      const kind = (step as { kind?: unknown } | null)?.kind;
      const declared = typeof kind === 'string' ? stepKind(kind) : undefined;
      if (typeof kind !== 'string') return { message: `step ${i + 1} of the ${lane} lane does not say what kind of step it is` };
      if (!declared) return { message: `step ${i + 1} of the ${lane} lane: there is no step kind called “${kind}”` };
      if (declared.lane !== lane)
        return { message: `step ${i + 1} of the ${lane} lane: ${declared.name} belongs in the ${declared.lane} lane` };
    }
  }
  const result = lookSchema.validate(migrateLook(value as Record<string, unknown>), { convert: false, errors: { wrap: { label: '“' } } });
  if (result.error) return { message: inWords(result.error) };
  const wrong = misfit(result.value);
  return wrong === null ? { look: result.value } : { message: wrong };
}

/** Reads a look from text. */
export function readLook(text: string): { look: Look } | { message: string } {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    return { message: `this is not JSON: ${error instanceof Error ? error.message : ''}` };
  }
  return validateLook(value);
}

/** Writes a look as text, keys in the order of the schema, two spaces deep. */
export function writeLook(look: Look): string {
  const step = (s: Look['stock']): Look['stock'] => ({
    id: s.id,
    kind: s.kind,
    name: s.name,
    on: s.on,
    strength: s.strength,
    params: s.params,
    mask: s.mask,
    blend: s.blend,
    skein: s.skein,
  });
  const { name, family, tags, notes, strength, skeins, masks } = look;
  return `${JSON.stringify({ format: 'dyepot-look', version: lookVersion, name, family, tags, notes, strength, scene: look.scene.map(step), stock: step(look.stock), print: look.print.map(step), skeins, masks }, null, 2)}\n`;
}
