import { Menu } from '@chakra-ui/react';
import { MenuList } from '../kit/MenuList.tsx';
import { useVirtualizer } from '@tanstack/react-virtual';
import { Ellipsis, Star } from 'lucide-react';
import { memo, useLayoutEffect, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { api, messageOf, useCreateLookMutation, useSettingsQuery, useTakeOutLookMutation } from '../api.ts';
import { pictureUrl } from '../pictures.ts';
import { DyeStrip } from '../kit/DyeStrip.tsx';
import { complain, tell } from '../kit/notices.tsx';
import { Picture } from '../kit/Picture.tsx';
import { store } from '../store.ts';
import { undoTakingOut } from '../trash/undoTakingOut.ts';
import type { LookCard as Look } from '../types.ts';
import { useEditLooksMutation } from './shelfApi.ts';
import { askOnce } from '../kit/askOnce.ts';

const leastWidth = 270,
  gap = 18,
  edge = 20,
  /** strip, name and two lines of notes under the picture */
  under = 88;

/** One look: its picture and dye strip, and what can be done with it. */
export type LookAct = 'check' | 'near' | 'revisions' | 'blend' | 'give' | 'pdf' | 'png' | 'link';
interface CardProps {
  look: Look;
  frame: number | undefined;
  /** null: nothing is being chosen */
  chosen: boolean | null;
  onChoose: (look: Look) => void;
  onPoint: (look: Look) => void;
  onAct: (act: LookAct, look: Look) => void;
}
const LookCard = memo(function LookCard({ look: l, frame, chosen, onChoose, onPoint, onAct }: CardProps): React.JSX.Element {
  const navigate = useNavigate(),
    { data: settings } = useSettingsQuery(),
    [createLook] = useCreateLookMutation(),
    [edit] = useEditLooksMutation(),
    [takeOut] = useTakeOutLookMutation();
  const attempt = (work: Promise<unknown>, done?: () => void): void => {
    work.then(done, (e: unknown) => complain(messageOf(e)));
  };
  const duplicate = async (): Promise<void> => {
    const { document } = await askOnce(store.dispatch(api.endpoints.look.initiate({ id: l.id })));
    await createLook({ ...document, name: `${document.name.slice(0, 74)}, copy` }).unwrap();
  };
  const acts: Record<string, () => void> = {
    open: () => void navigate(`/bench?look=${l.id}`),
    copy: () => attempt(duplicate()),
    choose: () => onChoose(l),
    favourite: () => attempt(edit({ ids: [l.id], favourite: !l.favourite }).unwrap()),
    // opened once the menu has closed, which would close it too
    ...Object.fromEntries(
      (['check', 'near', 'revisions', 'blend', 'give', 'pdf', 'png', 'link'] as const).map((act) => [
        act,
        () => setTimeout(() => onAct(act, l), 60),
      ]),
    ),
    parcel: () => window.location.assign(`/api/looks/parcel?ids=${l.id}`),
    file: () => window.location.assign(`/api/looks/${l.id}/file`),
    out: () =>
      attempt(takeOut(l.id).unwrap(), () => tell(`${l.name} is in the trash, where it is kept for 30 days`, undoTakingOut('look', [l.id]))),
  };
  const face = (
    <>
      {frame && !l.broken ? (
        <Picture alt="" src={pictureUrl({ id: frame }, l)} />
      ) : (
        <div className="picture empty">{l.broken && <span>{l.broken}</span>}</div>
      )}
      <DyeStrip strip={l.strip} />
    </>
  );
  return (
    <article
      className={chosen ? 'look-card chosen' : 'look-card'}
      aria-label={l.name}
      onPointerEnter={() => onPoint(l)}
      onFocus={() => onPoint(l)}
      onClickCapture={(e) => {
        if (!(e.ctrlKey || e.metaKey || (chosen !== null && (e.target as HTMLElement).closest('.look-face')))) return;
        e.preventDefault();
        e.stopPropagation();
        onChoose(l);
      }}
    >
      {chosen !== null && (
        <input type="checkbox" className="look-chosen" checked={chosen} aria-label={`Choose ${l.name}`} onChange={() => onChoose(l)} />
      )}
      {l.broken ? (
        <div className="look-face">{face}</div>
      ) : (
        <Link className="look-face" to={`/bench?look=${l.id}`} aria-label={`Open ${l.name} on the bench`}>
          {face}
        </Link>
      )}
      <div className="look-line">
        <h2 title={l.name}>{l.name}</h2>
        {l.favourite && <Star size={13} className="look-star" aria-label="a favourite" />}
        <small>{l.broken ? 'cannot be read' : `revision ${l.revision}`}</small>
        <Menu.Root lazyMount onSelect={({ value }) => acts[value]?.()}>
          <Menu.Trigger asChild>
            <button type="button" className="icon-button" aria-label={`More for ${l.name}`} title="More">
              <Ellipsis size={15} aria-hidden />
            </button>
          </Menu.Trigger>
          <MenuList>
            {!l.broken && <Menu.Item value="open">Open on the bench</Menu.Item>}
            {!l.broken && <Menu.Item value="copy">Duplicate</Menu.Item>}
            <Menu.Item value="choose">{chosen ? 'No longer chosen' : 'Choose (Ctrl click)'}</Menu.Item>
            <Menu.Item value="favourite">{l.favourite ? 'No favourite' : 'Favourite'}</Menu.Item>
            {!l.broken && <Menu.Item value="check">Look check…</Menu.Item>}
            {!l.broken && <Menu.Item value="revisions">Revisions…</Menu.Item>}
            {!l.broken && <Menu.Item value="near">Near looks…</Menu.Item>}
            {!l.broken && <Menu.Item value="blend">Blend with…</Menu.Item>}
            {!l.broken && <Menu.Item value="give">Give steps to…</Menu.Item>}
            {!l.broken && <Menu.Item value="parcel">Share (.dyelook)</Menu.Item>}
            {!l.broken && <Menu.Item value="pdf">Look sheet (PDF)…</Menu.Item>}
            {!l.broken && <Menu.Item value="png">Look sheet (picture)…</Menu.Item>}
            {!l.broken && settings?.away && <Menu.Item value="link">Link for someone…</Menu.Item>}
            {!l.broken && <Menu.Item value="file">Save as JSON</Menu.Item>}
            <Menu.Item value="out">Take out</Menu.Item>
          </MenuList>
        </Menu.Root>
      </div>
      <p title={l.notes}>{l.notes}</p>
    </article>
  );
});

/** Looks in rows; only the rows near the window exist. Each is shown on one of `frames` in turn. */
export function LookCards({
  looks,
  frames,
  chosen,
  ...acts
}: {
  looks: readonly Look[];
  frames: readonly number[];
  chosen: ReadonlySet<number>;
} & Pick<CardProps, 'onChoose' | 'onPoint' | 'onAct'>): React.JSX.Element {
  const scroller = useRef<HTMLDivElement>(null),
    [width, setWidth] = useState(0);
  useLayoutEffect(() => {
    const node = scroller.current!,
      measure = (): void => setWidth(node.clientWidth - 2 * edge);
    const observer = new ResizeObserver(measure);
    observer.observe(node);
    measure();
    return () => observer.disconnect();
  }, []);
  const across = Math.max(1, Math.floor((width + gap) / (leastWidth + gap))),
    cell = (width - gap * (across - 1)) / across,
    height = Math.round((cell * 2) / 3) + under;
  const rows = useVirtualizer({
    count: width > 0 ? Math.ceil(looks.length / across) : 0,
    getScrollElement: () => scroller.current,
    estimateSize: () => height + gap,
    overscan: 1,
    paddingStart: edge,
  });
  useLayoutEffect(() => rows.measure(), [rows, height]);
  return (
    <div ref={scroller} className="look-cards">
      <div style={{ height: rows.getTotalSize(), position: 'relative' }}>
        {rows.getVirtualItems().map(({ index, start }) => (
          <div
            key={index}
            className="look-row"
            style={{ top: start, gridTemplateColumns: `repeat(${across}, minmax(0, 1fr))`, gap, height }}
          >
            {looks.slice(index * across, (index + 1) * across).map((l, i) => (
              <LookCard
                key={l.id}
                look={l}
                chosen={chosen.size === 0 ? null : chosen.has(l.id)}
                {...acts}
                frame={frames.length > 0 ? frames[(index * across + i) % frames.length] : undefined}
              />
            ))}
          </div>
        ))}
      </div>
    </div>
  );
}
