import type { Lane, StepKind } from '@dyepot/core';
import { Plus } from 'lucide-react';
import { cloneElement, useState } from 'react';
import { useFetched } from '../kit/useFetched.ts';
import { useKeptFocus } from '../kit/useKeptFocus.ts';

const load = (): Promise<typeof import('./PalettePopover.tsx')> => import('./PalettePopover.tsx');

/** The button at a lane's end, and what it opens: its code is fetched when the page has settled, or when the button is pointed at. */
export function Palette(props: { lane: Lane; kinds: readonly StepKind[]; onAdd: (kind: string) => void }): React.JSX.Element {
  const [piece, fetchNow] = useFetched(load),
    [pressed, setPressed] = useState(false),
    words = `Add a step to the ${props.lane} lane`;
  const ref = useKeptFocus(piece !== null && !pressed);
  const trigger = (
    <button ref={ref} type="button" className="lane-add" aria-label={words} title={words}>
      <Plus size={16} aria-hidden />
    </button>
  );
  if (piece) return <piece.PalettePopover {...props} trigger={trigger} pressed={pressed} />;
  return cloneElement(trigger, {
    'aria-haspopup': 'dialog',
    onPointerEnter: fetchNow,
    onFocus: fetchNow,
    onClick: () => {
      setPressed(true);
      fetchNow();
    },
  } as React.ButtonHTMLAttributes<HTMLButtonElement>);
}
