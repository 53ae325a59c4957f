import Joi from 'joi';
import type { Repair, Repairs, Shape } from './repairs.ts';

export const mostRepairs = 5000,
  mostPoints = 1000;
/** How long a fill may be, in shares of a side; and how many times the picture all repairs may cover together. */
const longestFill = 0.15,
  mostCovered = 20;
const within = (min: number, max: number): Joi.NumberSchema => Joi.number().strict().min(min).max(max);
/** A share of a side; a shape may reach a little out of the picture, but its points lie in it. */
const share = within(0, 1),
  radius = within(1e-5, 0.25),
  feather = within(0, 1);
const shape = Joi.alternatives()
  .conditional('.kind', {
    switch: [
      {
        is: 'spot',
        then: Joi.object({
          kind: Joi.valid('spot'),
          x: share.required(),
          y: share.required(),
          radius: radius.required(),
          feather: feather.default(0.4),
        }),
      },
      {
        is: 'line',
        then: Joi.object({
          kind: Joi.valid('line'),
          points: Joi.array().items(Joi.array().ordered(share.required(), share.required()).length(2)).min(1).max(mostPoints).required(),
          radius: within(1e-5, 0.06).required(),
          feather: feather.default(0.4),
        }),
      },
      {
        is: 'outline',
        then: Joi.object({
          kind: Joi.valid('outline'),
          points: Joi.array()
            .items(Joi.array().ordered(share.required(), share.required(), within(0, 0.1).required()).length(3))
            .min(3)
            .max(mostPoints)
            .required(),
        }),
      },
    ],
    otherwise: Joi.object({ kind: Joi.valid('spot', 'line', 'outline').required() }).unknown(),
  })
  .required();
const source = Joi.object({
  dx: within(-1, 1).required(),
  dy: within(-1, 1).required(),
  turn: within(-180, 180).default(0),
  mirror: Joi.boolean().strict().default(false),
  scale: within(0.25, 4).default(1),
});
const repair = Joi.object<Repair>({
  id: Joi.string().min(1).max(40).required(),
  kind: Joi.valid('heal', 'clone', 'fill').required(),
  on: Joi.boolean().strict().default(true),
  shape,
  source: Joi.when('kind', { is: 'fill', then: Joi.valid(null).default(null), otherwise: source.required() }),
});
const repairsSchema = Joi.object<Repairs>({
  format: Joi.valid('dyepot-repairs').required(),
  version: Joi.valid(1).required(),
  repairs: Joi.array().items(repair).unique('id').required(),
});

/** How long and high a shape is, in shares of the sides, near enough. */
function boundsOf(shape: Shape): [number, number] {
  if (shape.kind === 'spot') return [2 * shape.radius, 2 * shape.radius];
  const xs = shape.points.map((p) => p[0]),
    ys = shape.points.map((p) => p[1]),
    more = shape.kind === 'line' ? 2 * shape.radius : 0;
  return [Math.max(...xs) - Math.min(...xs) + more, Math.max(...ys) - Math.min(...ys) + more];
}

/** Validates a parsed repairs document. On failure the message says in words what is wrong and where. */
export function validateRepairs(value: unknown): { repairs: Repairs } | { message: string } {
  const list = (value as { repairs?: unknown } | null)?.repairs;
  if ((value as { format?: unknown } | null)?.format !== 'dyepot-repairs')
    return { message: 'these are no repairs: they do not say "format": "dyepot-repairs"' };
  if (Array.isArray(list) && list.length > mostRepairs) return { message: `there are ${list.length} repairs; at most ${mostRepairs} fit` };
  const result = repairsSchema.validate(value, { convert: false, errors: { wrap: { label: '“' } } });
  if (!result.error) {
    let covered = 0;
    for (const [i, r] of result.value.repairs.entries()) {
      const [width, height] = boundsOf(r.shape);
      covered += width * height;
      if (r.kind === 'fill' && Math.max(width, height) > longestFill)
        return {
          message: `repair ${i + 1}: a fill may be ${longestFill * 100} % of the picture long; cover more with several, or heal it`,
        };
    }
    if (covered > mostCovered)
      return { message: `all repairs together cover the picture ${Math.round(covered)} times; at most ${mostCovered} times is done` };
    return { repairs: result.value };
  }
  const { path, message } = result.error.details[0]!,
    at = path[0] === 'repairs' && typeof path[1] === 'number' ? `repair ${path[1] + 1}: ` : '';
  return { message: at + message.replace(/“([^“]*)“/g, '“$1”') };
}
