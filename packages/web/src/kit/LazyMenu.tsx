import { cloneElement, useState } from 'react';
import { useFetched } from './useFetched.ts';
import { useKeptFocus } from './useKeptFocus.ts';

export interface MenuItem {
  value: string;
  words: React.ReactNode;
  disabled?: boolean;
}
const load = (): Promise<typeof import('./ItemMenu.tsx')> => import('./ItemMenu.tsx');

/** A menu whose code is fetched when the page has settled, or when its button is pointed at, focused or pressed. */
export function LazyMenu({
  trigger,
  items,
  minW,
  onSelect,
}: {
  trigger: React.ReactElement<React.ButtonHTMLAttributes<HTMLButtonElement>>;
  items: readonly MenuItem[];
  minW?: string;
  onSelect: (value: string) => void;
}): React.JSX.Element {
  const [piece, fetchNow] = useFetched(load),
    [pressed, setPressed] = useState(false);
  const ref = useKeptFocus(piece !== null && !pressed),
    button = cloneElement(trigger, { ref } as object);
  if (piece) return <piece.ItemMenu trigger={button} items={items} open={pressed} onSelect={onSelect} {...(minW ? { minW } : {})} />;
  return cloneElement(button, {
    'aria-haspopup': 'menu',
    ...{ 'data-open': pressed || undefined },
    onPointerEnter: fetchNow,
    onFocus: fetchNow,
    onClick: () => {
      setPressed(true);
      fetchNow();
    },
  });
}
