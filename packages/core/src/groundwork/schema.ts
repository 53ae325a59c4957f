import Joi from 'joi';
import { detailRanges, fromDetail1, plainDetail, plainDetail1, type Detail1 } from './detail/detail.ts';
import { zoneBounds, type Groundwork } from './groundwork.ts';

const within = (min: number, max: number): Joi.NumberSchema => Joi.number().strict().min(min).max(max);
const terms = (most: number): Joi.ArraySchema => Joi.array().items(within(-10, 10)).min(1).max(most);
const ranged = (name: keyof typeof detailRanges, value: number | null): Joi.NumberSchema =>
  within(detailRanges[name][0], detailRanges[name][1]).default(value);
const ends = Joi.object({ fine: ranged('deviations', 0), coarse: ranged('deviations', 0) }).default();
const feet = (s: { sizePx: number; coarsePx: number; finePx: number }, helpers: Joi.CustomHelpers): unknown =>
  s.finePx < s.sizePx && s.sizePx < s.coarsePx ? s : helpers.message({ custom: '{{#label}}: the crest has to lie between its feet' });
const ordered = (bounds: number[], helpers: Joi.CustomHelpers): unknown => {
  for (let i = 1; i < bounds.length; i++)
    if (bounds[i]! - bounds[i - 1]! < 0.2)
      return helpers.message({ custom: `{{#label}}: boundary ${i + 1} stands less than 0.2 EV above the one before it` });
  return bounds;
};
const keepsGrey = (rows: number[], helpers: Joi.CustomHelpers): unknown =>
  [0, 6, 12].every((o) => Math.abs(rows.slice(o, o + 6).reduce((a, v) => a + v, 0) - 1) < 1e-3)
    ? rows
    : helpers.message({ custom: '{{#label}}: each of the three rows has to sum to 1, or greys would not stay grey' });
const inPicture = (crop: { x: number; y: number; width: number; height: number }, helpers: Joi.CustomHelpers): unknown =>
  crop.x + crop.width > 1 + 1e-6 || crop.y + crop.height > 1 + 1e-6
    ? helpers.message({ custom: '{{#label}} reaches outside the picture' })
    : crop;

/** The groundwork document's schema, version 2; what is left out changes nothing. Documented in docs/groundwork.md. */
const groundworkSchema = Joi.object<Groundwork>({
  format: Joi.valid('dyepot-groundwork').required(),
  version: Joi.valid(2).required(),
  balance: Joi.object({
    kind: Joi.valid('asShot', 'tungsten', 'fluorescent', 'daylight', 'flash', 'cloudy', 'shade', 'camera', 'own').required(),
    kelvin: within(2000, 25000).default(5500),
    tintDuv: within(-0.05, 0.05).default(0),
  }).default({ kind: 'asShot', kelvin: 5500, tintDuv: 0 }),
  colours: Joi.object({
    kind: Joi.valid('matrix', 'rootPolynomial').required(),
    rows: Joi.array().items(within(-16, 16)).length(18).custom(keepsGrey).required(),
    from: Joi.string().max(200).allow('').default(''),
    before: within(0, 200).default(0),
    after: within(0, 200).default(0),
  })
    .allow(null)
    .default(null),
  exposureEv: within(-5, 5).default(0),
  recovery: within(0, 100).default(100),
  ends: Joi.object({ black: within(0, 0.05).default(0), whiteEv: within(1, 7).default(3.4) }).default(),
  zones: Joi.object({
    ev: Joi.array().items(within(-4, 4)).length(5).default([0, 0, 0, 0, 0]),
    bounds: Joi.array().items(within(-9, 7)).length(4).custom(ordered).default(zoneBounds),
  }).default(),
  geometry: Joi.object({
    quarterTurns: Joi.valid(0, 1, 2, 3).default(0),
    flipX: Joi.boolean().strict().default(false),
    flipY: Joi.boolean().strict().default(false),
    straighten: within(-45, 45).default(0),
    vertical: within(-100, 100).default(0),
    horizontal: within(-100, 100).default(0),
    crop: Joi.object({
      x: within(0, 0.99).required(),
      y: within(0, 0.99).required(),
      width: within(0.01, 1).required(),
      height: within(0.01, 1).required(),
    })
      .custom(inPicture)
      .default({ x: 0, y: 0, width: 1, height: 1 }),
    ratio: Joi.string()
      .max(24)
      .pattern(/^(free|\d+(\.\d+)?:\d+(\.\d+)?)$/, 'width:height')
      .default('free'),
  }).default(),
  lens: Joi.object({
    fromFile: Joi.boolean().strict().default(true),
    distortion: within(-100, 100).default(0),
    redSize: within(-100, 100).default(0),
    blueSize: within(-100, 100).default(0),
    cornerEv: within(-3, 3).default(0),
    cornerPower: within(1, 6).default(2),
    purpleFringe: within(0, 100).default(0),
    greenFringe: within(0, 100).default(0),
    profile: Joi.object({
      name: Joi.string().max(200).required(),
      source: Joi.string().max(500).required(),
      distortionUnit: within(0.05, 20).required(),
      vignettingUnit: within(0.05, 20).required(),
      vignetting: terms(3).allow(null).default(null),
      distortion: Joi.object({ model: Joi.valid('ptlens', 'poly3', 'poly5').required(), terms: terms(3).required() })
        .allow(null)
        .default(null),
      aberration: Joi.object({ model: Joi.valid('linear', 'poly3').required(), red: terms(3).required(), blue: terms(3).required() })
        .allow(null)
        .default(null),
    })
      .allow(null)
      .default(null),
  }).default(),
  detail: Joi.object({
    noise: Joi.object({
      luma: ends,
      colour: ends,
      darks: ranged('tone', plainDetail.noise.darks),
      lights: ranged('tone', plainDetail.noise.lights),
    }).default(),
    softness: Joi.object({
      share: within(0, 1).default(plainDetail.softness.share),
      aperture: ranged('aperture', null).allow(null),
      pitchUm: ranged('pitchUm', null).allow(null),
      filterPx: ranged('filterPx', plainDetail.softness.filterPx),
    }).default(),
    sharpness: Joi.object({
      gain: ranged('gain', plainDetail.sharpness.gain),
      sizePx: ranged('sizePx', plainDetail.sharpness.sizePx),
      coarsePx: ranged('coarsePx', plainDetail.sharpness.coarsePx),
      finePx: ranged('finePx', plainDetail.sharpness.finePx),
      faint: ranged('faint', plainDetail.sharpness.faint),
      strong: ranged('strong', plainDetail.sharpness.strong),
      kept: within(0, 1).default(plainDetail.sharpness.kept),
    })
      .custom(feet)
      .default(),
  }).default(),
});

