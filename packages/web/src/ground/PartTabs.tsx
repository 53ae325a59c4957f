import { plainGroundwork, temperatureOfBalance, type Groundwork } from '@dyepot/core';
import { Rove } from '../kit/Rove.tsx';
import { useAppDispatch } from '../store.ts';
import type { Frame } from '../types.ts';
import { groundAct, type Part } from './groundSlice.ts';
import { partNames } from './GroundTray.tsx';
import { summary } from './useGroundwork.ts';

const parts: Part[] = ['repair', 'light', 'colours', 'exposure', 'zones', 'ends', 'geometry', 'lens', 'detail'];

const repaired = (count: number): string => (count === 0 ? 'Nothing yet' : count === 1 ? 'one place' : `${count} places`);

/** The parts of the groundwork in their order, each with what it is set to. */
export function PartTabs({ frame, ground, part }: { frame: Frame; ground: Groundwork; part: Part }): React.JSX.Element {
  const dispatch = useAppDispatch(),
    asShot = temperatureOfBalance(plainGroundwork.balance, frame.profile);
  return (
    <div className="chain parts">
      <Rove className="part-tabs" role="tablist" aria-label="Parts of the groundwork">
        {parts.map((p) => (
          <button
            key={p}
            type="button"
            role="tab"
            aria-selected={p === part}
            className={p === part ? 'selected' : ''}
            onClick={() => dispatch(groundAct.partChosen(p))}
          >
            <b>{partNames[p][0]}</b>
            <small>{p === 'repair' ? repaired(frame.repairCount) : summary(ground, p, asShot, frame.fileLens)}</small>
          </button>
        ))}
      </Rove>
      <p className="dim">Groundwork belongs to the frame, never to the look. Shift-click the picture (or Enter on it) pins a probe.</p>
    </div>
  );
}
