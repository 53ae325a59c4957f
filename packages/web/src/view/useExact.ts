import type { Groundwork, Look, OwnSteps } from '@dyepot/core';
import { useCallback, useEffect, useRef, useState, type RefObject } from 'react';
import type { Frame } from '../types.ts';
import { leanText } from '../saving/keptDocuments.ts';

/** How long the hand rests before the exact view is asked for. */
const restMs = 1000;

/**
 * Once the hand has rested, paints a canvas with the full-size render scaled down in linear light, as a delivered file
 * would look this small. Says whether what is wanted now is painted; `leave` gives up what is painted and what is under way,
 * as soon as the hand moves again. Nothing is asked for while `size` is null.
 */
export function useExact(
  canvas: RefObject<HTMLCanvasElement | null>,
  frame: Frame,
  look: Look | null,
  ground: Groundwork | null,
  steps: OwnSteps | null | undefined,
  size: { width: number; height: number } | null,
): { isExact: boolean; leave: () => void } {
  const [painted, setPainted] = useState<{ of: readonly unknown[] } | null>(null),
    width = size?.width ?? 0,
    height = size?.height ?? 0,
    stop = useRef(() => {});
  useEffect(() => {
    if (width === 0) return;
    const abort = new AbortController();
    const timer = setTimeout(() => {
      fetch(`/api/frames/${frame.id}/exact`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: leanText({
          width,
          height,
          look,
          groundwork: ground,
          steps: steps ? { format: 'dyepot-local', version: 1, ...steps } : null,
        }),
        signal: abort.signal,
      })
        .then(async (r) => {
          const c = canvas.current;
          if (!r.ok || !c) return;
          const rgba = new Uint8ClampedArray(await r.arrayBuffer());
          if (abort.signal.aborted) return;
          c.width = width;
          c.height = height;
          c.getContext('2d')!.putImageData(new ImageData(rgba, width, height), 0, 0);
          setPainted({ of: [frame.id, frame.repairStamp, look, ground, steps, width, height] });
        })
        .catch(() => {
          /* a newer wish has taken this one's place, or the server is away: the quick view stays */
        });
    }, restMs);
    stop.current = () => {
      clearTimeout(timer);
      abort.abort();
    };
    return () => stop.current();
  }, [canvas, frame.id, frame.hash, frame.repairStamp, look, ground, steps, width, height]);
  const leave = useCallback(() => {
    stop.current();
    setPainted(null);
  }, []);
  return {
    isExact: painted !== null && [frame.id, frame.repairStamp, look, ground, steps, width, height].every((v, i) => v === painted.of[i]),
    leave,
  };
}
