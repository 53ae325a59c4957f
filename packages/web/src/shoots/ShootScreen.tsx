import { Button, Input } from '@chakra-ui/react';
import { useEffect, useRef, useState } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import {
  messageOf,
  useApplyLookMutation,
  useJobsQuery,
  useRemoveFrameMutation,
  useSetLightMutation,
  useShootQuery,
  useUpdateShootMutation,
} from '../api.ts';
import { DeliverSheet } from '../deliveries/DeliverSheet.tsx';
import { complain, tell } from '../kit/notices.tsx';
import { Sheet } from '../kit/Sheet.tsx';
import { TopBar } from '../kit/TopBar.tsx';
import { Nothing, Waiting } from '../kit/Waiting.tsx';
import type { Frame, Shoot } from '../types.ts';
import { BringIn } from './BringIn.tsx';
import { ContactSheet } from './ContactSheet.tsx';
import { WorkPath } from './WorkPath.tsx';
import { LookSheet } from './LookSheet.tsx';
import { FindSheet } from './FindSheet.tsx';

export default function ShootScreen(): React.JSX.Element {
  const id = Number(useParams()['id']),
    { data: shoot, error } = useShootQuery(id);
  if (error)
    return (
      <div className="page">
        <TopBar />
        <Nothing title="This shoot cannot be shown" words={messageOf(error)}>
          <Button asChild size="sm">
            <Link to="/shoots">All shoots</Link>
          </Button>
        </Nothing>
      </div>
    );
  if (!shoot)
    return (
      <div className="page">
        <TopBar />
        <Waiting words="Opening the shoot…" />
      </div>
    );
  return <ShootPage shoot={shoot} />;
}

