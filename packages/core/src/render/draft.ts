import type { Kernels } from '../kernels/kernels.ts';
import { layOut } from './arena.ts';
import { isFieldPass, isPointwise, openAfter, samePass, type Pass, type Plan } from './pass.ts';
import { render, type Planes } from './render.ts';

/** Nodes along an edge of a draft's table. */
const side = 25,
  nodeCount = side ** 3,
  /** nodes computed at once are a picture of rows this wide */ rowWidth = 64;
/** Bytes before a table's codes, and how much a code counts in it. */
const head = 64,
  codeScale = 128;
/** Light under black that a table still tells apart, and what is added before the logarithm; tuned so that darks and colours outside Rec.2020 keep their share of nodes. */
const least = -0.004,
  offset = 0.008;

/** Everything after the first passes of a plan, encoding included, as one table of codes over light. It fills as pictures ask for its nodes. */
export interface DraftTable {
  /** without what waits until the hand rests */
  plan: Plan;
  count: number;
  most: number;
  /** all that comes after the first passes */
  passes: readonly Pass[];
  /** as the kernel reads it: where the corners of a cell lie, then four 16-bit numbers a node, red fastest */
  bytes: Uint8Array;
  /** which nodes are there */
  filled: Uint8Array;
}
/** Where the colours of a picture lie in tables of one reach: eight bytes a pixel as the kernel reads them, and the nodes round them. */
export interface DraftPlaces {
  bytes: Uint8Array<ArrayBuffer>;
  nodes: Uint16Array;
}

/** How many passes two plans begin with in common; −1 when already the scene stage differs. */
export function commonPasses(a: Plan, b: Plan): number {
  if (a.scene.length !== b.scene.length || a.scene.some((v, i) => v !== b.scene[i])) return -1;
  let i = 0;
  while (i < a.passes.length && i < b.passes.length && samePass(a.passes[i]!, b.passes[i]!)) i++;
  return i;
}
/** The last place up to `count` passes where the planes are light: nothing is put aside, and they are not in OKLab, behind a logarithm or places in a cube. */
export function lightPlace(passes: readonly Pass[], count: number): number {
  let at = 0,
    inLab = false;
  for (let i = 1; i <= count; i++) {
    const { kernel } = passes[i - 1]!;
    if (kernel === 'toLab') inLab = true;
    if (kernel === 'fromLab') inLab = false;
    if (!inLab && kernel !== 'acescct' && kernel !== 'filmPlaces' && openAfter(passes.slice(0, i)) === 0) at = i;
  }
  return at;
}
/** Whether what comes after the first passes acts on every place alike, so that a table can stand for it. Grain does not, but can wait until the hand rests. */
export const draftable = (plan: Plan, count: number): boolean => plan.passes.slice(count).every((p) => isPointwise(p) || isFieldPass(p));

/** How an axis is spaced: scene light by stops (power 0), a picture's about as it will be encoded. */
interface Spacing {
  power: number;
  scale: number;
  shift: number;
}
const spacingTo = (most: number): Spacing => {
  const power = most <= reaches[0]! ? 1 / 2.4 : 0,
    curve = (light: number): number => (power > 0 ? (light + offset) ** power : Math.log2(light + offset)),
    low = curve(least),
    scale = (side - 1) / (curve(most) - low);
  return { power, scale, shift: -low * scale };
};
/** The light at a node, by its place on an axis. */
function lightAt(i: number, { power, scale, shift }: Spacing): number {
  const curved = (i - shift) / scale;
  return (power > 0 ? curved ** (1 / power) : 2 ** curved) - offset;
}

/** How far tables reach: paper white, the light of most scenes, of lamps, of the sun. Few, so that pictures share them. */
const reaches = [1.25, 16, 256, 4096];
/** The reach that some planes need. */
export function mostLight(planes: Planes): number {
  let most = 0;
  for (let i = 0; i < planes.length; i++) if (planes[i]! > most) most = planes[i]!;
  return reaches.find((r) => r >= most) ?? reaches[reaches.length - 1]!;
}

/** Bytes from a node to the next along each axis, and from a cell's first corner to its last. */
const steps = [8, 8 * side, 8 * side * side] as const,
  far = steps[0] + steps[1] + steps[2];

