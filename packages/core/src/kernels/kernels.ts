import type { PointwiseKernel } from './registry.ts';

type Pointwise = (r: number, g: number, b: number, n: number, parameters: number) => void;
/** A row's first column in the whole picture, and its place on the frame: left + (column + ½)·step, y. */
type Placed = (
  r: number,
  g: number,
  b: number,
  n: number,
  parameters: number,
  left: number,
  column: number,
  step: number,
  y: number,
) => void;
/** A row of a shape: its first pixel's place and the step to the next, and the row's. */
type RowShare = (dst: number, n: number, p: number, start: number, step: number, y: number) => void;
type LightShare = (r: number, g: number, b: number, dst: number, n: number, p: number) => void;
export type KernelExports = Record<PointwiseKernel, Pointwise> & {
  scene(src: number, plane: number, r: number, g: number, b: number, n: number, parameters: number, rows: number, stride: number): void;
  join(r: number, g: number, b: number, o: number, p: number, q: number, n: number, parameters: number): void;
  lightness(r: number, g: number, b: number, n: number, dst: number, parameters: number): void;
  blurDown(src: number, stride: number, dst: number, n: number, weights: number, radius: number): void;
  blurAcross(src: number, dst: number, n: number, weights: number, radius: number): void;
  crispness(r: number, g: number, b: number, light: number, blurred: number, n: number, parameters: number): void;
  vignette: Placed;
  veil: Placed;
  border: Placed;
  overprint: Placed;
  grainTop(dst: number, n: number, i: number, j: number, amount: number, seed: number): void;
  grainHalf(parent: number, dst: number, next: number, n: number, i: number, j: number, amount: number, seed: number): void;
  grainDown(a: number, b: number, c: number, d: number, weights: number, dst: number, n: number): void;
  grainAcross(src: number, columns: number, weights: number, dst: number, n: number): void;
  grain(r: number, g: number, b: number, n: number, parameters: number, x: number, y: number, z: number): void;
  squares(src: number, dst: number, n: number, side: number, skipped: number): void;
  spread(
    dst: number,
    n: number,
    low: number,
    high: number,
    t: number,
    room: number,
    count: number,
    from: number,
    step: number,
    share: number,
  ): void;
  glow(r: number, g: number, b: number, n: number, parameters: number, rows: number, stride: number): void;
  localContrast(r: number, g: number, b: number, n: number, parameters: number, rows: number, stride: number): void;
  haze(r: number, g: number, b: number, n: number, parameters: number, rows: number, stride: number): void;
  zones(r: number, g: number, b: number, n: number, parameters: number, slope: number, offset: number): void;
  quarter(src: number, dst: number, width: number, height: number, stride: number, small: number): void;
  addBetween(plane: number, half: number, width: number, height: number, stride: number, small: number): void;
  shrinkBlocks(src: number, dst: number, width: number, height: number, stride: number, down: number, t2: number, work: number): void;
  less(plane: number, other: number, bytes: number): void;
  stabilise(src: number, plane: number, luma: number, red: number, blue: number, n: number, parameters: number): void;
  restore(luma: number, red: number, blue: number, dst: number, plane: number, n: number, parameters: number): void;
  shapeBlocks(src: number, dst: number, width: number, height: number, stride: number, numbers: number, work: number, shows: boolean): void;
  within(before: number, row: number, n: number, stride: number, over: number): void;
  warp(src: number, width: number, height: number, dst: number, plane: number, n: number, parameters: number, table: number): void;
  warpPlaces(src: number, width: number, height: number, dst: number, n: number, places: number, table: number): void;
  fringeStart(src: number, plane: number, dst: number, bytes: number, n: number, parameters: number): void;
  extreme(
    src: number,
    scratch: number,
    dst: number,
    width: number,
    height: number,
    stride: number,
    radius: number,
    greatest: boolean,
  ): void;
  fringeEnd(
    planes: number,
    bytes: number,
    purple: number,
    green: number,
    high: number,
    low: number,
    dst: number,
    plane: number,
    n: number,
    parameters: number,
    purpleShare: number,
    greenShare: number,
  ): void;
  lensPlaces(places: number, n: number, parameters: number, radial: number): void;
  radialGain(r: number, g: number, b: number, n: number, places: number, cx: number, cy: number, unit: number, gain: number): void;
  encode(
    r: number,
    g: number,
    b: number,
    n: number,
    parameters: number,
    dst: number,
    x: number,
    y: number,
    seed: number,
    bytes: number,
  ): void;
  develop(lights: number, side: number, faces: number, p: number, curves: number, last: number, dst: number): void;
  throughDyes(of: number, n: number, grid: number, side: number, p: number): void;
  printed(of: number, n: number, curves: number, last: number, p: number): void;
  pictured(of: number, n: number, p: number, dst: number): void;
  gradientShare: RowShare;
  radialShare: RowShare;
  outlineShare: RowShare;
  spreadRow(a: number, b: number, t: number, n: number, dst: number): void;
  strokeShare(dst: number, near: number, n: number, p: number, start: number, step: number, y: number): void;
  toneShare: LightShare;
  colourShare: LightShare;
  fieldShare(r: number, g: number, b: number, dst: number, n: number, p: number, rows: number, stride: number): void;
  maskWith(mask: number, share: number, n: number, mode: number, opacity: number, inverted: number): void;
  maskOver(mask: number, n: number): void;
  maskGrey(mask: number, r: number, g: number, b: number, n: number): void;
  maskMix(r: number, g: number, b: number, o: number, p: number, q: number, mask: number, n: number): void;
  draftPlaces(r: number, g: number, b: number, n: number, spacing: number, dst: number): void;
  draft(src: number, n: number, table: number, dst: number): void;
  demosaicRow(
    src: number,
    rows: number,
    bytes: number,
    y: number,
    n: number,
    phase: number,
    levels: number,
    back: number,
    own: number,
    green: number,
    other: number,
  ): void;
  relax(v: number, wanted: number, share: number, spans: number, stride: number, rows: number, colour: number): void;
  leftOver(v: number, wanted: number, share: number, stride: number, small: number, spans: number, smallStride: number, rows: number): void;
  addFound(v: number, share: number, spans: number, stride: number, rows: number, small: number, smallStride: number): void;
  bend(v: number, dst: number, share: number, spans: number, stride: number, rows: number): number;
  product(a: number, b: number, spans: number, stride: number, rows: number): number;
  added(dst: number, a: number, amount: number, b: number, spans: number, stride: number, rows: number): number;
  patchCosts(planes: number, width: number, height: number, targets: number, count: number, field: number, cost: number): void;
  patchPass(
    planes: number,
    width: number,
    height: number,
    fits: number,
    targets: number,
    count: number,
    field: number,
    cost: number,
    backwards: boolean,
    wander: number,
    state: number,
  ): void;
  patchVote(planes: number, width: number, height: number, targets: number, count: number, field: number, says: number, dst: number): void;
  halve(row0: number, row1: number, dst: number, width: number): void;
};

