import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { ciede2000 } from '../src/colour/difference.ts';
import { blendLooks } from '../src/look/blend.ts';
import { differences } from '../src/look/differences.ts';
import { stepsInWords } from '../src/look/inWords.ts';
import { emptyLook, newStep, stepsOf, type Look, type LookStep } from '../src/look/look.ts';
import { fileName, freeName, putTogether, takeApart } from '../src/look/parts.ts';
import { readLook, validateLook } from '../src/look/schema.ts';
import { checkLook } from '../src/plan/check/check.ts';
import { lookWords } from '../src/plan/lookWords.ts';
import { apart, coloursOf, comparedColours } from '../src/plan/nearness.ts';
import { filmCompiler } from '../src/stock/film/engine.ts';
import { provideFilm } from '../src/stock/film/index.ts';
import { kernels } from './kernels.ts';

const folder = join(import.meta.dirname, '../../../demo/looks');
const looks = readdirSync(folder).map((f) => {
  const read = readLook(readFileSync(join(folder, f), 'utf8'));
  if ('message' in read) throw new Error(read.message);
  return read.look;
});
const byName = (name: string): Look => looks.find((l) => l.name === name)!;
const step = (kind: string, params: LookStep['params'], more: Partial<LookStep> = {}): LookStep => {
  const s = newStep(kind, `${kind}-${JSON.stringify(params).length}`);
  return { ...s, params: { ...s.params, ...params }, ...more };
};
const withPrint = (...print: LookStep[]): Look => ({ ...emptyLook('made'), print: print.map((s, i) => ({ ...s, id: `s${i}` })) });

beforeAll(() => provideFilm(filmCompiler(kernels)));

describe('differences of two looks', () => {
  it('are none between a look and itself, written and read again', () => {
    for (const l of looks) expect(differences(l, JSON.parse(JSON.stringify(l)) as Look)).toEqual([]);
  });
  it('tell numbers with their signs and units, and steps that come, go, move and are switched', () => {
    const from: Look = {
      ...emptyLook('A'),
      scene: [{ ...step('warmth', { shiftMired: 12 }), id: 'w' }],
      print: [
        { ...step('contrast', {}), id: 'c' },
        { ...step('saturation', {}), id: 's' },
      ],
    };
    const to: Look = {
      ...from,
      strength: 0.6,
      scene: [{ ...step('warmth', { shiftMired: -18 }), id: 'w' }],
      print: [{ ...from.print[1]!, on: false }, from.print[0]!, { ...step('grain', {}), id: 'g' }],
    };
    expect(differences(from, to)).toEqual([
      'Strength of the look 100 % → 60 %',
      'Warmth: Shift +12 → −18 mired',
      'Saturation switched off',
      'Contrast moved',
      'Grain added',
    ]);
    expect(differences(to, from)).toContain('Grain taken out');
  });
});

describe('a look between two', () => {
  const pairs: [string, string][] = [
    ['Chalk', 'Birch in infrared'],
    ['Weld gold', 'Woad frost'],
    ['Cutch album', 'Linen plain'],
    ['Iron alley', 'Orchil and verdigris'],
  ];
  it.each(pairs)('%s and %s: the ends are the looks, and every step between is a small one', (p, q) => {
    const [a, b] = [byName(p), byName(q)],
      at = (by: number): Float32Array => coloursOf(kernels, blendLooks(a, b, by).look);
    expect(apart(at(0), coloursOf(kernels, a))).toBeLessThan(0.01);
    expect(apart(at(1), coloursOf(kernels, b))).toBeLessThan(0.01);
    const whole = apart(at(0), at(1));
    for (let i = 0; i < 20; i++) expect(apart(at(i / 20), at((i + 1) / 20)), `from ${i / 20}`).toBeLessThan(Math.max(2, whole / 4));
  });
  it('is a look that can be read, for all pairs of the demo', () => {
    for (const a of looks)
      for (const b of looks) {
        const read = validateLook(JSON.parse(JSON.stringify(blendLooks(a, b, 0.4).look)));
        expect('message' in read ? read.message : null, `${a.name} and ${b.name}`).toBeNull();
      }
  });
  it('meets numbers half way, hues the shorter way round, and leaves what is alike as it is', () => {
    const a = withPrint(step('saturation', {}), step('gel', { hue: 350, density: 0.2 })),
      b = withPrint(step('saturation', {}), step('gel', { hue: 30, density: 0.6 }));
    const { look, said } = blendLooks(a, b, 0.5);
    expect(said).toEqual([]);
    const gel = look.print.find((s) => s.kind === 'gel')!;
    expect(gel.params['hue']).toBeCloseTo(10, 6);
    expect(gel.params['density']).toBeCloseTo(0.4, 6);
    expect(look.print.find((s) => s.kind === 'saturation')!.params).toEqual(a.print[0]!.params);
  });
});

