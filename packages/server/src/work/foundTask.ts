import type { RawFacts } from '@dyepot/core/src/plate/mosaic.ts';
import { drawPlate, guideDrawing } from '@dyepot/core/src/plan/draw.ts';
import { plan } from '@dyepot/core/src/plan/plan.ts';
import type { Groundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import { findIn } from '@dyepot/core/src/render/found/found.ts';
import { regions, type Region } from '@dyepot/core/src/render/maskPlan.ts';
import { developPlanes, type Planes } from '@dyepot/core/src/render/render.ts';
import { drawn, seedOf } from './frameAsDrawn.ts';
import { kernels } from './ownKernels.ts';
import { readPlate } from './plates.ts';

/** What was found of a region on a frame: how sure that is, and how much of the picture it takes (0–1). */
export type FoundOn = Readonly<Record<Region, { sure: number; share: number }>>;

/** Looks for all regions on a frame, in its small picture. */
export async function findRegions(t: {
  folder: string;
  full: { width: number; height: number };
  facts: RawFacts;
  hash: string;
  groundwork: Groundwork | null;
}): Promise<FoundOn> {
  const k = await kernels(),
    frame = drawn(t.full, t.facts),
    small = guideDrawing(t.groundwork, frame),
    plate = drawPlate(k, small, await readPlate(t.folder, small.level, t.full, small.source)),
    p = plan(null, { profile: t.facts.profile, seed: seedOf(t.hash), groundwork: t.groundwork, picture: frame }, 'srgb');
  let planes: Planes | null = null;
  const scene = (): Planes =>
    (planes ??= developPlanes(k, p, plate, 0, { x: 0, y: 0, whole: small.whole, edge: small.edge, film: small.film }));
  return Object.fromEntries(
    regions.map((what) => {
      const { sure, shares } = findIn(plate, scene, what);
      return [what, { sure, share: sure < 0.5 ? 0 : shares.reduce((sum, v) => sum + v, 0) / shares.length }];
    }),
  ) as FoundOn;
}
