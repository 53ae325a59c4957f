import { layOut } from './arena.ts';
import { edgeOf, planeOf } from './filmPlane.ts';
import { borderMoved } from './found/border.ts';
import { featuresOf } from './found/features.ts';
import { foundIn } from './found/provided.ts';
import { boxMean, guidedFilter, type Guide } from './guided.ts';
import { hazeMap } from './hazeMap.ts';
import { logLight } from './logLight.ts';
import type { SmallPicture } from './smallPicture.ts';
import { readsWhole, type FieldWish, type FigureMap, type MaskPlan } from './maskPlan.ts';
import { drawMask, maskPlanes, numbersOf } from './maskTile.ts';
import type { Tile } from './tile.ts';

const logOf = ({ light, plate }: SmallPicture): Float32Array => logLight(light, plate.width * plate.height);
/** How a found region is laid on the picture's own edges: window in shares of the long edge, and the differences (EV) that are none. */
const laid = { window: 1 / 60, flat: 0.25 ** 2 };

/** A small map as a field over the picture's light, so that it follows its edges at every size (He, Sun, Tang 2010; the fast way: He, Sun 2015). */
export function laidOn(picture: SmallPicture, shares: Float32Array, window = laid.window, flat = laid.flat): Guide {
  const { width, height } = picture.plate;
  return guidedFilter(logOf(picture), shares, width, height, Math.max(1, Math.round(Math.max(width, height) * window)), flat);
}

function fieldOf(picture: SmallPicture, wish: FieldWish): Guide {
  const { width, height } = picture.plate;
  if (wish.of === 'haze') return hazeMap(picture.light, width, height);
  if (wish.of === 'figure') return laidOn(picture, figureOn(picture, wish.map));
  const { sure, shares } = foundIn(picture.plate, picture.scene, wish.of);
  // what is not surely there is nowhere
  return laidOn(picture, sure >= 0.5 ? shares : new Float32Array(shares.length));
}
/** A figure's map on the small picture. */
function figureOn({ plate, about }: SmallPicture, { box, width, height, shares }: FigureMap): Float32Array {
  const origin = { x: 0, y: 0, ...about },
    edge = edgeOf(origin, plate),
    film = planeOf(origin, plate);
  return Float32Array.from({ length: plate.width * plate.height }, (_, i) => {
    const x = ((film.left + ((i % plate.width) + 0.5) / edge - box[0]) / box[2]) * width - 0.5,
      y = ((film.top + (Math.floor(i / plate.width) + 0.5) / edge - box[1]) / box[3]) * height - 0.5;
    if (x < -0.5 || y < -0.5 || x > width - 0.5 || y > height - 0.5) return 0;
    const at = (column: number, row: number): number =>
        shares[Math.min(height - 1, Math.max(0, row)) * width + Math.min(width - 1, Math.max(0, column))]!,
      c = Math.floor(x),
      r = Math.floor(y),
      low = at(c, r) + (x - c) * (at(c + 1, r) - at(c, r)),
      high = at(c, r + 1) + (x - c) * (at(c + 1, r + 1) - at(c, r + 1));
    return (low + (y - r) * (high - low)) / 255;
  });
}

/** What a mask needs to know of the whole picture: its fields, or, where something is done with the whole of it, that alone. */
export function maskFields(picture: SmallPicture, mask: MaskPlan): Guide[] {
  if (!readsWhole(mask)) return [];
  if (mask.whole) return [wholeMask(picture, mask)];
  return mask.stages.flatMap(({ shape }) =>
    shape.kernel === 'fieldShare' ? [fieldOf(picture, shape.field)] : shape.kernel === 'nested' ? maskFields(picture, shape.mask) : [],
  );
}

/** A mask over a small picture, plane by plane of rows. */
export function maskOver({ kernels, plate, light, about }: SmallPicture, mask: MaskPlan, fields: readonly Guide[]): Float32Array {
  const { width, height } = plate,
    n = width * height,
    rows = Math.max(1, Math.min(height, Math.floor(16384 / width))),
    plane = (rows * width * 4 + 79) & ~15,
    at = layOut(kernels, {
      light: plane * 3,
      mask: maskPlanes(mask) * plane,
      fields: 2 * (width * 4 + 64) * 2,
      numbers: numbersOf(mask),
    }),
    out = new Float32Array(n);
  for (let y = 0; y < height; y += rows) {
    const tile: Tile = { width, count: Math.min(rows, height - y), y, plate },
      size = tile.count * width,
      f32 = kernels.f32();
    for (let c = 0; c < 3; c++) f32.set(light.subarray(c * n + y * width, c * n + y * width + size), (at.light + c * plane) / 4);
    const drawn = drawMask(
      {
        kernels,
        room: { planes: at.mask, plane, fields: at.fields, numbers: at.numbers },
        light: [at.light, at.light + plane, at.light + 2 * plane],
        tile,
        origin: { x: 0, y: 0, ...about },
      },
      mask,
      fields,
    );
    out.set(kernels.f32().subarray(drawn / 4, drawn / 4 + size), y * width);
  }
  return out;
}

