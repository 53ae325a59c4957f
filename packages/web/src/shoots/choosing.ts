import type { Frame } from '../types.ts';

/** Words a frame can be marked with, and the colour each shows as. */
export const marks = [
  { mark: 'ask', words: 'ask the client', colour: '#d9b23c' },
  { mark: 'retouch', words: 'to be retouched', colour: '#5aa0c8' },
  { mark: 'cover', words: 'for the cover', colour: '#d0587e' },
  { mark: 'web', words: 'for the web', colour: '#62a860' },
] as const;

/** What of a shoot is shown, and in which order. */
export interface Filter {
  rating: number | 'rejected' | 'not rejected' | null;
  mark: string | null;
  light: string | null;
  camera: string | null;
  ground: 'done' | 'not yet' | null;
  words: string;
  order: 'name' | 'time' | 'rating' | 'iso';
}
export const everything: Filter = { rating: null, mark: null, light: null, camera: null, ground: null, words: '', order: 'name' };
export const filters = (f: Filter): boolean => JSON.stringify({ ...f, order: 'name' }) !== JSON.stringify(everything);

/** The frames a filter lets through, in its order. */
export function through(frames: readonly Frame[], f: Filter): Frame[] {
  const words = f.words.trim().toLowerCase(),
    shown = frames.filter(
      (frame) =>
        (f.rating === null ||
          (f.rating === 'rejected' ? frame.rating < 0 : f.rating === 'not rejected' ? frame.rating >= 0 : frame.rating >= f.rating)) &&
        (f.mark === null || frame.mark === f.mark) &&
        (f.light === null || frame.light === f.light) &&
        (f.camera === null || frame.camera === f.camera) &&
        (f.ground === null || (frame.groundwork !== null) === (f.ground === 'done')) &&
        (words === '' || `${frame.name} ${frame.light} ${frame.camera} ${frame.lens} iso ${frame.exif.iso}`.toLowerCase().includes(words)),
    );
  const by: Record<Filter['order'], (a: Frame, b: Frame) => number> = {
    name: () => 0,
    time: (a, b) => (a.exif.takenAt ?? '').localeCompare(b.exif.takenAt ?? ''),
    rating: (a, b) => b.rating - a.rating,
    iso: (a, b) => a.exif.iso - b.exif.iso,
  };
  return f.order === 'name' ? shown : [...shown].sort(by[f.order]);
}
