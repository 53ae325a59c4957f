import { Spinner } from '@chakra-ui/react';

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
