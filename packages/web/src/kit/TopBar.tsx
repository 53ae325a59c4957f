import { Keyboard } from 'lucide-react';
import { lazy, memo, Suspense, useEffect, useState } from 'react';
import { NavLink } from 'react-router';
import { useJobsQuery, useSettingsQuery } from '../api.ts';
import { Rove } from './Rove.tsx';
import { useSign } from './useShortcut.ts';

const PersonMenu = lazy(() => import('../people/PersonMenu.tsx'));
const SettingsSheet = lazy(() => import('../house/SettingsSheet.tsx').then((m) => ({ default: m.SettingsSheet })));

/** The main navigation; memoised, since the bench redraws with every move of a control. */
const MainNav = memo(function MainNav(): React.JSX.Element {
  const { data: jobs } = useJobsQuery(),
    { data: settings } = useSettingsQuery(),
    [keysOpen, setKeysOpen] = useState(false);
  const running = jobs?.filter((j) => j.state === 'running' || j.state === 'waiting') ?? [];
  const total = running.reduce((n, j) => n + j.total, 0),
    done = running.reduce((n, j) => n + j.done + j.failed, 0);
  useSign('?', () => setKeysOpen(true));
  return (
    <>
      <Rove as="nav" aria-label="Main">
        <NavLink to="/shoots" className="mark" aria-label="Dyepot, to all shoots" title="Dyepot">
          <img src="/mark.svg" alt="" width="22" height="22" />
        </NavLink>
        <NavLink to="/shoots">Shoots</NavLink>
        <NavLink to="/ground">Ground</NavLink>
        <NavLink to="/bench">Bench</NavLink>
        <NavLink to="/shelf">Shelf</NavLink>
        <NavLink to="/deliveries">
          Deliveries
          {running.length > 0 && (
            <i className="running">
              {done}/{total}
            </i>
          )}
        </NavLink>
        <button
          type="button"
          className="icon-button keys-button"
          aria-label="Keys and settings"
          title="Keys and settings (?)"
          onClick={() => setKeysOpen(true)}
        >
          <Keyboard size={16} aria-hidden />
        </button>
        {settings?.person && (
          <Suspense>
            <PersonMenu />
          </Suspense>
        )}
      </Rove>
      {keysOpen && (
        <Suspense>
          <SettingsSheet onClose={() => setKeysOpen(false)} />
        </Suspense>
      )}
    </>
  );
});

/** The bar at the top: where one is, and at the right what one can do here. `page` names the page to the browser. */
export function TopBar({
  page,
  title,
  note,
  children,
}: {
  page: string;
  title?: React.ReactNode;
  note?: React.ReactNode;
  children?: React.ReactNode;
}): React.JSX.Element {
  useEffect(() => {
    document.title = `${page} – Dyepot`;
  }, [page]);
  return (
    <header className="top-bar">
      <MainNav />
      <Rove className="top-title">
        <h1 title={typeof title === 'string' ? title : page}>{title ?? page}</h1>
        {note && <small>{note}</small>}
      </Rove>
      {children && (
        <Rove className="top-actions" role="group" aria-label="What can be done here">
          {children}
        </Rove>
      )}
    </header>
  );
}
