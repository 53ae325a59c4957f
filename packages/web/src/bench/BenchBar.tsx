import { number } from '@dyepot/core';
import { Button } from '@chakra-ui/react';
import { memo } from 'react';
import { useShortcut } from '../kit/useShortcut.ts';
import { Link } from 'react-router';
import { NumberControl } from '../kit/NumberControl.tsx';
import { TopBar } from '../kit/TopBar.tsx';
import { UndoRedo } from '../kit/UndoRedo.tsx';
import { useAppDispatch, useAppSelector } from '../store.ts';
import type { Shoot } from '../types.ts';
import { act, docOf, isEdited } from './benchSlice.ts';
import { RevisionMenu } from './RevisionMenu.tsx';
import type { SavingHand } from './useSavingLook.tsx';

const strength = number('Look strength', '%', 0, 200, 100, 1, 0);

/** What can be done with the look as a whole. */
export const BenchBar = memo(function BenchBar({
  shoot,
  saving,
  onBake,
}: {
  shoot: Shoot;
  saving: SavingHand;
  onBake: () => void;
}): React.JSX.Element {
  const dispatch = useAppDispatch(),
    name = useAppSelector((s) => s.bench.look.name),
    share = useAppSelector((s) => s.bench.look.strength),
    lookId = useAppSelector((s) => s.bench.lookId),
    revision = useAppSelector((s) => s.bench.revision),
    edited = useAppSelector((s) => isEdited(s.bench)),
    last = useAppSelector((s) => docOf(s.bench).past.at(-1)?.words),
    next = useAppSelector((s) => docOf(s.bench).future.at(-1)?.words);
  useShortcut('mod+s', () => void saving.save(), { preventDefault: true });
  return (
    <TopBar
      page={`${name}, on the Bench`}
      title={<span data-testid="look-name">{name}</span>}
      note={
        <>
          {lookId === null ? (
            <span data-testid="look-state">not saved yet</span>
          ) : (
            <RevisionMenu lookId={lookId} revision={revision} edited={edited} />
          )}{' '}
          on{' '}
          <Link to={`/shoots/${shoot.id}`} title={shoot.name}>
            {shoot.name}
          </Link>
        </>
      }
    >
      <div className="look-strength">
        <NumberControl
          parameter={strength}
          value={Math.round(share * 1000) / 10}
          onChange={(v, gesture) => dispatch(act.lookStrengthSet({ strength: v / 100, gesture: `look-${gesture}` }))}
        />
      </div>
      <UndoRedo undoes={last} redoes={next} onUndo={() => dispatch(act.undone())} onRedo={() => dispatch(act.redone())} />
      <Button size="xs" variant="outline" title="As a lookup table for other programs" onClick={onBake}>
        Bake…
      </Button>
      <Button size="xs" variant="outline" onClick={() => saving.saveAs()}>
        Save as…
      </Button>
      <Button
        size="xs"
        variant="outline"
        title="Ctrl S"
        disabled={lookId !== null && !edited}
        loading={saving.busy}
        onClick={() => void saving.save()}
      >
        {lookId === null ? 'Save look' : 'Save revision'}
      </Button>
      <Button size="xs" colorPalette="dye" title={`${shoot.name} wears this look from now on`} onClick={() => void saving.apply()}>
        Apply to shoot
      </Button>
    </TopBar>
  );
});
