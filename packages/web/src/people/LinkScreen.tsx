import { Button } from '@chakra-ui/react';
import { useEffect, useState } from 'react';
import { useParams } from 'react-router';
import { messageOf } from '../api.ts';
import { DyeStrip } from '../kit/DyeStrip.tsx';
import { Picture } from '../kit/Picture.tsx';
import { Nothing, Waiting } from '../kit/Waiting.tsx';
import { useLinkShownQuery, type LinkShown } from './peopleApi.ts';
import './people.css';

/** What someone with a link sees: one look or one swatch card, and no other way. */
export default function LinkScreen(): React.JSX.Element {
  const token = useParams()['token'] ?? '',
    { data: shown, error } = useLinkShownQuery(token);
  useEffect(() => {
    document.title = `${shown?.name ?? 'A link'} – Dyepot`;
  }, [shown]);
  return (
    <div className="page link-page">
      <header className="top-bar">
        <div className="top-title">
          <h1 title={shown?.name}>{shown?.name ?? 'A link'}</h1>
          {shown && <small>{shown.said}</small>}
        </div>
        {shown && (
          <div className="top-actions">
            <Button size="xs" variant="outline" asChild>
              <a href={`/api/links/${token}/page.pdf`}>Save as PDF</a>
            </Button>
          </div>
        )}
      </header>
      <main id="main" tabIndex={-1}>
        {error ? (
          <Nothing title="This link is not open" words={messageOf(error)} />
        ) : !shown ? (
          <Waiting words="Opening what the link shows…" />
        ) : (
          <Behind shown={shown} token={token} />
        )}
      </main>
    </div>
  );
}

function Behind({ shown, token }: { shown: LinkShown; token: string }): React.JSX.Element {
  const [large, setLarge] = useState<{ row: number; column: number } | null>(null),
    src = (row: number, column: number): string => `/api/links/${token}/pictures/${shown.frames[column]!.id}/${shown.rows[row]!.look}`,
    look = shown.kind === 'look' ? shown.rows[1] : null;
  return (
    <>
      {look && <DyeStrip strip={look.strip} />}
      {shown.notes && <p className="link-notes">{shown.notes}</p>}
      <div className="link-card">
        {shown.rows.map((row, r) => (
          <section key={row.look} aria-label={row.name} style={{ flexBasis: shown.frames.length * 230 }}>
            <h2 title={row.name}>{row.name}</h2>
            {!look && <DyeStrip strip={row.strip} />}
            <div className="link-row">
              {shown.frames.map(({ id, name }, c) => (
                <button
                  key={id}
                  type="button"
                  className={`link-picture ${row.said[c] ?? ''}`}
                  aria-label={`${name}, ${row.name}, large`}
                  onClick={() => setLarge({ row: r, column: c })}
                >
                  <Picture src={src(r, c)} alt={`${name}, ${row.name}`} />
                  <small>
                    {name}
                    {row.said[c] === 'best' && ' · favourite'}
                    {row.said[c] === 'out' && ' · struck out'}
                  </small>
                </button>
              ))}
            </div>
          </section>
        ))}
      </div>
      {shown.steps.length > 0 && (
        <section aria-label="Step by step" className="link-steps">
          <h2>Step by step</h2>
          <dl>
            {shown.steps.map((s, i) => (
              <div key={i}>
                <dt>{s.name}</dt>
                <dd>{s.words}</dd>
              </div>
            ))}
          </dl>
        </section>
      )}
      {large && <Large shown={shown} at={large} src={src} onMove={setLarge} />}
    </>
  );
}

/** One picture as large as the window; arrows go to its neighbours, up and down to the other looks. */
function Large({
  shown,
  at,
  src,
  onMove,
}: {
  shown: LinkShown;
  at: { row: number; column: number };
  src: (row: number, column: number) => string;
  onMove: (at: { row: number; column: number } | null) => void;
}): React.JSX.Element {
  const { row, column } = at;
  // the focus stays here, and goes back to where it was
  const [before] = useState(() => document.activeElement as HTMLElement | null);
  useEffect(() => () => before?.focus(), [before]);
  useEffect(() => {
    const key = (e: KeyboardEvent): void => {
      const within = (v: number, n: number): number => (v + n) % n;
      if (e.key === 'Escape') onMove(null);
      else if (e.key === 'ArrowLeft') onMove({ row, column: within(column - 1, shown.frames.length) });
      else if (e.key === 'ArrowRight') onMove({ row, column: within(column + 1, shown.frames.length) });
      else if (e.key === 'ArrowUp') onMove({ row: within(row - 1, shown.rows.length), column });
      else if (e.key === 'ArrowDown') onMove({ row: within(row + 1, shown.rows.length), column });
      else if (e.key !== 'Tab') return;
      e.preventDefault();
    };
    window.addEventListener('keydown', key);
    return () => window.removeEventListener('keydown', key);
  }, [row, column, shown, onMove]);
  const words = `${shown.frames[column]!.name}, ${shown.rows[row]!.name}`;
  return (
    <div className="link-large" role="dialog" aria-modal="true" aria-label={words}>
      <button type="button" autoFocus onClick={() => onMove(null)} title="Back to all (Escape)">
        <Picture src={src(row, column)} alt={words} />
      </button>
      <p>
        <b>{words}</b> · arrows go on, up and down change the look, Escape goes back
      </p>
    </div>
  );
}