function ShootPage({ shoot }: { shoot: Shoot }): React.JSX.Element {
  const navigate = useNavigate(),
    [search, setSearch] = useSearchParams();
  const [selected, setSelected] = useState<ReadonlySet<number>>(new Set()),
    last = useRef<number | null>(null);
  const [sheet, setSheet] = useState<'bring' | 'deliver' | 'look' | null>(null),
    [finding, setFinding] = useState<Frame | null>(null),
    [light, setLight] = useState<string | null>(null);
  const { data: jobs } = useJobsQuery();
  const [updateShoot] = useUpdateShootMutation(),
    [removeFrame] = useRemoveFrameMutation(),
    [changeLight] = useSetLightMutation(),
    [applyLook] = useApplyLookMutation();
  useEffect(() => {
    if (search.has('bring')) {
      setSheet('bring');
      setSearch({}, { replace: true });
    }
  }, [search, setSearch]);
  const importing = jobs?.find((j) => j.kind === 'import' && j.shootId === shoot.id && (j.state === 'running' || j.state === 'waiting'));
  const troubled = jobs?.find((j) => j.kind === 'import' && j.shootId === shoot.id && j.state === 'done' && j.failed > 0);
  const lights = new Set(shoot.frames.map((f) => f.light)),
    chosen = shoot.frames.filter((f) => selected.has(f.id));
  const select = (id: number, how: 'one' | 'toggle' | 'range'): void => {
    if (how === 'range' && last.current !== null) {
      const ids = shoot.frames.map((f) => f.id),
        a = ids.indexOf(last.current),
        b = ids.indexOf(id);
      setSelected(new Set(ids.slice(Math.min(a, b), Math.max(a, b) + 1)));
      return;
    }
    last.current = id;
    setSelected((s) => {
      if (how === 'one') return s.size === 1 && s.has(id) ? new Set() : new Set([id]);
      const next = new Set(s);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  };
  const attempt = async (work: Promise<unknown>, words?: string): Promise<void> => {
    try {
      await work;
      if (words) tell(words);
    } catch (e) {
      complain(messageOf(e));
    }
  };
  const bench = (frame?: Frame): void => {
    void navigate(`/bench?shoot=${shoot.id}${frame ? `&frame=${frame.id}` : ''}${shoot.look ? `&look=${shoot.look.id}` : ''}`);
  };
  return (
    <div className="page">
      <TopBar title={<b>{shoot.name}</b>} note={`${shoot.frames.length} frames, ${lights.size} ${lights.size === 1 ? 'light' : 'lights'}`}>
        <Button size="xs" variant="outline" onClick={() => setSheet('bring')}>
          Bring raws in
        </Button>
        <Button size="xs" variant="outline" disabled={shoot.frames.length === 0} onClick={() => bench(chosen[0])}>
          Design a look
        </Button>
        <Button size="xs" colorPalette="dye" disabled={shoot.frames.length === 0} onClick={() => setSheet('deliver')}>
          Deliver {selected.size > 0 ? selected.size : shoot.frames.length}{' '}
          {(selected.size || shoot.frames.length) === 1 ? 'frame' : 'frames'}
        </Button>
      </TopBar>
      <WorkPath shoot={shoot} importing={importing} troubled={troubled} onLook={() => setSheet('look')} />
      {shoot.frames.length === 0 ? (
        importing ? (
          <Waiting words="Reading the first frames…" />
        ) : (
          <Nothing title="No frames yet" words="Name a folder of raw files on this machine, or drop files in.">
            <Button size="sm" colorPalette="dye" onClick={() => setSheet('bring')}>
              Bring raws in
            </Button>
          </Nothing>
        )
      ) : (
        <ContactSheet shoot={shoot} selected={selected} leadId={shoot.leadFrameId} onSelect={select} onOpen={bench} onFind={setFinding} />
      )}
      {chosen.length > 0 && (
        <div className="selection-bar" role="toolbar" aria-label="Chosen frames">
          <b>{chosen.length} chosen</b>
          <span>
            {chosen.length === 1
              ? `${chosen[0]!.camera}, ISO ${chosen[0]!.exif.iso}, 1/${Math.round(1 / chosen[0]!.exif.shutterSeconds)} s, f/${chosen[0]!.exif.aperture}`
              : ''}
          </span>
          {chosen.length === 1 && (
            <Button size="xs" variant="ghost" onClick={() => bench(chosen[0])}>
              Open on the bench
            </Button>
          )}
          {chosen.length === 1 && !chosen[0]!.missing && (
            <Button size="xs" variant="ghost" onClick={() => void navigate(`/ground?shoot=${shoot.id}&frame=${chosen[0]!.id}`)}>
              Groundwork
            </Button>
          )}
          {chosen.length === 1 && !chosen[0]!.missing && (
            <Button
              size="xs"
              variant="ghost"
              onClick={() => void attempt(updateShoot({ id: shoot.id, leadFrameId: chosen[0]!.id }).unwrap(), `${chosen[0]!.name} leads`)}
            >
              Make it the lead
            </Button>
          )}
          {chosen.length === 1 && chosen[0]!.missing && (
            <Button size="xs" variant="ghost" onClick={() => setFinding(chosen[0]!)}>
              Find the file…
            </Button>
          )}
          <Button size="xs" variant="ghost" onClick={() => setLight(chosen[0]!.light)}>
            Light…
          </Button>
          <Button
            size="xs"
            variant="ghost"
            onClick={() => {
              void attempt(Promise.all(chosen.map((f) => removeFrame(f.id).unwrap())), 'Taken out; the raw files stay');
              setSelected(new Set());
            }}
          >
            Take out
          </Button>
          <Button size="xs" variant="ghost" onClick={() => setSelected(new Set())}>
            Clear
          </Button>
        </div>
      )}
      {sheet === 'bring' && <BringIn shootId={shoot.id} onClose={() => setSheet(null)} />}
      {sheet === 'deliver' && (
        <DeliverSheet shoot={shoot} frameIds={selected.size > 0 ? [...selected] : null} onClose={() => setSheet(null)} />
      )}
      {sheet === 'look' && (
        <LookSheet
          worn={shoot.look?.id ?? null}
          onClose={() => setSheet(null)}
          onChosen={(lookId, revision) => {
            void attempt(applyLook({ shootId: shoot.id, lookId, revision }).unwrap());
            setSheet(null);
          }}
        />
      )}
      {finding && <FindSheet frame={finding} onClose={() => setFinding(null)} />}
      {light !== null && (
        <Sheet title={`Light of ${chosen.length} ${chosen.length === 1 ? 'frame' : 'frames'}`} onClose={() => setLight(null)}>
          <form
            onSubmit={(e) => {
              e.preventDefault();
              void attempt(Promise.all(chosen.map((f) => changeLight({ id: f.id, light }).unwrap())));
              setLight(null);
            }}
          >
            <label>
              Light
              <Input size="sm" autoFocus value={light} list="lights" onChange={(e) => setLight(e.target.value)} />
            </label>
            <datalist id="lights">
              {[...lights].map((l) => (
                <option key={l} value={l} />
              ))}
            </datalist>
            <div className="sheet-actions">
              <Button size="sm" type="submit" colorPalette="dye" disabled={!light.trim()}>
                Set
              </Button>
            </div>
          </form>
        </Sheet>
      )}
    </div>
  );
}
