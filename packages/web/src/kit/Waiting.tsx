import { Button, Spinner } from '@chakra-ui/react';
import { Link } from 'react-router';
import { TopBar } from './TopBar.tsx';

/** The state of a page while it loads. */
export function Waiting({ words }: { words: string }): React.JSX.Element {
  return (
    <div className="quiet-page" role="status">
      <Spinner size="sm" color="#bdbbb8" />
      <span>{words}</span>
    </div>
  );
}
/** The state of a page that has nothing in it yet, or that could not be loaded. */
export function Nothing({ title, words, children }: { title: string; words: string; children?: React.ReactNode }): React.JSX.Element {
  return (
    <div className="quiet-page">
      <h2>{title}</h2>
      <p>{words}</p>
      {children}
    </div>
  );
}

/** A whole page that has nothing to show: what is missing or wrong, and the way on. */
export function QuietPage({
  page,
  title,
  words,
  way,
}: {
  /** what the page would be about */
  page: string;
  title: string;
  words: string;
  way?: { to: string; words: string };
}): React.JSX.Element {
  return (
    <div className="page">
      <TopBar page={page} />
      <main id="main" tabIndex={-1}>
        <Nothing title={title} words={words}>
          {way && (
            <Button asChild size="sm" colorPalette="dye">
              <Link to={way.to}>{way.words}</Link>
            </Button>
          )}
        </Nothing>
      </main>
    </div>
  );
}
/** A whole page while what it is about is loaded. */
export function WaitingPage({ page, words }: { page: string; words: string }): React.JSX.Element {
  return (
    <div className="page">
      <TopBar page={page} />
      <main id="main" tabIndex={-1}>
        <Waiting words={words} />
      </main>
    </div>
  );
}
