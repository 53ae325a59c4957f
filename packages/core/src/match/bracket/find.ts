/** A frame as far as it may be one exposure of a bracket. */
export interface Candidate {
  /** when it was taken, in milliseconds; null where that is not known */
  takenAt: number | null;
  /** light let in as the settings say it, EV; and how long that took, in seconds */
  ev: number;
  shutterSeconds: number;
  /** what is the same for all exposures of a bracket: camera, lens, focal length, size */
  alike: string;
}
/** How long after one exposure's end the next of a bracket begins, at most, in seconds; and how far two must lie apart, in EV. */
const pause = 4,
  apart = 0.4;

/** Light let in as the settings say it: log₂ of time times sensitivity over the square of the f-number. Null where they do not. */
export function lightLetIn({ shutterSeconds, iso, aperture }: { shutterSeconds: number; iso: number; aperture: number }): number | null {
  return shutterSeconds > 0 && iso > 0 && aperture > 0 ? Math.log2((shutterSeconds * iso) / 100 / aperture ** 2) : null;
}

/** Runs of frames that were taken shortly after one another with several exposures, by their places in the list. Where an exposure comes again the next bracket begins. */
export function bracketsAmong(frames: readonly Candidate[]): number[][] {
  const inTime = frames
      .map((f, i) => ({ ...f, i }))
      .filter((f): f is typeof f & { takenAt: number } => f.takenAt !== null)
      .sort((a, b) => a.takenAt - b.takenAt || a.i - b.i),
    runs: (typeof inTime)[] = [];
  for (const f of inTime) {
    const run = runs[runs.length - 1],
      last = run?.[run.length - 1],
      soon = last && f.takenAt - last.takenAt <= (pause + last.shutterSeconds) * 1000;
    if (run && soon && last.alike === f.alike && run.every((r) => Math.abs(r.ev - f.ev) >= apart)) run.push(f);
    else runs.push([f]);
  }
  return runs.filter((r) => r.length > 1).map((r) => r.map((f) => f.i));
}
