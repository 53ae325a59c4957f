import { memo } from 'react';
import { NavLink } from 'react-router';
import { useJobsQuery } from '../api.ts';

/** The main navigation; memoised, since the bench redraws with every move of a control. */
const MainNav = memo(function MainNav(): React.JSX.Element {
  const { data: jobs } = useJobsQuery();
  const running = jobs?.filter((j) => j.state === 'running' || j.state === 'waiting') ?? [];
  const total = running.reduce((n, j) => n + j.total, 0),
    done = running.reduce((n, j) => n + j.done + j.failed, 0);
  return (
    <>
      <NavLink to="/shoots" className="mark" aria-label="Dyepot">
        <img src="/mark.svg" alt="" width="22" height="22" />
        <span>Dyepot</span>
      </NavLink>
      <nav aria-label="Main">
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
      </nav>
    </>
  );
});

/** The bar at the top: where one is, and at the right what one can do here. */
export function TopBar({
  title,
  note,
  children,
}: {
  title?: React.ReactNode;
  note?: React.ReactNode;
  children?: React.ReactNode;
}): React.JSX.Element {
  return (
    <header className="top-bar">
      <MainNav />
      <div className="top-title">
        {title}
        {note && <small>{note}</small>}
      </div>
      <div className="top-actions">{children}</div>
    </header>
  );
}
