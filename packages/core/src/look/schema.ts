import Joi from 'joi';
import { stepKind, stepKinds } from './kinds.ts';
import { readStoredTable } from '../colour/table.ts';
import type { DocumentParameter, Lane, Parameter } from '../render/step.ts';
import { validateSheet } from '../stock/film/sheetSchema.ts';
import { validatePicture } from '../formats/storedPicture.ts';
import { toneBounds, type ToneRange } from '../mask/tone.ts';
import { blends, type Look } from './look.ts';
import { lookVersion, migrateLook } from './migrate.ts';

/** Steps a lane can hold. */
const mostSteps = 40;

/** How documents that stand in a look are checked, by their format. */
const documents: Record<DocumentParameter['format'], (value: unknown) => object> = {
  'dyepot-stock': (value) => validateSheet(value),
  'dyepot-picture': validatePicture,
};

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
      .custom((value: unknown, helpers) => {
        const read = value === null ? null : documents[p.format](value);
        return read && 'message' in read ? helpers.message({ custom: `{{#label}}: ${read.message}` }) : value;
      });
  if (p.type === 'table')
    return Joi.object()
      .unknown()
      .allow(null)
      .label(p.label)
      .custom((value: unknown, helpers) => {
        const read = value === null ? { table: null } : readStoredTable(value);
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

const ev = Joi.number().strict().min(toneBounds.ev[0]).max(toneBounds.ev[1]).required(),
  fade = Joi.number().strict().min(toneBounds.fade[0]).max(toneBounds.fade[1]).required();
const toneSchema = Joi.object<ToneRange>({
  kind: Joi.valid('tone').required(),
  fromEv: ev.label('from'),
  toEv: ev.label('to'),
  fadeBelowEv: fade.label('fade below'),
  fadeAboveEv: fade.label('fade above'),
  inverted: Joi.boolean().strict().default(false),
}).custom((range: ToneRange, helpers) =>
  range.fromEv <= range.toEv ? range : helpers.message({ custom: '{{#label}}: the range ends before it begins' }),
);

function stepSchema(lane: Lane): Joi.ObjectSchema {
  const kinds = stepKinds.filter((k) => k.lane === lane);
  return Joi.object({
    id: Joi.string().max(64).required(),
    kind: Joi.string()
      .valid(...kinds.map((k) => k.kind))
      .required(),
    name: Joi.string().max(80).allow('').default(''),
    on: Joi.boolean().strict().default(true),
    strength: Joi.number().strict().min(0).max(2).default(1),
    mask: lane === 'stock' ? Joi.valid(null).default(null) : toneSchema.allow(null).default(null),
    blend: Joi.valid(...(lane === 'stock' ? ['normal'] : blends)).default('normal'),
    params: Joi.alternatives().conditional('kind', {
      switch: kinds.map((k) => ({
        is: k.kind,
        then: Joi.object(Object.fromEntries(Object.entries(k.params).map(([name, p]) => [name, parameterSchema(p)]))).required(),
      })),
    }),
  });
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
  scene: Joi.array().items(stepSchema('scene')).max(mostSteps).required(),
  stock: stepSchema('stock').required(),
  print: Joi.array().items(stepSchema('print')).max(mostSteps).required(),
});

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
  if (!result.error) return { look: result.value };
  const where = result.error.details[0]!.path;
  const place =
    typeof where[1] === 'number' ? `step ${where[1] + 1} of the ${String(where[0])} lane: ` : where[0] === 'stock' ? 'the stock: ' : '';
  return { message: place + result.error.details[0]!.message.replace(/“([^“]*)“/g, '“$1”') };
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
  });
  const { name, family, tags, notes, strength } = look;
  return `${JSON.stringify({ format: 'dyepot-look', version: lookVersion, name, family, tags, notes, strength, scene: look.scene.map(step), stock: step(look.stock), print: look.print.map(step) }, null, 2)}\n`;
}
