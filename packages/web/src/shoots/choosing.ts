import { marks as words, type Mark } from '@dyepot/core';
import type { EvenMarks } from '../evenness/index.ts';
import type { Frame } from '../types.ts';

/** Words a frame can be marked with, and the colour each shows as. */
const colours: Readonly<Record<Mark, string>> = { ask: '#d9b23c', retouch: '#5aa0c8', cover: '#d0587e', web: '#62a860' };
export const marks = words.map((m) => ({ ...m, colour: colours[m.mark] }));

/** What of a shoot is shown, and in which order. */
export interface Filter {
  rating: number | 'rejected' | 'not rejected' | null;
  mark: string | null;
  light: string | null;
  camera: string | null;
  lens: string | null;
  ground: 'done' | 'not yet' | null;
  /** a look of its own, or the shoot's */
  look: 'own' | 'shoot' | null;
  /** trims and other steps of its own */
  trims: 'with' | 'without' | null;
  /** even with its light, or not, as far as that is known */
  even: 'even' | 'out' | null;
  words: string;
  order: 'name' | 'time' | 'rating' | 'iso' | 'even';
}
export const everything: Filter = {
  rating: null,
  mark: null,
  light: null,
  camera: null,
  lens: null,
  ground: null,
  look: null,
  trims: null,
  even: null,
  words: '',
  order: 'name',
};
export const filters = (f: Filter): boolean => JSON.stringify({ ...f, order: 'name' }) !== JSON.stringify(everything);

/** The frames a filter lets through, in its order. */
export function through(frames: readonly Frame[], f: Filter, { off, tolerance }: EvenMarks): Frame[] {
  const words = f.words.trim().toLowerCase(),
    shown = frames.filter(
      (frame) =>
        (f.rating === null ||
          (f.rating === 'rejected' ? frame.rating < 0 : f.rating === 'not rejected' ? frame.rating >= 0 : frame.rating >= f.rating)) &&
        (f.mark === null || frame.mark === f.mark) &&
        (f.light === null || frame.light === f.light) &&
        (f.camera === null || frame.camera === f.camera) &&
        (f.lens === null || frame.lens === f.lens) &&
        (f.look === null || (frame.look !== null) === (f.look === 'own')) &&
        (f.trims === null || (frame.steps !== null) === (f.trims === 'with')) &&
        (f.even === null || (off[frame.id] !== undefined && off[frame.id]! <= tolerance === (f.even === 'even'))) &&
        (f.ground === null || (frame.groundwork !== null) === (f.ground === 'done')) &&
        (words === '' ||
          `${frame.name} ${frame.light} ${frame.camera} ${frame.lens} iso ${frame.exif.iso} ${frame.exif.takenAt ?? ''}`
            .toLowerCase()
            .includes(words)),
    );
  const by: Record<Filter['order'], (a: Frame, b: Frame) => number> = {
    name: () => 0,
    time: (a, b) => (a.exif.takenAt ?? '').localeCompare(b.exif.takenAt ?? ''),
    rating: (a, b) => b.rating - a.rating,
    iso: (a, b) => a.exif.iso - b.exif.iso,
    even: (a, b) => (off[b.id] ?? -1) - (off[a.id] ?? -1),
  };
  return f.order === 'name' ? shown : [...shown].sort(by[f.order]);
}
