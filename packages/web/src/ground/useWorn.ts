import { renditionLook, type Look, type Rendition } from '@dyepot/core';
import { useState } from 'react';
import { useLookQuery } from '../api.ts';
import type { Frame, Shoot } from '../types.ts';

/** What the Ground shows a frame under: the shoot's rendition, one tried for a moment, or the look that it wears. */
export function useWorn(
  shoot: Shoot,
  frame: Frame,
): {
  /** the look it could wear here: its own or the shoot's */
  worn: Look | null;
  wearing: boolean;
  setWearing: (on: boolean) => void;
  setTried: (rendition: Rendition | null) => void;
  look: Look | null;
} {
  const wears = frame.look ?? (shoot.look?.broken ? null : shoot.look),
    { data } = useLookQuery({ id: wears?.id ?? 0, revision: wears?.revision ?? null }, { skip: !wears }),
    worn = (wears && data?.document) ?? null;
  const [wearing, setWearing] = useState(false),
    [tried, setTried] = useState<Rendition | null>(null);
  return { worn, wearing, setWearing, setTried, look: wearing ? worn : renditionLook(tried ?? shoot.rendition) };
}
