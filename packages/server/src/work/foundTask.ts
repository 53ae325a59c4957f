import type { RawFacts } from '@dyepot/core/src/plate/mosaic.ts';
import { drawPlate, guideDrawing, type GuideDrawing } from '@dyepot/core/src/plan/draw.ts';
import { plan } from '@dyepot/core/src/plan/plan.ts';
import type { Groundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import { common, type FigurePart } from '@dyepot/core/src/mask/mask.ts';
import { featuresOf } from '@dyepot/core/src/render/found/features.ts';
import { cutOut } from '@dyepot/core/src/render/found/figure.ts';
import { findIn } from '@dyepot/core/src/render/found/found.ts';
import { regions, type Region } from '@dyepot/core/src/render/maskPlan.ts';
import { halvePlate, type Plate } from '@dyepot/core/src/plate/plate.ts';
import { developPlanes, type Planes } from '@dyepot/core/src/render/render.ts';
import { decodePlate, drawn, seedOf } from './frameAsDrawn.ts';
import { personIn } from './personIn.ts';
import { kernels } from './ownKernels.ts';
import { readPlate } from './plates.ts';

/** What was found of a region on a frame: how sure that is, and how much of the picture it takes (0–1). */
export type FoundOn = Readonly<Record<Region, { sure: number; share: number }>>;
/** A frame whose plates are drawn already. */
export interface PlatedFrame {
  folder: string;
  full: { width: number; height: number };
  facts: RawFacts;
  hash: string;
  groundwork: Groundwork | null;
}

interface SmallScene {
  small: GuideDrawing;
  plate: Plate;
  /** made when it is asked for */
  scene: () => Planes;
}
/** A frame's scene light, small. `read` gives the part of a plate that the drawing asks for, or the whole of it. */
async function smallScene(
  { full, facts, hash, groundwork }: Omit<PlatedFrame, 'folder'>,
  read: (of: GuideDrawing) => Plate | Promise<Plate>,
  whole = false,
): Promise<SmallScene> {
  const k = await kernels(),
    frame = drawn(full, facts),
    small = guideDrawing(groundwork, frame),
    source = await read(small),
    plate = drawPlate(k, whole ? { ...small, source: { x: 0, y: 0, width: source.width, height: source.height } } : small, source),
    p = plan(null, { profile: facts.profile, seed: seedOf(hash), groundwork, picture: frame }, 'srgb');
  let planes: Planes | null = null;
  const scene = (): Planes =>
    (planes ??= developPlanes(k, p, plate, 0, { x: 0, y: 0, whole: small.whole, edge: small.edge, film: small.film }));
  return { small, plate, scene };
}
const kept = (t: PlatedFrame): Promise<SmallScene> => smallScene(t, (small) => readPlate(t.folder, small.level, t.full, small.source));

/** Looks for all regions on a frame, in its small picture. */
export async function findRegions(t: PlatedFrame): Promise<FoundOn> {
  const { plate, scene } = await kept(t);
  return Object.fromEntries(
    regions.map((what) => {
      const { sure, shares } = findIn(plate, scene, what);
      return [what, { sure, share: sure < 0.5 ? 0 : shares.reduce((sum, v) => sum + v, 0) / shares.length }];
    }),
  ) as FoundOn;
}

/** A box on the picture: left, top, width, height in shares of its width and height. */
export type PictureBox = readonly [number, number, number, number];
/** Cuts out the thing in a box, in the frame's small picture. */
export const cutFigure = async (t: PlatedFrame & { box: PictureBox }): Promise<FigurePart> => figureIn(await kept(t), t.box);
/** The same of a file that no plates were drawn of. */
export async function cutFigureOf(t: { path: string; groundwork: Groundwork | null; box: PictureBox }): Promise<FigurePart> {
  const k = await kernels(),
    { facts, plate: full } = await decodePlate(t.path, false);
  const halved = ({ level }: GuideDrawing): Plate => {
    let plate = full;
    for (let i = 0; i < level; i++) plate = halvePlate(k, plate);
    return plate;
  };
  const scene = await smallScene({ full, facts, hash: '', groundwork: t.groundwork }, halved, true);
  return figureIn(scene, t.box);
}
/** Where a side of a box begins and ends, in pixels; what ends next to the picture's end ends there. */
function edges(from: number, long: number, size: number): [number, number] {
  const near = 0.006 * size,
    [a, b] = [Math.round(from * size), Math.round((from + long) * size)],
    first = a < near ? 0 : Math.min(size - 1, a);
  return [first, b > size - near ? size : Math.max(first + 1, b)];
}
async function figureIn({ small, plate, scene }: SmallScene, [left, top, wide, high]: PictureBox): Promise<FigurePart> {
  const { width, height } = plate,
    [x0, x1] = edges(left, wide, width),
    [y0, y1] = edges(top, high, height),
    [across, down] = [x1 - x0, y1 - y0],
    box = { x: x0, y: y0, width: across, height: down },
    likely = await personIn(scene(), width, height, box),
    is = cutOut(featuresOf(scene(), width, height), box, likely),
    map = Buffer.alloc(across * down);
  for (let y = 0; y < down; y++) for (let x = 0; x < across; x++) map[y * across + x] = 255 * is[(y0 + y) * width + x0 + x]!;
  // the small picture is as large as the frame at the drawing's scale: its pixels are so many shares of the film's long edge
  const { film, edge } = small;
  return {
    ...common,
    kind: 'figure',
    box: [film.left + x0 / edge, film.top + y0 / edge, across / edge, down / edge],
    width: across,
    height: down,
    data: map.toString('base64'),
  };
}
