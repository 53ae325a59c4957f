import { lookVersion } from '../src/look/migrate.ts';
import { blends } from '../src/look/look.ts';
import { stepKinds } from '../src/look/kinds.ts';
import { regions } from '../src/render/maskPlan.ts';
import type { Lane, Parameter } from '../src/render/step.ts';

type Schema = Record<string, unknown>;
const text = (maxLength: number): Schema => ({ type: 'string', maxLength }),
  within = (minimum: number, maximum: number): Schema => ({ type: 'number', minimum, maximum }),
  list = (items: Schema, maxItems: number, minItems = 0): Schema => ({ type: 'array', items, maxItems, ...(minItems > 0 && { minItems }) }),
  tuple = (...prefixItems: Schema[]): Schema => ({ type: 'array', prefixItems, items: false, minItems: prefixItems.length }),
  object = (properties: Record<string, Schema>, required: readonly string[] = []): Schema => ({
    type: 'object',
    properties,
    required,
    additionalProperties: false,
  }),
  orNull = (s: Schema): Schema => ({ anyOf: [s, { type: 'null' }] });
/** A document that stands in the look, or lies beside it in a file. */
const documentOrFile = orNull({ anyOf: [object({ file: text(140) }, ['file']), { type: 'object', not: { required: ['file'] } }] });

function parameter(p: Parameter): Schema {
  const title = p.label;
  switch (p.type) {
    case 'number':
      return { title, ...within(p.min, p.max), default: p.default };
    case 'choice':
      return { title, enum: p.options.map(([value]) => value), default: p.default };
    case 'band':
      return { title, ...list(tuple(within(0, 360), within(p.min, p.max), within(5, 180)), 16) };
    case 'curve':
      return { title, ...list(tuple(within(0, 1), within(0, 1)), 24, 2) };
    default:
      return { title, ...documentOrFile };
  }
}
const share = within(0, 1),
  place = tuple(within(-2, 3), within(-2, 3)),
  part = (kind: string, own: Record<string, Schema>): Schema =>
    object(
      { kind: { const: kind }, mode: { enum: ['add', 'subtract', 'intersect'] }, opacity: share, inverted: { type: 'boolean' }, ...own },
      ['kind', 'mode', 'opacity', 'inverted', ...Object.keys(own)],
    );
const parts = [
  part('gradient', { from: place, to: place, middle: within(0.05, 0.95) }),
  part('radial', { centre: place, radii: tuple(within(0.002, 3), within(0.002, 3)), turn: within(-360, 360), feather: share }),
  part('tone', { fromEv: { type: 'number' }, toEv: { type: 'number' }, fadeBelowEv: { type: 'number' }, fadeAboveEv: { type: 'number' } }),
  part('colour', { picks: list(tuple(within(0, 3), within(-1, 1), within(-1, 1)), 24), reach: within(0.005, 0.5), softness: share }),
  part('haze', { from: share, to: share }),
  part('found', { what: { enum: [...regions] } }),
  part('named', { mask: text(64) }),
];
function step(lane: Lane): Schema {
  const kinds = stepKinds.filter((k) => k.lane === lane),
    masked = lane !== 'stock';
  return {
    ...object(
      {
        id: text(64),
        kind: { enum: kinds.map((k) => k.kind) },
        name: text(80),
        on: { type: 'boolean', default: true },
        strength: { ...within(0, 2), default: 1 },
        mask: masked ? orNull({ $ref: '#/$defs/mask' }) : { type: 'null' },
        skein: masked ? text(64) : { const: '' },
        blend: masked ? { enum: [...blends] } : { const: 'normal' },
        params: { type: 'object' },
      },
      ['id', 'kind'],
    ),
    allOf: kinds.map((k) => ({
      if: { properties: { kind: { const: k.kind } } },
      then: {
        properties: { params: object(Object.fromEntries(Object.entries(k.params).map(([name, p]) => [name, parameter(p)]))) },
      },
    })),
  };
}
/** JSON Schema of a look, by itself or taken apart with documents beside it, from what steps declare of their parameters. */
export const lookJsonSchema = (): Schema => ({
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  title: 'A look',
  ...object(
    {
      format: { const: 'dyepot-look' },
      version: { const: lookVersion },
      name: { type: 'string', minLength: 1, maxLength: 80, pattern: '\\S' },
      family: text(60),
      tags: list(text(40), 24),
      notes: text(4000),
      strength: { ...within(0, 2), default: 1 },
      stock: step('stock'),
      scene: list(step('scene'), 40),
      print: list(step('print'), 40),
      skeins: list(
        object(
          {
            id: text(64),
            name: text(80),
            on: { type: 'boolean', default: true },
            strength: { ...within(0, 2), default: 1 },
            mask: orNull({ $ref: '#/$defs/mask' }),
          },
          ['id'],
        ),
        40,
      ),
      masks: list(
        object({ id: text(64), name: { type: 'string', minLength: 1, maxLength: 80 }, mask: { $ref: '#/$defs/mask' } }, [
          'id',
          'name',
          'mask',
        ]),
        40,
      ),
    },
    ['format', 'version', 'name', 'stock', 'scene', 'print'],
  ),
  $defs: { mask: { type: 'object', properties: { parts: list({ anyOf: parts }, 24) }, required: ['parts'] } },
});
