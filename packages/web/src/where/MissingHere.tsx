import type { Frame } from '../types.ts';
import { useMissing } from './useFound.ts';

/** Which of the regions a step looks for are not on a frame; its light where all are. */
export const MissingHere = ({ frame, wanted }: { frame: Frame; wanted: string }): React.JSX.Element => (
  <>{useMissing(frame, wanted) || frame.light}</>
);
