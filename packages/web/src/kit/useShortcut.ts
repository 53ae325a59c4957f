import { useEffect } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';

let letters = true;
/** Whether shortcuts of a single letter, digit or sign act at all. */
export function setLetterKeys(on: boolean): void {
  letters = on;
}

/** A sheet, a menu or a list that is open has the keys to itself. */
const taken = (): boolean =>
  document.querySelector('[role=dialog][data-state=open], [role=alertdialog][data-state=open]') !== null ||
  (document.activeElement?.closest('[role=menu], [data-scope][role=listbox]') ?? null) !== null;

interface Options {
  keyup?: boolean;
  keydown?: boolean;
  preventDefault?: boolean;
  /** what else keeps the key from acting */
  unless?: (e: KeyboardEvent) => boolean;
}

/** A key that does something wherever the focus is, except in a text being typed or behind something open. */
export function useShortcut(keys: string, act: (e: KeyboardEvent) => void, options: Options = {}): void {
  const { keyup, keydown, preventDefault = false, unless } = options,
    withModifier = /mod\+|alt\+/.test(keys);
  useHotkeys(
    keys,
    act,
    {
      // a choice takes letters for itself, but not with Control
      enableOnFormTags: withModifier ? (['slider', 'select', 'radio', 'option'] as const) : (['slider', 'radio', 'option'] as const),
      preventDefault,
      ...(keyup === undefined ? {} : { keyup }),
      ...(keydown === undefined ? {} : { keydown }),
      ignoreEventWhen: (e) => taken() || (!withModifier && !letters && e.key.length === 1 && e.key !== ' ') || (unless?.(e) ?? false),
    },
    [act, keys],
  );
}

/** A sign, by what is typed and not by which key types it: keyboards differ. */
export function useSign(sign: string, act: () => void): void {
  useEffect(() => {
    const heard = (e: KeyboardEvent): void => {
      const typing = (e.target as HTMLElement | null)?.closest('input, textarea, select, [contenteditable]') ?? null;
      if (e.key !== sign || e.ctrlKey || e.metaKey || typing || taken() || !letters) return;
      e.preventDefault();
      act();
    };
    document.addEventListener('keydown', heard);
    return () => document.removeEventListener('keydown', heard);
  }, [sign, act]);
}
