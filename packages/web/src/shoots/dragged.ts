/** What frames are called while they are dragged. */
const kind = 'application/x-dyepot-frames';

export const dragFrames = (e: React.DragEvent, ids: readonly number[]): void => {
  e.dataTransfer.setData(kind, JSON.stringify(ids));
  e.dataTransfer.effectAllowed = 'move';
};
export const dragsFrames = (e: React.DragEvent): boolean => e.dataTransfer.types.includes(kind);
/** The frames that were dropped; none where something else was. */
export const framesDropped = (e: React.DragEvent): number[] => JSON.parse(e.dataTransfer.getData(kind) || '[]') as number[];
