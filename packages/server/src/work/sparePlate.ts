import type { Plate } from '@dyepot/core/src/plate/plate.ts';

/** How long planes are kept for the next frame, in milliseconds. */
const keptMs = 3000;
let spare: Plate['data'] | null = null,
  forgetting: NodeJS.Timeout | undefined;

/** Planes of the last frame's plate, to be written over: memory that is new to a process costs more than filling it. */
export function spareData(): Plate['data'] | null {
  const given = spare;
  clearTimeout(forgetting);
  spare = null;
  return given;
}
/** Keeps the planes of a plate that nothing needs any more, for a frame that comes soon. */
export function giveBack({ data }: Plate): void {
  clearTimeout(forgetting);
  spare = data;
  forgetting = setTimeout(() => (spare = null), keptMs);
  forgetting.unref();
}
