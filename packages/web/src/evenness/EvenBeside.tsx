import { useShootQuery } from '../api.ts';
import type { Shoot } from '../types.ts';
import { EvenMark, EvenMarksOf, useEvenMarks } from './evenMarks.tsx';

function Marked({ shoot, id }: { shoot: Shoot; id: number }): React.JSX.Element {
  return (
    <EvenMarksOf value={useEvenMarks(shoot)}>
      <EvenMark id={id} />
    </EvenMarksOf>
  );
}
/** The mark of one frame that stands by itself, outside a page that marks all of a shoot's. */
export default function EvenBeside({ shootId, id }: { shootId: number; id: number }): React.JSX.Element | null {
  const { data } = useShootQuery(shootId);
  return data ? <Marked shoot={data} id={id} /> : null;
}
