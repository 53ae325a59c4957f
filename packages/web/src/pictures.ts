import type { Rendition } from '@dyepot/core';
import type { Frame } from './types.ts';

/** Address of a frame's rendered picture under a look. */
export function pictureUrl(
  frame: { id: number; groundStamp?: string },
  look: { id: number; revision: number } | null,
  edge: 360 | 720 | 1080 = 720,
  rendition: Rendition = 'plain',
): string {
  return `/api/frames/${frame.id}/picture?edge=${edge}${look ? `&look=${look.id}&revision=${look.revision}` : ''}${frame.groundStamp ? `&v=${frame.groundStamp}` : ''}${look === null && rendition !== 'plain' ? `&r=${rendition}` : ''}`;
}
/** Address of a frame's rendered picture under a look; under its own where it has one. */
export function sheetPictureUrl(
  frame: Frame,
  look: { id: number; revision: number } | null,
  edge: 360 | 720 | 1080,
  rendition: Rendition,
): string {
  return pictureUrl(frame, frame.look ?? look, edge, rendition);
}
