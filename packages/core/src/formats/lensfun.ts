import { XMLParser, XMLValidator } from 'fast-xml-parser';
import type { LensProfile } from './lensProfile.ts';

/** One `distortion`, `tca` or `vignetting` element: its model and numbers. */
interface Calibration {
  model: string;
  focal: number;
  aperture: number;
  distance: number;
  [term: string]: number | string;
}
export interface DatabaseLens {
  maker: string;
  model: string;
  /** of the camera it was measured with */ crop: number;
  aspect: number;
  focalMin: number;
  focalMax: number;
  distortion: Calibration[];
  aberration: Calibration[];
  vignetting: Calibration[];
}
export interface DatabaseCamera {
  maker: string;
  model: string;
  crop: number;
}
export interface LensDatabase {
  lenses: DatabaseLens[];
  cameras: DatabaseCamera[];
}

const many = new Set(['lens', 'camera', 'distortion', 'tca', 'vignetting', 'maker', 'model', 'calibration']);
const parser = new XMLParser({
  ignoreAttributes: false,
  attributeNamePrefix: '',
  textNodeName: 'text',
  processEntities: false,
  parseTagValue: false,
  parseAttributeValue: false,
  isArray: (name, _path, _leaf, isAttribute) => !isAttribute && many.has(name),
});
type Element = Record<string, unknown>;
type Words = (string | { text?: string; lang?: string })[] | undefined;

/** The name without a language, or the first. */
function wordsOf(names: Words): string {
  const plain = (names ?? []).find((n) => typeof n === 'string' || !n.lang) ?? names?.[0];
  return (typeof plain === 'string' ? plain : (plain?.text ?? '')).replaceAll('&amp;', '&').trim();
}
const numberOf = (v: unknown, otherwise: number): number => {
  const n = Number(v);
  return v === undefined || v === '' || !Number.isFinite(n) ? otherwise : n;
};
function aspectOf(v: unknown): number {
  const [a, b] = String(v ?? '')
    .split(':')
    .map(Number);
  return a && b ? Math.max(a, b) / Math.min(a, b) : a && Number.isFinite(a) ? Math.max(a, 1 / a) : 1.5;
}
function calibrations(list: unknown): Calibration[] {
  return ((list ?? []) as Element[]).map((e) => {
    const { model, ...rest } = e;
    return {
      ...Object.fromEntries(Object.entries(rest).map(([k, v]) => [k, numberOf(v, 0)])),
      model: String(model ?? ''),
      focal: numberOf(rest['focal'], 0),
      aperture: numberOf(rest['aperture'], 0),
      distance: numberOf(rest['distance'], 1000),
    };
  });
}

/** Reads a file of the Lensfun database, version 1 (its documented format). The message says what is wrong and in which line. */
export function readLensDatabase(xml: string): LensDatabase | { message: string } {
  try {
    return readDatabase(xml);
  } catch (error) {
    // the parser throws what its validator lets pass, such as a DOCTYPE without an end
    return { message: `it cannot be read as XML: ${error instanceof Error ? error.message : 'it is damaged'}` };
  }
}
function readDatabase(xml: string): LensDatabase | { message: string } {
  if (/<!(DOCTYPE|ENTITY)/i.test(xml.slice(0, 4096)) && /<!ENTITY/i.test(xml))
    return { message: 'it declares entities, which a lens database does not need' };
  const valid = XMLValidator.validate(xml);
  if (valid !== true) return { message: `line ${valid.err.line}: ${valid.err.msg}` };
  const root = (parser.parse(xml) as { lensdatabase?: Element }).lensdatabase;
  if (!root) return { message: 'it is not a lens database: <lensdatabase> is missing' };
  const version = numberOf(root['version'], 1);
  if (version > 1) return { message: `it is a lens database of version ${version}; version 1 is read` };
  const lenses = ((root['lens'] ?? []) as Element[]).map((l): DatabaseLens => {
    const parts = (l['calibration'] ?? []) as Element[],
      all = (name: string): Calibration[] => parts.flatMap((p) => (typeof p === 'object' ? calibrations(p[name]) : [])),
      distortion = all('distortion'),
      aberration = all('tca'),
      vignetting = all('vignetting'),
      focals = [...distortion, ...aberration, ...vignetting].map((c) => c.focal).filter((f) => f > 0);
    return {
      maker: wordsOf(l['maker'] as Words),
      model: wordsOf(l['model'] as Words),
      crop: numberOf(l['cropfactor'], 1),
      aspect: aspectOf(l['aspect-ratio']),
      focalMin: focals.length > 0 ? Math.min(...focals) : 0,
      focalMax: focals.length > 0 ? Math.max(...focals) : 0,
      distortion,
      aberration,
      vignetting,
    };
  });
  return {
    lenses: lenses.filter((l) => l.model !== '' && l.distortion.length + l.aberration.length + l.vignetting.length > 0),
    cameras: ((root['camera'] ?? []) as Element[])
      .map((c) => ({ maker: wordsOf(c['maker'] as Words), model: wordsOf(c['model'] as Words), crop: numberOf(c['cropfactor'], 0) }))
      .filter((c) => c.crop > 0),
  };
}

