import { readdirSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from 'vitest';
import { passesOf } from '../src/plan/plan.ts';
import { emptyLook, newStep, type Look } from '../src/look/look.ts';
import { readLook, validateLook, writeLook } from '../src/look/schema.ts';
import { stepKinds } from '../src/look/kinds.ts';

const file = (path: string): string => readFileSync(fileURLToPath(new URL(path, import.meta.url)), 'utf8');
const message = (value: unknown): string => {
  const r = validateLook(value);
  return 'message' in r ? r.message : 'accepted';
};
const changed = (recipe: (l: Look) => void): Look => {
  const l = structuredClone({ ...emptyLook('A look'), print: [newStep('curve', 'c'), newStep('grade', 'g')] }) as Look;
  recipe(l);
  return l;
};

describe('the look document', () => {
  it('every version that was ever written is read, as it was meant (the golden files), and together they hold every kind of step', () => {
    const kinds = new Set<string>();
    for (const name of [
      'look-v1',
      'look-v1.as-v2',
      'look-v1-steps',
      'look-v1-steps.as-v2',
      'look-v2',
      'look-v2-film',
      'look-v2-finish',
      'look-v3',
    ]) {
      const read = readLook(file(`./golden/${name}.json`));
      if ('message' in read) throw new Error(read.message);
      // what comes of a version is written down beside it once, and never changed
      expect(writeLook(read.look), name).toBe(file(`./golden/${name === 'look-v3' ? name : `${name.replace('.as-v2', '')}.as-v3`}.json`));
      for (const s of [...read.look.scene, read.look.stock, ...read.look.print]) kinds.add(s.kind);
    }
    expect(kinds).toEqual(new Set(stepKinds.map((k) => k.kind)));
  });
  it('a parameter left out of version 1 keeps what it meant then', () => {
    const older = { ...emptyLook('x'), version: 1, print: [{ id: 'a', kind: 'vibrance', params: { change: 40 } }] },
      read = validateLook(older);
    if ('message' in read) throw new Error(read.message);
    expect(read.look.print[0]).toMatchObject({ params: { change: 40, spare: 70 }, mask: null, blend: 'normal' });
  });
  it('every demo look is valid', () => {
    const folder = fileURLToPath(new URL('../../../demo/looks', import.meta.url));
    for (const name of readdirSync(folder)) expect(message(JSON.parse(readFileSync(`${folder}/${name}`, 'utf8'))), name).toBe('accepted');
  });
  it('is complete without what is left out: missing parameters stay so and mean their defaults', () => {
    const read = validateLook({ ...emptyLook('x'), print: [{ id: 'a', kind: 'grade', params: { lightsHue: 60 } }] });
    if ('message' in read) throw new Error(read.message);
    expect(read.look.print[0]).toMatchObject({ on: true, strength: 1, mask: null, params: { lightsHue: 60 } });
    const chroma = { ...read.look.print[0]!, params: { lightsHue: 60, lightsChroma: 0.05 } };
    expect(passesOf(chroma, 1)).toEqual(
      passesOf({ ...newStep('grade', 'a'), params: { ...newStep('grade', 'a').params, lightsHue: 60, lightsChroma: 0.05 } }, 1),
    );
  });
});

describe('a bad look is refused in words that say where', () => {
  it.each([
    ['not JSON', 'nonsense', /not JSON/],
    ['another document', '{"a":1}', /not a look/],
    ['a later version', JSON.stringify({ ...emptyLook('x'), version: 9 }), /version 9/],
  ])('%s', (_, text, pattern) => {
    const r = readLook(text);
    expect('message' in r && r.message).toMatch(pattern);
  });
  it.each([
    [
      'a step without a kind',
      changed((l) => {
        delete (l.print[1] as { kind?: string }).kind;
      }),
      /step 2 of the print lane does not say what kind of step it is/,
    ],
    [
      'an unknown step',
      changed((l) => {
        l.print[1]!.kind = 'sparkle';
      }),
      /step 2 of the print lane: there is no step kind called “sparkle”/,
    ],
    [
      'a step in the wrong lane',
      changed((l) => {
        l.scene.push(newStep('saturation', 's'));
      }),
      /step 1 of the scene lane: Saturation belongs in the print lane/,
    ],
    [
      'a value out of range',
      changed((l) => {
        l.print[1]!.params['lightsChroma'] = 3;
      }),
      /step 2 of the print lane: “Lights chroma” must be less than or equal to 0.15/,
    ],
    [
      'a number as text',
      changed((l) => {
        (l.print[1]!.params as Record<string, unknown>)['lightsHue'] = '60';
      }),
      /“Lights hue” must be a number/,
    ],
    [
      'strength above 200 %',
      changed((l) => {
        l.print[0]!.strength = 2.5;
      }),
      /strength” must be less than or equal to 2/,
    ],
    [
      'curve points out of order',
      changed((l) => {
        l.print[0]!.params['points'] = [
          [0, 0],
          [0.6, 0.5],
          [0.5, 0.6],
        ];
      }),
      /point 3 is not to the right of point 2/,
    ],
    ['two stocks', { ...emptyLook('x'), stock: [newStep('neutral', 'a')] }, /stock/],
    ['an unknown key', { ...emptyLook('x'), exposure: 1 }, /exposure” is not allowed/],
    ['no name', { ...emptyLook(''), name: '  ' }, /name/],
  ])('%s', (_, value, pattern) => expect(message(value)).toMatch(pattern));
  it('NaN and infinity never pass', () => {
    for (const bad of [NaN, Infinity, -Infinity])
      expect(
        message(
          changed((l) => {
            l.print[1]!.params['lightsHue'] = bad;
          }),
        ),
      ).not.toBe('accepted');
  });
});
