import { Button } from '@chakra-ui/react';
import { useEffect } from 'react';
import type { FallbackProps } from 'react-error-boundary';
import { Link, useLocation } from 'react-router';
import { Nothing } from '../kit/Waiting.tsx';
import { TopBar } from '../kit/TopBar.tsx';
import { saver } from '../saving/index.ts';
import { useServerAway } from './serverAway.ts';

const key = 'dyepot-reloaded',
  apartMs = 10_000;
/** Whether the page was not just fetched anew for the same reason. */
function mayReload(): boolean {
  const last = Number(sessionStorage.getItem(key) ?? 0);
  sessionStorage.setItem(key, String(Date.now()));
  return Date.now() - last > apartMs;
}

/** The page when a part of it failed: what can be done, never a blank. It mends itself when the server is back or another page is opened. */
export function Broken({ error, resetErrorBoundary }: FallbackProps): React.JSX.Element {
  const away = useServerAway(),
    { pathname } = useLocation(),
    missingPiece = /import|fetch|load/i.test(error instanceof Error ? error.message : '');
  // browsers remember a piece that could not be fetched: only the page anew asks for it again
  useEffect(() => {
    if (away || !missingPiece || !mayReload()) return;
    void saver.flush().then((kept) => {
      if (kept) window.location.reload();
    });
  }, [away, missingPiece]);
  return (
    <div className="page">
      <TopBar page="Something failed" title="Something failed" />
      <main id="main" tabIndex={-1}>
        <Nothing
          title={missingPiece ? 'This page could not be fetched' : 'This page failed'}
          words={
            missingPiece
              ? 'The server did not send a piece of it. It is tried again when the server answers.'
              : `What you did is kept. ${error instanceof Error ? `What went wrong: ${error.message}.` : ''}`
          }
        >
          <div className="row">
            <Button size="sm" colorPalette="dye" onClick={() => (missingPiece ? window.location.reload() : resetErrorBoundary())}>
              Try again
            </Button>
            {pathname !== '/shoots' && (
              <Button size="sm" variant="outline" asChild>
                <Link to="/shoots" onClick={resetErrorBoundary}>
                  Go to Shoots
                </Link>
              </Button>
            )}
          </div>
        </Nothing>
      </main>
    </div>
  );
}
