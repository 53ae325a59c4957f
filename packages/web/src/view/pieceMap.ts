import { levelSize, type Area } from '@dyepot/core';
import type { Box } from './layout.ts';
import type { Piece } from './frameJobs.ts';

/** A place of a picture, as fractions of it. */
export interface Place {
  x: number;
  y: number;
}

/** Where places of a picture lie: in the pixels of the piece that is drawn, and in the stage's box that it is drawn in. */
export function pieceMap(
  picture: { width: number; height: number },
  piece: Piece,
  box: Box,
): {
  inPiece: (at: Place) => Place | null;
  toStage: (at: Place) => { left: number; top: number } | null;
  toBox: (area: Area) => Box;
  /** the place under a pointer over the piece's canvas */
  fromClient: (canvas: HTMLCanvasElement, clientX: number, clientY: number) => Place | null;
} {
  const level = levelSize(picture.width, picture.height, piece.level);
  const inPiece = (at: Place): Place | null => {
    const x = at.x * level.width - piece.x,
      y = at.y * level.height - piece.y;
    return x >= 0 && y >= 0 && x < piece.width && y < piece.height ? { x, y } : null;
  };
  return {
    inPiece,
    toStage: (at) => {
      const p = inPiece(at);
      return p ? { left: box.left + (p.x / piece.width) * box.width, top: box.top + (p.y / piece.height) * box.height } : null;
    },
    toBox: ({ x, y, width, height }) => {
      const sx = (box.width / piece.width) * level.width,
        sy = (box.height / piece.height) * level.height,
        left = box.left - (piece.x / piece.width) * box.width,
        top = box.top - (piece.y / piece.height) * box.height;
      return { left: left + x * sx, top: top + y * sy, width: width * sx, height: height * sy };
    },
    fromClient: (canvas, clientX, clientY) => {
      const r = canvas.getBoundingClientRect(),
        x = (piece.x + ((clientX - r.left) / r.width) * piece.width) / level.width,
        y = (piece.y + ((clientY - r.top) / r.height) * piece.height) / level.height;
      return x >= 0 && y >= 0 && x <= 1 && y <= 1 ? { x, y } : null;
    },
  };
}
