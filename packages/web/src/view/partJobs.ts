import { dressed, drawingOf, grown, overlapOf, reachOf, type Area } from '@dyepot/core';
import { jobsOf, type Treatment, type Wish } from './frameJobs.ts';
import type { Job } from './renderWorker.ts';

/** A part of a piece to be painted by itself: the band that holds its plate, and where it goes on the piece. */
export interface PartJob {
  band: number;
  at: Area;
  job: Job;
}
/** What the workers have to do for a part of a piece (fractions of the picture), from the plates they hold for all of it. */
export function partJobs(wish: Wish & Treatment, count: number, only: Area): PartJob[] {
  const { frame, ground, look, steps = null, piece } = wish,
    reach = reachOf(dressed(look, steps)),
    { jobs } = jobsOf({ ...wish, readout: null }, wish, count),
    { whole, edge } = jobs[0]!.drawing,
    sought = grown(
      {
        x: Math.floor(only.x * whole.width),
        y: Math.floor(only.y * whole.height),
        width: Math.ceil(only.width * whole.width) + 1,
        height: Math.ceil(only.height * whole.height) + 1,
      },
      Math.ceil(reach * edge),
      whole,
    );
  return jobs.flatMap((job, band) => {
    const { shown, source } = job.drawing,
      part = overlapOf(shown, sought);
    if (!part) return [];
    const drawing = { ...drawingOf(ground, frame, piece.level, part, { reach }), source };
    return [{ band, at: { ...part, x: part.x - piece.x, y: part.y - piece.y }, job: { ...job, drawing, apart: true } }];
  });
}
