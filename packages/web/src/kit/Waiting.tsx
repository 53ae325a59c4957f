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
  title,
  words,
  name,
  way,
}: {
  title: string;
  words: string;
  /** what the page would be about */
  name?: string;
  way?: { to: string; words: string };
}): React.JSX.Element {
  return (
    <>
      <TopBar title={name} />
      <Nothing title={title} words={words}>
        {way && (
          <Button asChild size="sm" colorPalette="dye">
            <Link to={way.to}>{way.words}</Link>
          </Button>
        )}
      </Nothing>
    </>
  );
}
/** A whole page while what it is about is loaded. */
export function WaitingPage({ words }: { words: string }): React.JSX.Element {
  return (
    <>
      <TopBar />
      <Waiting words={words} />
    </>
  );
}