/** The parts of version 1 that are no longer as they were. */
const version1 = Joi.object<{ detail: Detail1 }>({
  detail: Joi.object({
    luminanceNoise: within(0, 100).default(plainDetail1.luminanceNoise),
    colourNoise: within(0, 100).default(plainDetail1.colourNoise),
    sharpen: within(0, 150).default(plainDetail1.sharpen),
    radiusPx: within(0.5, 3).default(plainDetail1.radiusPx),
    fine: within(0, 100).default(plainDetail1.fine),
    edgesOnly: within(0, 100).default(plainDetail1.edgesOnly),
  }).default(),
}).unknown();
const asSaid = { convert: false, errors: { wrap: { label: '“' } } } as const;

/** Groundwork of any version up to this one, as a part of something larger: carried over and checked. */
export const groundworkOfAnyVersion = Joi.any().custom((value: unknown, helpers) => {
  const read = validateGroundwork(value);
  return 'message' in read
    ? helpers.message({ custom: `{{#label}}: ${read.message.replaceAll('{', '').replaceAll('}', '')}` })
    : read.groundwork;
});

/** Validates a parsed groundwork document. On failure the message says in words what is wrong and where. */
export function validateGroundwork(value: unknown): { groundwork: Groundwork } | { message: string } {
  if (typeof value !== 'object' || value === null || (value as { format?: unknown }).format !== 'dyepot-groundwork')
    return { message: 'this is not groundwork: it does not say "format": "dyepot-groundwork"' };
  const version = (value as { version?: unknown }).version;
  if (typeof version === 'number' && version > 2)
    return { message: `this groundwork is of version ${version}; this Dyepot reads up to version 2` };
  let current: object = value;
  if (version === 1) {
    const older = version1.validate(value, asSaid);
    if (older.error) return { message: older.error.details[0]!.message };
    current = { ...older.value, version: 2, detail: fromDetail1(older.value.detail) };
  }
  const result = groundworkSchema.validate(current, asSaid);
  return result.error ? { message: result.error.details[0]!.message } : { groundwork: result.value };
}

/** Reads groundwork from text. */
export function readGroundwork(text: string): { groundwork: Groundwork } | { message: string } {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    return { message: `this is not JSON: ${error instanceof Error ? error.message : ''}` };
  }
  return validateGroundwork(value);
}
