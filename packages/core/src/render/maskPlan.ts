/** What is looked for in the whole picture, small, before a mask can be drawn. */
export type FieldWish = { readonly of: 'haze' | Region } | { readonly of: 'figure'; readonly map: FigureMap };
/** Regions that are found by themselves. */
export const regions = ['sky', 'foliage', 'skin', 'lights'] as const;
export type Region = (typeof regions)[number];
/** A thing cut out of a frame: where its small map lies on the film plane (left, top, width, height, in shares of the uncropped frame's long edge), and 0–255 for each place of it. */
export interface FigureMap {
  readonly box: readonly [number, number, number, number];
  readonly width: number;
  readonly height: number;
  readonly shares: Uint8Array;
}
type Point = readonly [x: number, y: number];
/** What says where: places of gradients and radials are in shares of the picture's width and height, sizes in shares of its long edge; strokes and outlines lie on the film plane. */
export type Shape =
  | { readonly kernel: 'gradientShare'; readonly from: Point; readonly to: Point; readonly exponent: number }
  | { readonly kernel: 'radialShare'; readonly centre: Point; readonly radii: Point; readonly turn: number; readonly feather: number }
  | { readonly kernel: 'strokeShare' | 'outlineShare' | 'toneShare' | 'colourShare'; readonly numbers: readonly number[] | Float32Array }
  | { readonly kernel: 'fieldShare'; readonly field: FieldWish; readonly low: number; readonly over: number; readonly plain: boolean }
  | { readonly kernel: 'nested'; readonly mask: MaskPlan };
export interface MaskStage {
  /** 0 added, 1 taken away, 2 kept within */
  readonly mode: 0 | 1 | 2;
  readonly opacity: number;
  readonly inverted: boolean;
  readonly shape: Shape;
}
/** A mask as plain data: its parts in order, and what is done with the whole, for which all of it is drawn small first. */
export interface MaskPlan {
  readonly stages: readonly MaskStage[];
  readonly inverted: boolean;
  readonly whole: Whole | null;
}
/** Feather and growth in shares of the uncropped frame's long edge; how far it snaps to the picture's edges, 0–1. */
export interface Whole {
  readonly feather: number;
  readonly grow: number;
  readonly snap: number;
}

/** The fields a mask's parts read, in order. */
export const fieldsOf = (plan: MaskPlan): FieldWish[] =>
  plan.stages.flatMap(({ shape }) =>
    shape.kernel === 'fieldShare' ? [shape.field] : shape.kernel === 'nested' ? fieldsOf(shape.mask) : [],
  );
/** Whether a mask needs to know the whole picture. */
export const readsWhole = (plan: MaskPlan): boolean =>
  plan.whole !== null || fieldsOf(plan).length > 0 || plan.stages.some(({ shape }) => shape.kernel === 'nested' && readsWhole(shape.mask));
/** Whether a mask says the same of every place where the light is the same. */
export const byLightAlone = (plan: MaskPlan): boolean =>
  plan.whole === null &&
  plan.stages.every(
    ({ shape }) =>
      shape.kernel === 'toneShare' || shape.kernel === 'colourShare' || (shape.kernel === 'nested' && byLightAlone(shape.mask)),
  );

/** Whether two plain values are the same all through. */
function same(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (ArrayBuffer.isView(a) || Array.isArray(a)) {
    const [x, y] = [a as ArrayLike<unknown>, b as ArrayLike<unknown>];
    if (x.length !== y.length) return false;
    for (let i = 0; i < x.length; i++) if (!same(x[i], y[i])) return false;
    return true;
  }
  const keys = Object.keys(a);
  return (
    keys.length === Object.keys(b).length && keys.every((k) => same((a as Record<string, unknown>)[k], (b as Record<string, unknown>)[k]))
  );
}
export const sameMask = (a: MaskPlan | null, b: MaskPlan | null): boolean => same(a, b);
