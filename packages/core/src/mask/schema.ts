import Joi from 'joi';
import { regions } from '../render/maskPlan.ts';
import type { Mask, Mode } from './mask.ts';
import { toneBounds } from './tone.ts';

/** What a mask may hold: parts, strokes and points of one, all points of one. */
export const maskLimits = { parts: 24, strokes: 2000, points: 60_000, outline: 400, figure: 512 } as const;

const n = (min: number, max: number): Joi.NumberSchema => Joi.number().strict().min(min).max(max).required(),
  share = n(0, 1),
  // what a handle is dragged out of the picture still counts
  place = n(-2, 3),
  point = Joi.array().ordered(place, place).length(2).required();
const modes: readonly Mode[] = ['add', 'subtract', 'intersect'];
const common = { mode: Joi.valid(...modes).required(), opacity: share, inverted: Joi.boolean().strict().required() };
const ev = n(...toneBounds.ev),
  fade = n(...toneBounds.fade);

const portable = {
  gradient: Joi.object({ kind: Joi.valid('gradient'), ...common, from: point, to: point, middle: n(0.05, 0.95) }),
  radial: Joi.object({
    kind: Joi.valid('radial'),
    ...common,
    centre: point,
    radii: Joi.array().ordered(n(0.002, 3), n(0.002, 3)).length(2).required(),
    turn: n(-360, 360),
    feather: share,
  }),
  tone: Joi.object({ kind: Joi.valid('tone'), ...common, fromEv: ev, toEv: ev, fadeBelowEv: fade, fadeAboveEv: fade }).custom(
    (range: { fromEv: number; toEv: number }, helpers) =>
      range.fromEv <= range.toEv ? range : helpers.message({ custom: '{{#label}}: the range ends before it begins' }),
  ),
  colour: Joi.object({
    kind: Joi.valid('colour'),
    ...common,
    picks: Joi.array()
      .items(Joi.array().ordered(n(0, 3), n(-1, 1), n(-1, 1)).length(3))
      .max(24)
      .required(),
    reach: n(0.005, 0.5),
    softness: share,
  }),
  haze: Joi.object({ kind: Joi.valid('haze'), ...common, from: share, to: share }),
  found: Joi.object({ kind: Joi.valid('found'), ...common, what: Joi.valid(...regions).required() }),
  named: Joi.object({ kind: Joi.valid('named'), ...common, mask: Joi.string().max(64).required() }),
};
const stroke = Joi.object({
  erase: Joi.boolean().strict().required(),
  size: n(1e-4, 0.5),
  feather: share,
  flow: n(0.01, 1),
  points: Joi.array().items(Joi.number().strict().integer().min(-20_000).max(30_000)).min(3).required(),
});
const bound = {
  brush: Joi.object({ kind: Joi.valid('brush'), ...common, strokes: Joi.array().items(stroke).max(maskLimits.strokes).required() }),
  outline: Joi.object({
    kind: Joi.valid('outline'),
    ...common,
    points: Joi.array()
      .items(Joi.array().ordered(place, place, n(0, 0.5)).length(3))
      .max(maskLimits.outline)
      .required(),
  }),
  figure: Joi.object({
    kind: Joi.valid('figure'),
    ...common,
    box: Joi.array().ordered(place, place, n(1e-3, 3), n(1e-3, 3)).length(4).required(),
    width: n(1, maskLimits.figure).integer(),
    height: n(1, maskLimits.figure).integer(),
    data: Joi.string().base64().required(),
  }).custom((f: { width: number; height: number; data: string }, helpers) =>
    Math.floor((f.data.replace(/=+$/, '').length * 3) / 4) === f.width * f.height
      ? f
      : helpers.message({ custom: '{{#label}}: the map of the thing has not as many places as it says' }),
  ),
};
const words: Readonly<Record<string, string>> = { brush: 'a brush', outline: 'an outline', figure: 'a thing cut out of a box' };

/** Counted before anything is looked at closely: a list of a million points is refused at once. */
function tooMuch(value: unknown): string | null {
  const parts = (value as { parts?: unknown } | null)?.parts;
  if (!Array.isArray(parts)) return null;
  if (parts.length > maskLimits.parts) return `a place has ${parts.length} parts; at most ${maskLimits.parts} fit`;
  let points = 0;
  for (const part of parts as { strokes?: unknown }[])
    for (const s of Array.isArray(part?.strokes) ? (part.strokes as { points?: unknown }[]) : [])
      points += Array.isArray(s?.points) ? s.points.length / 3 : 0;
  return points > maskLimits.points ? `a place has strokes of ${Math.round(points)} points; at most ${maskLimits.points} fit` : null;
}
const maskWith = (kinds: Readonly<Record<string, Joi.ObjectSchema>>): Joi.ObjectSchema<Mask> => {
  const parts = Joi.array()
    .items(
      Joi.any().custom((part: unknown, helpers) => {
        const kind = String((part as { kind?: unknown } | null)?.kind),
          schema = Object.hasOwn(kinds, kind) ? kinds[kind] : undefined;
        if (!schema)
          return helpers.message({
            custom: words[kind]
              ? `{{#label}}: ${words[kind]} belongs to one frame; a look cannot hold it`
              : '{{#label}}: there is no such sort of place',
          });
        const read = schema.validate(part, { convert: false, errors: { label: 'key', wrap: { label: '“' } } });
        return read.error
          ? helpers.message({ custom: `{{#label}}: ${read.error.details[0]!.message.replace(/[{}]/g, '')}` })
          : (read.value as unknown);
      }),
    )
    .required();
  return Joi.object<Mask>({
    parts,
    inverted: Joi.boolean().strict().default(false),
    feather: Joi.number().strict().min(0).max(0.2).default(0),
    grow: Joi.number().strict().min(-0.03).max(0.03).default(0),
    snap: Joi.number().strict().min(0).max(1).default(0),
  });
};
/** A mask that means the same on every frame, and one of a frame's own. Counted first. */
const counted = (schema: Joi.ObjectSchema<Mask>): Joi.ObjectSchema<Mask> =>
  Joi.object<Mask>()
    .unknown()
    .custom((value: unknown, helpers) => {
      const much = tooMuch(value);
      if (much) return helpers.message({ custom: `{{#label}}: ${much}` });
      const read = schema.validate(value, { convert: false, errors: { wrap: { label: '“' } } });
      return read.error
        ? helpers.message({ custom: `{{#label}}: ${read.error.details[0]!.message.replace(/[{}]/g, '')}` })
        : (read.value as unknown);
    });
export const portableMask = counted(maskWith(portable));
export const frameMask = counted(maskWith({ ...portable, ...bound }));