const terms = { ptlens: ['a', 'b', 'c'], poly3: ['k1'], poly5: ['k1', 'k2'] } as const;
const value = (c: Calibration, name: string, otherwise = 0): number => (typeof c[name] === 'number' ? c[name] : otherwise);
/** Numbers between the two nearest focal lengths of one model, mixed linearly. */
function atFocal(
  list: readonly Calibration[],
  focal: number,
  names: (model: string) => { name: string; otherwise: number }[],
): { model: string; terms: number[] } | null {
  const model = list[0]?.model,
    own = list.filter((c) => c.model === model).sort((a, b) => a.focal - b.focal);
  if (model === undefined || own.length === 0) return null;
  const above = own.find((c) => c.focal >= focal) ?? own[own.length - 1]!,
    below = [...own].reverse().find((c) => c.focal <= focal) ?? own[0]!,
    t = above.focal > below.focal ? (focal - below.focal) / (above.focal - below.focal) : 0;
  return {
    model,
    terms: names(model).map(({ name, otherwise }) => value(below, name, otherwise) * (1 - t) + value(above, name, otherwise) * t),
  };
}
/** Vignetting at a focal length, aperture and distance (m): Shepard's mean of what was measured, in Lensfun's measures of nearness. */
function vignettingAt(list: readonly Calibration[], focal: number, aperture: number, distance: number): number[] | null {
  const own = list.filter((c) => c.model === 'pa'),
    focals = own.map((c) => c.focal),
    span = Math.max(...focals) - Math.min(...focals) || 1;
  let total = 0;
  const sum = [0, 0, 0];
  for (const c of own) {
    const away = Math.hypot((focal - c.focal) / span, 4 / aperture - 4 / c.aperture, 0.1 / distance - 0.1 / c.distance),
      k = ['k1', 'k2', 'k3'].map((n) => value(c, n));
    if (away < 1e-4) return k;
    const weight = away ** -3.5;
    total += weight;
    k.forEach((v, i) => {
      sum[i]! += v * weight;
    });
  }
  return total > 0 ? sum.map((v) => v / total) : null;
}

/**
 * A lens as it stands for one frame.
 * @param crop the camera's crop factor; focal length in mm, aperture as an f-number, distance in m (far when unknown)
 * @param aspect the frame's long side over its short one
 * Lengths by lfModifier: r = 1 is half the short side for distortion and aberration, half the diagonal for vignetting, of the camera the lens was measured with.
 */
export function profileOf(
  lens: DatabaseLens,
  source: string,
  frame: { focalMm: number; aperture: number; crop: number; distanceM?: number },
): LensProfile {
  const bent = atFocal(
    lens.distortion.filter((c) => c.model in terms),
    frame.focalMm,
    (m) => terms[m as keyof typeof terms].map((name) => ({ name, otherwise: 0 })),
  );
  const split = (colour: 'r' | 'b'): { model: string; terms: number[] } | null =>
      atFocal(
        lens.aberration.filter((c) => c.model === 'linear' || c.model === 'poly3'),
        frame.focalMm,
        (m) =>
          m === 'linear'
            ? [{ name: `k${colour}`, otherwise: 1 }]
            : [
                { name: `v${colour}`, otherwise: 1 },
                { name: `c${colour}`, otherwise: 0 },
                { name: `b${colour}`, otherwise: 0 },
              ],
      ),
    red = split('r'),
    blue = split('b');
  const own = (frame.crop || lens.crop) / lens.crop;
  return {
    name: lens.model,
    source,
    distortion: bent && { model: bent.model as 'ptlens', terms: bent.terms },
    aberration: red && blue && { model: red.model as 'poly3', red: red.terms, blue: blue.terms },
    vignetting: frame.aperture > 0 ? vignettingAt(lens.vignetting, frame.focalMm, frame.aperture, frame.distanceM ?? 1000) : null,
    distortionUnit: own / Math.hypot(lens.aspect, 1),
    vignettingUnit: own,
  };
}

const tidy = (words: string): string =>
  words
    .toLowerCase()
    .replace(/[^a-z0-9.]+/g, ' ')
    .trim();
/** How well a lens' name answers what is looked for: the share of words found in it. */
export function nearness(lens: DatabaseLens, wanted: string): number {
  const words = tidy(wanted).split(' ').filter(Boolean),
    name = ` ${tidy(`${lens.maker} ${lens.model}`)} `;
  return words.length === 0 ? 0 : words.filter((w) => name.includes(w)).length / words.length;
}
