import EvenBeside from '../evenness/EvenBeside.tsx';
import type { Frame } from '../types.ts';
import { useMissing } from './useFound.ts';

const Missing = ({ frame, wanted }: { frame: Frame; wanted: string }): React.JSX.Element => <>{useMissing(frame, wanted) || frame.light}</>;
/** Which of the regions a step looks for are not on a frame, its light where all are; and that it is not even with its light. */
export default function WitnessNote({ frame, wanted }: { frame: Frame; wanted: string }): React.JSX.Element {
  return (
    <>
      {wanted ? <Missing frame={frame} wanted={wanted} /> : frame.light}
      <EvenBeside shootId={frame.shootId} id={frame.id} />
    </>
  );
}
