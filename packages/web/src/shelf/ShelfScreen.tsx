import { Button, Menu, Portal } from '@chakra-ui/react';
import { Ellipsis } from 'lucide-react';
import { useMemo, useRef, useState } from 'react';
import { stepKind, stepsOf, tableLook } from '@dyepot/core';
import { Link, useNavigate } from 'react-router';
import {
  messageOf,
  pictureUrl,
  useCreateLookMutation,
  useDeleteLookMutation,
  useLooksQuery,
  useShootQuery,
  useReadTableMutation,
  useShootsQuery,
} from '../api.ts';
import { DyeStrip } from '../kit/DyeStrip.tsx';
import { complain, tell } from '../kit/notices.tsx';
import { Picture } from '../kit/Picture.tsx';
import { TopBar } from '../kit/TopBar.tsx';
import { Nothing, Waiting } from '../kit/Waiting.tsx';
import type { ShelfLook } from '../types.ts';

const lightOf = (i: number, n: number): number => (n > 0 ? i % n : 0);

/** The library of looks: each card its picture and its dye strip. */
export default function ShelfScreen(): React.JSX.Element {
  const navigate = useNavigate(),
    { data: looks, error } = useLooksQuery(),
    { data: shoots } = useShootsQuery(),
    [shownOn, setShownOn] = useState<number | null>(() => Number(localStorage.getItem('dyepot-shelf-frame')) || null);
  const shootId = shoots?.[0]?.id,
    { data: shoot } = useShootQuery(shootId ?? 0, { skip: shootId === undefined });
  const [words, setWords] = useState(''),
    [family, setFamily] = useState<string | null>(null),
    file = useRef<HTMLInputElement>(null);
  const [createLook] = useCreateLookMutation(),
    [deleteLook] = useDeleteLookMutation(),
    [readTable] = useReadTableMutation();
  const families = useMemo(() => [...new Set(looks?.map((l) => l.family).filter((f) => f !== ''))].sort(), [looks]);
  const asked = words.trim().toLowerCase();
  const shown = looks?.filter(
    (l) =>
      (family === null || l.family === family) &&
      (asked === '' ||
        [
          l.name,
          l.family,
          l.document.notes,
          ...l.document.tags,
          ...stepsOf(l.document).flatMap((s) => [s.name, stepKind(s.kind)?.name ?? '']),
        ].some((t) => t.toLowerCase().includes(asked))),
  );
  const covers = useMemo(() => {
    const lights = new Map<string, number>();
    for (const f of shoot?.frames ?? []) if (!lights.has(f.light) || f.id === shoot?.leadFrameId) lights.set(f.light, f.id);
    return [...lights.values()];
  }, [shoot]);
  const choose = (id: number | null): void => {
    setShownOn(id);
    localStorage.setItem('dyepot-shelf-frame', String(id ?? ''));
  };
  const chosen = shoot?.frames.find((f) => f.id === shownOn);

  const bringIn = async (f: File): Promise<void> => {
    let document: unknown;
    if (!/\.json$/i.test(f.name)) {
      // a lookup table becomes a look of its own
      try {
        const { table, corrections } = await readTable(f).unwrap(),
          look = await createLook(tableLook(table.title || f.name.replace(/\.[^.]+$/, ''), table, corrections[0]?.cdl ?? null)).unwrap();
        tell(`${look.name} is on the shelf`);
      } catch (e) {
        complain(`${f.name}: ${messageOf(e)}`);
      }
      return;
    }
    try {
      document = JSON.parse(await f.text());
    } catch {
      complain(`${f.name} is not a look file: it is not JSON`);
      return;
    }
    try {
      const look = await createLook(document as ShelfLook['document']).unwrap();
      tell(`${look.name} is on the shelf`);
    } catch (e) {
      complain(`${f.name}: ${messageOf(e)}`);
    }
  };
  return (
    <div className="page">
      <TopBar title={<b>Shelf</b>} note={looks && `${looks.length} ${looks.length === 1 ? 'look' : 'looks'}`}>
        <input
          ref={file}
          type="file"
          accept=".json,.cube,.clf,.ctf,.cc,.ccc,.cdl,.png,.tif,.tiff"
          hidden
          aria-label="Look file"
          onChange={(e) => {
            const f = e.target.files?.[0];
            if (f) void bringIn(f);
            e.target.value = '';
          }}
        />
        <Button size="xs" variant="outline" onClick={() => file.current?.click()}>
          Bring in a look
        </Button>
        <Button size="xs" colorPalette="dye" onClick={() => void navigate('/bench?look=new')}>
          New look
        </Button>
      </TopBar>
      <div className="shelf-bar">
        <input
          placeholder="Find a look, a step or a note"
          aria-label="Find a look, a step or a note"
          value={words}
          onChange={(e) => setWords(e.target.value)}
        />
        <div className="families" role="group" aria-label="Family">
          <button type="button" aria-pressed={family === null} onClick={() => setFamily(null)}>
            All {looks?.length ?? ''}
          </button>
          {families.map((f) => (
            <button key={f} type="button" aria-pressed={family === f} onClick={() => setFamily(family === f ? null : f)}>
              {f} {looks?.filter((l) => l.family === f).length}
            </button>
          ))}
        </div>
        {shoot && shoot.frames.length > 0 && (
          <label className="shown-on">
            shown on{' '}
            <select value={chosen ? chosen.id : ''} onChange={(e) => choose(e.target.value === '' ? null : Number(e.target.value))}>
              <option value="">each light of {shoot.name}</option>
              {shoot.frames.map((f) => (
                <option key={f.id} value={f.id}>
                  {f.name}, {f.light}
                </option>
              ))}
            </select>
          </label>
        )}
      </div>
      {error ? (
        <Nothing title="The shelf cannot be shown" words={messageOf(error)} />
      ) : !looks || !shown ? (
        <Waiting words="Taking looks from the shelf…" />
      ) : looks.length === 0 ? (
        <Nothing title="The shelf is empty" words="Design a look on the bench, or bring in a look file someone sent you.">
          <Button asChild size="sm" colorPalette="dye">
            <Link to="/bench?look=new">New look</Link>
          </Button>
        </Nothing>
      ) : shown.length === 0 ? (
        <Nothing title="Nothing like that" words={`No look, step or note says “${words}”.`}>
          <Button
            size="sm"
            onClick={() => {
              setWords('');
              setFamily(null);
            }}
          >
            Show all
          </Button>
        </Nothing>
      ) : (
        <main className="look-cards">
          {shown.map((l, i) => {
            const frame = chosen?.id ?? covers[lightOf(i, covers.length)];
            return (
              <article key={l.id} className="look-card">
                <Link to={`/bench?look=${l.id}`} aria-label={`Open ${l.name} on the bench`}>
                  {frame ? <Picture alt={`${l.name} on a frame`} src={pictureUrl({ id: frame }, l)} /> : <div className="picture empty" />}
                  <DyeStrip strip={l.strip} />
                </Link>
                <div className="look-line">
                  <h2>{l.name}</h2>
                  <small>revision {l.revision}</small>
                  <Menu.Root
                    onSelect={({ value }) => {
                      if (value === 'open') void navigate(`/bench?look=${l.id}`);
                      if (value === 'copy')
                        createLook({ ...l.document, name: `${l.name}, copy` })
                          .unwrap()
                          .catch((e: unknown) => complain(messageOf(e)));
                      if (value === 'file') window.location.assign(`/api/looks/${l.id}/file`);
                      if (value === 'remove')
                        deleteLook(l.id)
                          .unwrap()
                          .then(
                            () => tell(`${l.name} is off the shelf`),
                            (e: unknown) => complain(messageOf(e)),
                          );
                    }}
                  >
                    <Menu.Trigger asChild>
                      <button type="button" className="icon-button" aria-label={`More for ${l.name}`}>
                        <Ellipsis size={15} />
                      </button>
                    </Menu.Trigger>
                    <Portal>
                      <Menu.Positioner>
                        <Menu.Content fontSize="13px">
                          <Menu.Item value="open">Open on the bench</Menu.Item>
                          <Menu.Item value="copy">Duplicate</Menu.Item>
                          <Menu.Item value="file">Save as a file</Menu.Item>
                          <Menu.Item value="remove">Take off the shelf</Menu.Item>
                        </Menu.Content>
                      </Menu.Positioner>
                    </Portal>
                  </Menu.Root>
                </div>
                <p>{l.document.notes}</p>
              </article>
            );
          })}
        </main>
      )}
    </div>
  );
}