/** The compiled kernels with their memory. Work areas are lent one at a time from a fixed place. */
export interface Kernels {
  exports: KernelExports;
  /** Makes room for so many bytes and returns their address (16-byte aligned); what was reserved before is given up. */
  reserve(bytes: number): number;
  f32(): Float32Array;
  u16(): Uint16Array;
  u8(): Uint8Array;
}

const page = 65536;

/** Memory of kernels: bytes that can become more, so many pages of 65,536 at a time. */
export interface KernelMemory {
  readonly buffer: ArrayBuffer;
  grow(pages: number): unknown;
}
/** Kernels over the memory they work on. */
export const kernelsOn = (exports: KernelExports, memory: KernelMemory): Kernels => ({
  exports,
  reserve(bytes) {
    const missing = page + bytes + page - memory.buffer.byteLength;
    if (missing > 0) memory.grow(Math.ceil(missing / page));
    return page;
  },
  f32: () => new Float32Array(memory.buffer),
  u16: () => new Uint16Array(memory.buffer),
  u8: () => new Uint8Array(memory.buffer),
});

/** Instantiates kernels.wasm. */
export async function loadKernels(wasm: WebAssembly.Module | BufferSource): Promise<Kernels> {
  const module = wasm instanceof WebAssembly.Module ? wasm : await WebAssembly.compile(wasm);
  const abort = (): never => {
    throw new Error('a kernel stopped');
  };
  const { exports } = await WebAssembly.instantiate(module, { env: { abort } });
  return kernelsOn(exports as unknown as KernelExports, exports['memory'] as WebAssembly.Memory);
}
