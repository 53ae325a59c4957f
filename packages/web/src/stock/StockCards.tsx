import { densityAt, nameOfKind, nearestSpeed, stockReadoutsOf, stripColours, throughFilm, type StockSheet } from '@dyepot/core';
import { Menu } from '@chakra-ui/react';
import { line, range, scaleLinear } from 'd3';
import { Ellipsis } from 'lucide-react';
import { memo, useEffect, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { messageOf } from '../api.ts';
import { MenuList } from '../kit/MenuList.tsx';
import { complain, tell } from '../kit/notices.tsx';
import { undoTakingOut } from '../trash/undoTakingOut.ts';
import type { StockCard } from '../types.ts';
import { cssLight } from '../kit/cssLight.ts';
import { DyeStrip } from '../kit/DyeStrip.tsx';
import { filmFor, inksOf } from './charting.ts';
import { plainUse } from './stockSlice.ts';
import { useCreateStockMutation, useTakeOutStockMutation } from './stockApi.ts';

const W = 270,
  H = 120;
/** What the dye strip's colours come to, one card after another, since each opens its film. */
function useStrip(sheet: StockSheet, turn: number): readonly string[] {
  const [strip, setStrip] = useState<readonly string[]>(Array.from({ length: 14 }, () => '#3a3a3a'));
  useEffect(() => {
    const timer = setTimeout(() => {
      const film = filmFor(sheet, plainUse);
      setStrip(stripColours.map((c) => cssLight(throughFilm(film, c))));
    }, 40 * turn);
    return () => clearTimeout(timer);
  }, [sheet, turn]);
  return strip;
}
/** A stock's face: its characteristic curves. */
const Face = memo(function Face({ sheet }: { sheet: StockSheet }): React.JSX.Element {
  const reversal = sheet.kind === 'reversal',
    c = sheet.curves[0]!,
    middle = c.start + ((reversal ? -1 : 1) * (c.dmax - c.dmin)) / c.gamma / 2,
    x = scaleLinear([middle - 2.6, middle + 2.6], [0, W]),
    y = scaleLinear([0, 3.4], [H - 6, 6]);
  return (
    <svg viewBox={`0 0 ${W} ${H}`} aria-hidden="true">
      <rect width={W} height={H} fill="#1f1f1f" />
      {[1, 2, 3].map((d) => (
        <path key={d} d={`M0,${y(d)}H${W}`} stroke="#323232" />
      ))}
      {sheet.curves.map((curve, i) => (
        <path
          key={i}
          d={
            line<number>()
              .x(x)
              .y((at) => y(densityAt(curve, at, reversal)))(range(middle - 2.6, middle + 2.61, 0.05)) ?? ''
          }
          fill="none"
          stroke={inksOf(sheet.layers)[i]}
          strokeWidth={sheet.curves.length === 3 ? 5 - 1.6 * i : 1.8}
        />
      ))}
    </svg>
  );
});

function Strip({ sheet, turn }: { sheet: StockSheet; turn: number }): React.JSX.Element {
  return <DyeStrip strip={useStrip(sheet, turn)} />;
}
function Card({ card, turn }: { card: StockCard; turn: number }): React.JSX.Element {
  const navigate = useNavigate(),
    [create] = useCreateStockMutation(),
    [takeOut] = useTakeOutStockMutation(),
    { id, sheet, name } = card,
    to = id === null ? `/stock?name=${encodeURIComponent(name)}` : `/stock?stock=${id}`,
    attempt = (work: Promise<unknown>, done?: () => void): void => void work.then(done, (e: unknown) => complain(messageOf(e)));
  const acts: Record<string, () => void> = {
    open: () => void navigate(to),
    copy: () => attempt(create({ ...sheet, name: `${name.slice(0, 74)}, copy` }).unwrap()),
    file: () => window.location.assign(`/api/stocks/${id}/file`),
    out: () =>
      attempt(takeOut(id!).unwrap(), () => tell(`${name} is in the trash, where it is kept for 30 days`, undoTakingOut('stock', [id!]))),
  };
  const said = sheet && stockReadoutsOf(sheet);
  return (
    <article className="look-card stock-card" aria-label={name}>
      {sheet ? (
        <Link className="look-face" to={to} aria-label={`Open ${name} in the designer`}>
          <Face sheet={sheet} />
          <Strip sheet={sheet} turn={turn} />
        </Link>
      ) : (
        <div className="picture empty">
          <span>{card.broken}</span>
        </div>
      )}
      <div className="look-line">
        <h2 title={name}>{name}</h2>
        <small>{id === null ? 'comes with Dyepot' : `revision ${card.revision}`}</small>
        <Menu.Root lazyMount onSelect={({ value }) => acts[value]?.()}>
          <Menu.Trigger asChild>
            <button type="button" className="icon-button" aria-label={`More for ${name}`} title="More">
              <Ellipsis size={15} aria-hidden />
            </button>
          </Menu.Trigger>
          <MenuList>
            {sheet && <Menu.Item value="open">Open in the designer</Menu.Item>}
            {sheet && <Menu.Item value="copy">Make a copy</Menu.Item>}
            {id !== null && sheet && <Menu.Item value="file">Save as a file</Menu.Item>}
            {id !== null && <Menu.Item value="out">Take off the shelf</Menu.Item>}
          </MenuList>
        </Menu.Root>
      </div>
      {said && (
        <p>
          {nameOfKind[sheet.kind]}, ISO {nearestSpeed(said.iso)}, gradient {said.averageGradient.toFixed(2)}. {sheet.notes}
        </p>
      )}
    </article>
  );
}

/** Stocks of the shelf, then those that come with Dyepot. */
export function StockCards({ cards, words }: { cards: readonly StockCard[]; words: string }): React.JSX.Element {
  const asked = words.trim().toLowerCase(),
    shown = cards.filter((c) => `${c.name}\n${c.sheet?.family ?? ''}\n${c.sheet?.notes ?? ''}`.toLowerCase().includes(asked));
  return (
    <div className="stock-cards">
      {shown.map((card, i) => (
        <Card key={card.id ?? card.name} card={card} turn={i} />
      ))}
      {shown.length === 0 && <p className="purpose">No stock says “{words}”.</p>}
    </div>
  );
}
