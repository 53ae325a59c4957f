import { colours, corners } from './colours';
import { differenceAcross, differenceAlong, estimateAcross, estimateAlong, green, level, row, smoothAcross, smoothAlong } from './green';

// Rings of sixteen rows, one after another; then single rows. Every row has room for sixteen values before and after what
// is worked on. core's plate/demosaic.ts lays them out in this order.
const MOSAIC = 0, ALONG = 1, SMOOTH = 2, MISFIT = 3, X_ACROSS = 4, V_ACROSS = 5, X_ALONG = 6, V_ALONG = 7, GREEN = 8, KNOWN = 9, OTHER = 10, RINGS = 11;

/**
 * Takes in row y of a Bayer mosaic (n counts, with what is mirrored beside them) and finishes row y − 12: each stage works on
 * the row whose neighbours have just become known. `phase` 1: even rows of the mosaic begin with green.
 * rows: the rings; bytes: of a row. levels: black of even, odd columns, gain of even, odd columns; back: gains of the finished row's
 * own colour, green, the other, and the offset. own, greenOut, other: where its 16-bit counts go.
 */
export function demosaicRow(src: usize, rows: usize, bytes: usize, y: i32, n: i32, phase: i32, levels: usize, back: usize, own: usize, greenOut: usize, other: usize): void {
  const ring = bytes << 4, singles = rows + ring * RINGS;
  const mosaic = rows + ring * MOSAIC, along = rows + ring * ALONG, smooth = rows + ring * SMOOTH, misfit = rows + ring * MISFIT;
  const xAcross = rows + ring * X_ACROSS, vAcross = rows + ring * V_ACROSS, xAlong = rows + ring * X_ALONG, vAlong = rows + ring * V_ALONG;
  const greens = rows + ring * GREEN, known = rows + ring * KNOWN, others = rows + ring * OTHER;

  level(src, row(mosaic, bytes, y), n, levels);
  differenceAcross(row(mosaic, bytes, y), singles, n, phase ^ (y & 1));
  smoothAcross(singles, singles + bytes, singles + 2 * bytes, n);
  estimateAcross(singles, singles + bytes, singles + 2 * bytes, row(xAcross, bytes, y), row(vAcross, bytes, y), n);
  const d = y - 2;
  differenceAlong(row(mosaic, bytes, d - 2), row(mosaic, bytes, d - 1), row(mosaic, bytes, d), row(mosaic, bytes, d + 1), row(mosaic, bytes, d + 2), row(along, bytes, d), n, phase ^ (d & 1));
  const s = y - 6;
  smoothAlong(along, bytes, s, row(smooth, bytes, s), row(misfit, bytes, s), n);
  const e = y - 9;
  estimateAlong(along, smooth, misfit, bytes, e, row(xAlong, bytes, e), row(vAlong, bytes, e), n);
  const g = y - 10;
  green(
    row(mosaic, bytes, g), row(xAcross, bytes, g), row(xAlong, bytes, g),
    row(vAcross, bytes, g - 1), row(vAcross, bytes, g), row(vAcross, bytes, g + 1),
    row(vAlong, bytes, g - 1), row(vAlong, bytes, g), row(vAlong, bytes, g + 1),
    row(greens, bytes, g), row(known, bytes, g), singles, bytes, n, phase ^ (g & 1),
  );
  const k = y - 11;
  corners(
    row(known, bytes, k - 1), row(known, bytes, k + 1),
    row(greens, bytes, k - 1), row(greens, bytes, k), row(greens, bytes, k + 1),
    row(others, bytes, k), n, phase ^ (k & 1),
  );
  const c = y - 12;
  colours(
    row(known, bytes, c - 1), row(known, bytes, c), row(known, bytes, c + 1),
    row(others, bytes, c - 1), row(others, bytes, c), row(others, bytes, c + 1),
    row(greens, bytes, c), own, greenOut, other, n, phase ^ (c & 1), back,
  );
}
