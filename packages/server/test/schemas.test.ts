import { readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Ajv2020, type ValidateFunction } from 'ajv/dist/2020.js';
import { describe, expect, it } from 'vitest';
import { lookJsonSchema } from '@dyepot/core/test/lookJsonSchema.ts';
import type { Look } from '@dyepot/core/src/look/look.ts';
import { validateLook } from '@dyepot/core/src/look/schema.ts';
import { root } from '../src/places.ts';
import { parcelFiles, sayingOf } from '../src/work/parcel.ts';

const folder = join(root, 'docs/schemas'),
  ajv = new Ajv2020({ allErrors: true, allowUnionTypes: true });
const schemaOf = (name: string): ValidateFunction =>
  ajv.compile(JSON.parse(readFileSync(join(folder, `${name}.schema.json`), 'utf8')) as object);
const looks = readdirSync(join(root, 'demo/looks'))
  .filter((f) => f.endsWith('.json'))
  .map((f) => {
    const read = validateLook(JSON.parse(readFileSync(join(root, 'demo/looks', f), 'utf8')));
    if ('message' in read) throw new Error(read.message);
    return read.look;
  });

describe('the JSON Schemas in docs', () => {
  // DYEPOT_PAGES=write writes it anew
  it('say of a look what its steps declare', () => {
    const text = `${JSON.stringify(lookJsonSchema(), null, 1)}\n`,
      file = join(folder, 'look.schema.json');
    if (process.env['DYEPOT_PAGES'] === 'write') writeFileSync(file, text);
    expect(readFileSync(file, 'utf8')).toBe(text);
  });
  it('take every look of the demo, whole and taken apart, and what a parcel says of itself', async () => {
    const look = schemaOf('look'),
      manifest = schemaOf('manifest'),
      ok = (validate: ValidateFunction, value: unknown): void => expect([validate(value), validate.errors]).toEqual([true, null]);
    for (const l of looks) ok(look, JSON.parse(JSON.stringify(l)));
    const files = await parcelFiles(looks.map((l) => ({ look: l, history: [sayingOf(l)], strip: [] })));
    ok(manifest, JSON.parse(files.get('manifest.json')!.toString()));
    const apart = [...files].filter(([name]) => name.endsWith('/look.json'));
    expect(apart).toHaveLength(looks.length);
    for (const [, data] of apart) ok(look, JSON.parse(data.toString()));
  });
  it('refuse what Dyepot refuses', () => {
    const look = schemaOf('look'),
      plain = looks.find((l) => l.print.length > 0)!,
      wrong: [string, (l: Look) => unknown][] = [
        ['a name of nothing', (l) => ({ ...l, name: '' })],
        ['a key that is not known', (l) => ({ ...l, colour: 1 })],
        ['a later version', (l) => ({ ...l, version: 99 })],
        ['a strength beyond two', (l) => ({ ...l, strength: 2.5 })],
        ['a step of no kind', (l) => ({ ...l, print: [{ ...l.print[0]!, kind: 'sparkle' }] })],
        ['a step in the wrong lane', (l) => ({ ...l, scene: l.print })],
        ['a number beyond its range', (l) => ({ ...l, scene: [{ id: 'a', kind: 'exposure', params: { shiftEv: 99 } }] })],
        ['a number as text', (l) => ({ ...l, scene: [{ id: 'a', kind: 'exposure', params: { shiftEv: '1' } }] })],
        [
          'a brush, which belongs to one frame',
          (l) => ({
            ...l,
            print: [{ ...l.print[0]!, mask: { parts: [{ kind: 'brush', mode: 'add', opacity: 1, inverted: false, strokes: [] }] } }],
          }),
        ],
      ];
    for (const [words, make] of wrong) {
      const value = JSON.parse(JSON.stringify(make(plain))) as unknown;
      expect([words, look(value)]).toEqual([words, false]);
      expect([words, 'message' in validateLook(value)]).toEqual([words, true]);
    }
  });
});