/** The whole of a mask, drawn small, then snapped to edges, grown or shrunk, and feathered. */
function wholeMask(picture: SmallPicture, mask: MaskPlan): Guide {
  const { feather, grow, snap } = mask.whole!,
    bare = { ...mask, whole: null },
    { width, height } = picture.plate,
    edge = edgeOf({ x: 0, y: 0, ...picture.about }, picture.plate);
  let shares = maskOver(picture, bare, maskFields(picture, bare));
  if (grow !== 0) shares = grown(shares, width, height, grow * edge);
  if (feather > 0) shares = feathered(shares, width, height, feather * edge);
  if (snap > 0) return snapped(picture, shares, snap);
  return { width, height, slope: new Float32Array(width * height), offset: shares };
}
/** How far a snapped border may move, in shares of the long edge, where it snaps wholly; and in pixels at least. */
const [moves, leastMove] = [0.02, 2];
const within01 = (v: number): number => Math.min(1, Math.max(0, v));
/**
 * Snapped: borders moved to where colours part best, as far as it is snapped, and then laid on the picture's edges, so that they follow
 * them at every size. A border is where the share falls by most of what it is within the reach; slopes longer than that are none and stay.
 */
function snapped(picture: SmallPicture, shares: Float32Array, snap: number): Guide {
  const { width, height } = picture.plate,
    reach = Math.max(leastMove, snap * moves * Math.max(width, height)),
    [more, less] = [grown(shares, width, height, reach), grown(shares, width, height, -reach)],
    inside = borderMoved(
      featuresOf(picture.light, width, height),
      Uint8Array.from(shares, (v, i) => (v > more[i]! / 2 ? 1 : 0)),
      reach,
    ),
    // a little of it changes little
    begun = within01(snap / 0.1),
    moved = shares.map((v, i) => {
      const [high, low] = [more[i]!, less[i]!],
        falls = within01(((high - low) / Math.max(1e-6, high) - 0.4) / 0.4) * within01((high - low) / 0.2);
      return v + falls * ((inside[i] ? high : low) - v);
    }),
    { slope, offset } = laidOn(picture, moved, 0.008, 0.1 ** 2);
  return { width, height, slope: slope.map((v) => begun * v), offset: offset.map((v, i) => begun * v + (1 - begun) * shares[i]!) };
}
/** A Gaussian by three means over squares. */
function feathered(shares: Float32Array, width: number, height: number, deviation: number): Float32Array {
  const radius = Math.max(1, Math.round((Math.sqrt(4 * deviation * deviation + 1) - 1) / 2));
  let out = shares;
  for (let k = 0; k < 3; k++) out = boxMean(out, width, height, radius);
  return out;
}
/** Grown by so many pixels, or shrunk: the greatest, or least, of a disc, its rim counted by parts. */
function grown(shares: Float32Array, width: number, height: number, by: number): Float32Array {
  const radius = Math.abs(by),
    sign = by < 0 ? -1 : 1,
    reach = Math.ceil(radius),
    out = new Float32Array(shares.length),
    disc: (readonly [number, number, number])[] = [];
  for (let y = -reach; y <= reach; y++)
    for (let x = -reach; x <= reach; x++) {
      const part = Math.min(1, Math.max(0, radius - Math.hypot(x, y) + 1));
      if (part > 0) disc.push([x, y, part]);
    }
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const own = sign > 0 ? shares[y * width + x]! : 1 - shares[y * width + x]!;
      let most = own;
      for (const [dx, dy, part] of disc) {
        const v = shares[Math.min(height - 1, Math.max(0, y + dy)) * width + Math.min(width - 1, Math.max(0, x + dx))]!,
          there = sign > 0 ? v : 1 - v;
        if (there > most) most = Math.max(most, own + part * (there - own));
      }
      out[y * width + x] = sign > 0 ? most : 1 - most;
    }
  return out;
}
