import { number } from '@dyepot/core';
import { Button, IconButton } from '@chakra-ui/react';
import { Redo2, Undo2 } from 'lucide-react';
import { memo } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { Link } from 'react-router';
import { messageOf, useApplyLookMutation, useSaveRevisionMutation } from '../api.ts';
import { complain, tell } from '../kit/notices.tsx';
import { NumberControl } from '../kit/NumberControl.tsx';
import { TopBar } from '../kit/TopBar.tsx';
import { store, useAppDispatch, useAppSelector } from '../store.ts';
import type { Shoot } from '../types.ts';
import { keys } from '../view/ViewTools.tsx';
import { act } from './benchSlice.ts';

const strength = number('Look strength', '%', 0, 200, 100, 1, 0);

/** What can be done with the look as a whole. */
export const BenchBar = memo(function BenchBar({
  shoot,
  onName,
  onBake,
}: {
  shoot: Shoot;
  onName: (as: 'new' | 'copy') => void;
  onBake: () => void;
}): React.JSX.Element {
  const dispatch = useAppDispatch(),
    [saveRevision, saving] = useSaveRevisionMutation(),
    [applyLook] = useApplyLookMutation(),
    name = useAppSelector((s) => s.bench.look.name),
    share = useAppSelector((s) => s.bench.look.strength),
    lookId = useAppSelector((s) => s.bench.lookId),
    revision = useAppSelector((s) => s.bench.revision),
    edited = useAppSelector((s) => s.bench.edited),
    last = useAppSelector((s) => s.bench.past[s.bench.past.length - 1]?.words),
    next = useAppSelector((s) => s.bench.future[s.bench.future.length - 1]?.words);
  const save = async (): Promise<{ id: number; revision: number } | null> => {
    const { lookId: id, look } = store.getState().bench;
    if (id === null) {
      onName('new');
      return null;
    }
    try {
      const saved = await saveRevision({ id, look }).unwrap();
      dispatch(act.revisionSaved({ lookId: saved.id, revision: saved.revision, name: saved.name }));
      tell(`${saved.name} saved as revision ${saved.revision}`);
      return saved;
    } catch (error) {
      complain(messageOf(error));
      return null;
    }
  };
  const applyToShoot = async (): Promise<void> => {
    const at = edited || lookId === null ? await save() : { id: lookId, revision: revision! };
    if (!at) return;
    try {
      await applyLook({ shootId: shoot.id, lookId: at.id, revision: at.revision }).unwrap();
      tell(`${shoot.name} now wears ${name}, revision ${at.revision}`);
    } catch (error) {
      complain(messageOf(error));
    }
  };
  useHotkeys('mod+s', () => void save(), { ...keys, preventDefault: true });
  return (
    <TopBar
      title={
        <div className="look-title">
          <b data-testid="look-name" title={name}>
            {name}
          </b>
          <small>
            <span data-testid="look-state">{revision === null ? 'not saved yet' : `revision ${revision}${edited ? ', edited' : ''}`}</span>{' '}
            on{' '}
            <Link to={`/shoots/${shoot.id}`} title={shoot.name}>
              {shoot.name}
            </Link>
          </small>
        </div>
      }
    >
      <div className="look-strength">
        <NumberControl
          parameter={strength}

          value={Math.round(share * 1000) / 10}
          onChange={(v, gesture) => dispatch(act.lookStrengthSet({ strength: v / 100, gesture: `look-${gesture}` }))}
        />
      </div>
      <IconButton
        aria-label={last ? `Undo ${last}` : 'Undo'}
        title={last ? `Undo ${last}` : 'Nothing to undo'}
        size="xs"
        variant="ghost"
        disabled={!last}
        onClick={() => dispatch(act.undone())}
      >
        <Undo2 size={16} />
      </IconButton>
      <IconButton
        aria-label="Redo"
        title={next ? `Redo ${next}` : 'Nothing to redo'}
        size="xs"
        variant="ghost"
        disabled={!next}
        onClick={() => dispatch(act.redone())}
      >
        <Redo2 size={16} />
      </IconButton>
      <Button size="xs" variant="outline" title="As a lookup table for other programs" onClick={onBake}>
        Bake…
      </Button>
      <Button size="xs" variant="outline" onClick={() => onName('copy')}>
        Save as…
      </Button>
      <Button size="xs" variant="outline" disabled={lookId !== null && !edited} loading={saving.isLoading} onClick={() => void save()}>
        {lookId === null ? 'Save look' : 'Save revision'}
      </Button>
      <Button size="xs" colorPalette="dye" onClick={() => void applyToShoot()}>
        Apply to shoot
      </Button>
    </TopBar>
  );
});
