import type { Mask, NamedMask } from '../mask/mask.ts';
import { lookVersion } from './migrate.ts';
import { neutral, renditions, type Rendition } from '../stock/neutral.ts';
import { stepKind } from './kinds.ts';
import { defaultsOf, type Lane, type ParameterValue } from '../render/step.ts';

/** Ways to join what a step makes with what came to it, in the order the joining kernel counts them. */
export const blends = ['normal', 'luminance', 'colour', 'lighten', 'darken', 'soft'] as const;
export type Blend = (typeof blends)[number];
export const blendNames: Readonly<Record<Blend, string>> = {
  normal: 'it comes',
  luminance: 'luminance only',
  colour: 'colour only',
  lighten: 'the lighter',
  darken: 'the darker',
  soft: 'soft light',
};

export interface LookStep {
  id: string;
  kind: string;
  /** an own name, or empty for the kind's */
  name: string;
  on: boolean;
  /** 0–2; 1 is as designed */
  strength: number;
  params: Record<string, ParameterValue>;
  /** where it acts; null is everywhere */
  mask: Mask | null;
  /** how what it makes is joined with what came to it */
  blend: Blend;
  /** the skein it is held in, or empty */
  skein: string;
}

/** Steps beside one another in a lane, held together: by one mask, one strength (0–2), one switch. */
export interface Skein {
  id: string;
  name: string;
  on: boolean;
  strength: number;
  mask: Mask | null;
}

/** Steps in the lanes that take any number of them, with the skeins and masks they use. */
export interface Chain {
  scene: LookStep[];
  print: LookStep[];
  skeins: Skein[];
  masks: NamedMask[];
}

/** The look document, version 3: what means the same on every frame, and nothing else. */
export interface Look extends Chain {
  format: 'dyepot-look';
  version: typeof lookVersion;
  name: string;
  family: string;
  tags: string[];
  notes: string;
  /** 0–2; multiplies every step's strength */
  strength: number;
  stock: LookStep;
}

/** A step of a kind at its defaults. Throws RangeError for an unknown kind. */
export function newStep(kind: string, id: string): LookStep {
  const declared = stepKind(kind);
  if (!declared) throw new RangeError(`there is no step kind called “${kind}”`);
  return { id, kind, name: '', on: true, strength: 1, params: defaultsOf(declared), mask: null, blend: 'normal', skein: '' };
}

/** A look with nothing in it but the neutral response. */
export function emptyLook(name: string): Look {
  return {
    format: 'dyepot-look',
    version: lookVersion,
    name,
    family: '',
    tags: [],
    notes: '',
    strength: 1,
    scene: [],
    stock: newStep(neutral.kind, 'stock'),
    print: [],
    skeins: [],
    masks: [],
  };
}

/** The look of a rendition: the neutral response with that preset and nothing else. The same object each time. */
export function renditionLook(rendition: Rendition): Look {
  const known = renditionLooks.get(rendition);
  if (known) return known;
  const look = emptyLook(renditions[rendition].name);
  look.stock.params = { ...renditions[rendition].params };
  renditionLooks.set(rendition, look);
  return look;
}
const renditionLooks = new Map<Rendition, Look>();

/** All steps in the order light travels. */
export function stepsOf(look: Look): LookStep[] {
  return [...look.scene, look.stock, ...look.print];
}

/** The skein a step is held in. */
export const skeinOf = ({ skeins }: Pick<Chain, 'skeins'>, { skein }: LookStep): Skein | null =>
  (skein !== '' && skeins.find((s) => s.id === skein)) || null;

/** The lane a step stands in. */
export function laneOf(look: Look, id: string): Lane | null {
  if (look.stock.id === id) return 'stock';
  if (look.scene.some((s) => s.id === id)) return 'scene';
  return look.print.some((s) => s.id === id) ? 'print' : null;
}