describe('near looks', () => {
  it('are measured by CIEDE2000 of what both make of the same colours', () => {
    const [p, q] = [coloursOf(kernels, byName('Chalk')), coloursOf(kernels, byName('Weld gold'))];
    let sum = 0;
    for (let i = 0; i < comparedColours.length; i++)
      sum += ciede2000([p[i * 3]!, p[i * 3 + 1]!, p[i * 3 + 2]!], [q[i * 3]!, q[i * 3 + 1]!, q[i * 3 + 2]!]);
    expect(apart(p, q)).toBeCloseTo(sum / comparedColours.length, 6);
    expect(apart(p, p)).toBe(0);
  });
  it('a look under another name is the same; none of the demo’s is another', () => {
    const colours = looks.map((l) => coloursOf(kernels, l));
    expect(apart(colours[0]!, coloursOf(kernels, { ...looks[0]!, name: 'Another', notes: '' }))).toBe(0);
    for (let i = 0; i < colours.length; i++)
      for (let j = 0; j < i; j++) expect(apart(colours[i]!, colours[j]!), `${looks[i]!.name}, ${looks[j]!.name}`).toBeGreaterThan(1);
  });
});

describe('look check', () => {
  const kinds = (l: Look): string[] => checkLook(kernels, l).map((f) => `${f.weight} ${f.kind}`);
  it('finds nothing in the plain response but what every picture has', () =>
    expect(kinds(emptyLook('plain')).filter((k) => k.startsWith('weak'))).toEqual([]));
  it('finds tones that fold back, and tells where', () => {
    const points = [
        [0, 0],
        [0.4, 0.6],
        [0.6, 0.4],
        [1, 1],
      ] as const,
      folds = checkLook(kernels, withPrint(step('curve', { points }))).find((f) => f.kind === 'folds')!;
    expect(folds.weight).toBe('weak');
    expect(folds.figure).toBeGreaterThan(10);
    expect(folds.tones.length).toBeGreaterThan(50);
  });
  it('finds greys that are tinted, with the chroma they have', () => {
    const greys = checkLook(kernels, withPrint(step('gel', { hue: 70, density: 0.5 }))).find((f) => f.kind === 'greys')!;
    expect(greys.figure).toBeGreaterThan(4);
    expect(greys.words).toMatch(/towards (orange|yellow)/);
  });
  it('finds steps that do nothing, that take each other back, and that are off', () => {
    const opposed = [1, -1].map((shiftEv, i) => step('exposure', { shiftEv }, { id: `e${i}` })),
      found = checkLook(kernels, {
        ...withPrint(step('contrast', { contrast: 0 }), step('curve', {}, { on: false })),
        scene: opposed,
      });
    expect(found.find((f) => f.kind === 'idle')?.words).toMatch(/does nothing/);
    expect(found.find((f) => f.kind === 'off')?.figure).toBe(1);
    const cancel = found.find((f) => f.kind === 'cancel');
    expect(cancel?.steps).toEqual(['e0', 'e1']);
  });
  it('tells what cannot travel in a table', () =>
    expect(checkLook(kernels, withPrint(step('grain', { rms: 12 }))).some((f) => f.kind === 'table')).toBe(true));
});

describe('words a look is found by', () => {
  const words = (l: Look): string[] => lookWords(kernels, l).words;
  it('say what it does', () => {
    expect(words(byName('Weld gold'))).toContain('warm');
    expect(words(byName('Iron alley'))).toContain('black and white');
    expect(words(byName('Woad frost')).join()).toMatch(/blue (darks|middles)/);
    expect(words(emptyLook('plain')).filter((w) => /warm|cool|muted|vivid|lifted/.test(w))).toEqual([]);
    expect(
      words(
        withPrint(
          step('curve', {
            points: [
              [0, 0.18],
              [1, 0.9],
            ],
          }),
        ),
      ),
    ).toEqual(expect.arrayContaining(['lifted blacks', 'softened whites']));
  });
});

describe('a look in words', () => {
  it('says of each step what is not as it comes, and leaves out what is off', () => {
    const said = stepsInWords({
      ...withPrint(step('saturation', { change: -20 }, { strength: 0.5 }), step('grain', {}, { on: false })),
      scene: [step('warmth', { shiftMired: 12 })],
    });
    expect(said).toEqual([
      { name: 'Warmth', words: 'Shift +12 mired' },
      { name: 'Neutral response', words: 'as it comes' },
      { name: 'Saturation', words: 'Change −20 %, strength 50 %' },
    ]);
  });
});

describe('a look taken apart', () => {
  it('comes together as it was, whatever documents stand in it', () => {
    for (const l of looks) {
      const { look, parts } = takeApart(l),
        back = putTogether(JSON.parse(JSON.stringify(look)), (file) => JSON.parse(JSON.stringify(parts.get(file))) as unknown);
      expect(back).toEqual(JSON.parse(JSON.stringify(l)));
    }
    expect(looks.some((l) => takeApart(l).parts.size > 0)).toBe(true);
    expect(stepsOf(looks[0]!).length).toBeGreaterThan(0);
  });
  it('names files as every file system takes them, each once', () => {
    expect(fileName('Größe & “Glück” ../..')).toMatch(/^[a-z0-9-]+$/);
    expect(fileName('日本')).toBe('look');
    expect(freeName('a', '', new Set(['a', 'a-2']))).toBe('a-3');
  });
});
