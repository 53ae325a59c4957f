import { useEffect } from 'react';
import { useFetched } from './useFetched.ts';

/** Takes back what a notice tells of. */
export type Undo = () => Promise<void> | void;
export interface Said {
  words: string;
  wrong: boolean;
  undo?: Undo | undefined;
}
const waiting: Said[] = [];
let show: ((said: Said) => void) | null = null,
  fetchNow = (): void => {};

function say(said: Said): void {
  if (show) return show(said);
  waiting.push(said);
  fetchNow();
}
/** Says something in the corner for a while; with the way back where there is one. */
export const tell = (words: string, undo?: Undo): void => say({ words, wrong: false, undo });
/** Says what went wrong, until it is put away. */
export const complain = (words: string): void => say({ words, wrong: true });

const load = (): Promise<typeof import('./Toasts.tsx')> => import('./Toasts.tsx');
/** The corner where notices are shown; its code is fetched when the page has settled, or with the first of them. */
export function Notices(): React.JSX.Element | null {
  const [piece, fetchPiece] = useFetched(load);
  fetchNow = fetchPiece;
  useEffect(() => {
    if (!piece) return undefined;
    // the corner listens only once it stands
    const timer = setTimeout(() => {
      show = piece.show;
      for (const said of waiting.splice(0)) piece.show(said);
    }, 150);
    return () => clearTimeout(timer);
  }, [piece]);
  return piece && <piece.Toasts />;
}
