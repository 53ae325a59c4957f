import { Button } from '@chakra-ui/react';
import { useEffect } from 'react';
import type { FallbackProps } from 'react-error-boundary';
import { Link, useLocation } from 'react-router';
import { Nothing } from '../kit/Waiting.tsx';
import { TopBar } from '../kit/TopBar.tsx';
import { useServerAway } from './serverAway.ts';

/** The page when a part of it failed: what can be done, never a blank. It mends itself when the server is back or another page is opened. */
export function Broken({ error, resetErrorBoundary }: FallbackProps): React.JSX.Element {
  const away = useServerAway(),
    { pathname } = useLocation(),
    missingPiece = /import|fetch|load/i.test(error instanceof Error ? error.message : '');
  useEffect(() => {
    if (!away && missingPiece) {
      const timer = setTimeout(resetErrorBoundary, 800);
      return () => clearTimeout(timer);
    }
    return undefined;
  }, [away, missingPiece, resetErrorBoundary]);
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
            <Button size="sm" colorPalette="dye" onClick={resetErrorBoundary}>
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