/** A table of what comes after the first `count` passes, nothing in it yet; those have to be `draftable`. */
export function draftTable(plan: Plan, count: number, most: number): DraftTable {
  const bytes = new Uint8Array(head + nodeCount * 8),
    corners = new Uint32Array(bytes.buffer, 0, 13);
  corners[12] = far;
  for (let order = 0; order < 6; order++) {
    const first = order >> 1,
      left = [0, 1, 2].filter((axis) => axis !== first);
    corners[order * 2] = steps[first]!;
    corners[order * 2 + 1] = far - steps[left[order & 1]!]!;
  }
  return {
    plan: { ...plan, passes: plan.passes.filter((p, i) => i < count || !isFieldPass(p)) },
    count,
    most,
    passes: plan.passes.slice(count),
    bytes,
    filled: new Uint8Array(nodeCount),
  };
}
/** Computes those of some nodes that a table lacks. */
function fill(kernels: Kernels, table: DraftTable, nodes: Uint16Array): void {
  const { plan, count, most, filled } = table,
    missing = nodes.filter((node) => filled[node] === 0),
    width = rowWidth,
    height = Math.ceil(missing.length / width);
  if (height === 0) return;
  const axis = Float32Array.from({ length: side }, (_, i) => lightAt(i, spacingTo(most))),
    pixels = width * height,
    planes = new Float32Array(pixels * 3),
    codesInto = new Int16Array(table.bytes.buffer, head);
  missing.forEach((node, i) => {
    planes[i] = axis[node % side]!;
    planes[pixels + i] = axis[Math.floor(node / side) % side]!;
    planes[2 * pixels + i] = axis[Math.floor(node / side / side)]!;
  });
  const plate = { width, height, data: new Uint16Array() },
    codes = new Uint16Array(render(kernels, plan, plate, { x: 0, y: 0 }, 'rgb16', { planes, count }).buffer);
  missing.forEach((node, i) => {
    for (let c = 0; c < 3; c++) codesInto[node * 4 + c] = Math.round((codes[i * 3 + c]! / 257) * codeScale);
    codesInto[node * 4 + 3] = 255 * codeScale;
    filled[node] = 1;
  });
}
/** Whether a table stands for what comes after the first passes of a plan. */
export const standsFor = (table: DraftTable, plan: Plan, count: number): boolean =>
  table.plan.space === plan.space &&
  table.passes.length === plan.passes.length - count &&
  table.passes.every((p, i) => samePass(p, plan.passes[count + i]!));

const tilePixels = 16384;
/** Where the colours of planes lie in tables of a reach. They stay while the hand moves what comes after. */
export function draftPlaces(kernels: Kernels, planes: Planes, pixels: number, most: number): DraftPlaces {
  const plane = tilePixels * 4,
    at = layOut(kernels, { planes: plane * 3, out: tilePixels * 8, numbers: 32 }),
    { power, scale, shift } = spacingTo(most),
    bytes = new Uint8Array(pixels * 8);
  kernels.f32().set([side, offset, scale, shift, power], at.numbers / 4);
  for (let first = 0; first < pixels; first += tilePixels) {
    const n = Math.min(tilePixels, pixels - first),
      f32 = kernels.f32();
    for (let c = 0; c < 3; c++) f32.set(planes.subarray(c * pixels + first, c * pixels + first + n), (at.planes + c * plane) / 4);
    kernels.exports.draftPlaces(at.planes, at.planes + plane, at.planes + 2 * plane, n, at.numbers, at.out);
    bytes.set(kernels.u8().subarray(at.out, at.out + n * 8), first * 8);
  }
  return { bytes, nodes: nodesOf(bytes) };
}
/** The corners of every cell that places lie in. */
function nodesOf(bytes: Uint8Array<ArrayBuffer>): Uint16Array {
  const words = new Uint32Array(bytes.buffer),
    wanted = new Uint8Array(nodeCount);
  // a place's first word is eight times its cell's first corner, and an order under eight
  for (let i = 0; i < words.length; i += 2) wanted[words[i]! >>> 3] = 1;
  for (let node = nodeCount - 1; node >= 0; node--)
    if (wanted[node] === 1) for (let corner = 1; corner < 8; corner++) wanted[node + cornerAt(corner)] ||= 2;
  return Uint16Array.from(wanted.keys()).filter((node) => wanted[node] !== 0);
}
/** How many nodes further on a corner of a cell lies: its three bits are the axes. */
const cornerAt = (corner: number): number => (corner & 1) + ((corner >> 1) & 1) * side + (corner >> 2) * side * side;

/** Draws places through a table: RGBA, without dither. A picture for the moment, within a code or two of what the passes give. */
export function renderDraft(kernels: Kernels, table: DraftTable, { bytes, nodes }: DraftPlaces): Uint8Array<ArrayBuffer> {
  fill(kernels, table, nodes);
  const pixels = bytes.length / 8,
    at = layOut(kernels, { places: tilePixels * 8, out: tilePixels * 4, numbers: table.bytes.length }),
    into = new Uint8Array(pixels * 4);
  kernels.u8().set(table.bytes, at.numbers);
  for (let first = 0; first < pixels; first += tilePixels) {
    const n = Math.min(tilePixels, pixels - first),
      u8 = kernels.u8();
    u8.set(bytes.subarray(first * 8, (first + n) * 8), at.places);
    kernels.exports.draft(at.places, n, at.numbers, at.out);
    into.set(u8.subarray(at.out, at.out + n * 4), first * 4);
  }
  return into;
}
