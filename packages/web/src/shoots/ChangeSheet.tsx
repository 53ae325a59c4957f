import { rgb8Difference } from '@dyepot/core';
import { Button } from '@chakra-ui/react';
import { useEffect, useMemo, useState } from 'react';
import { Sheet } from '../kit/Sheet.tsx';
import type { Frame } from '../types.ts';

/** Frames looked at, at most, and how many of them are shown. */
const looked = 24,
  shown = 6,
  /** pixels of the long edge that are compared */
  edge = 64;

/** Frames from all lights, evenly, so that none is left out. */
function spread(frames: readonly Frame[]): Frame[] {
  if (frames.length <= looked) return [...frames];
  const byLight = [...frames].sort((a, b) => a.light.localeCompare(b.light) || a.id - b.id);
  return Array.from({ length: looked }, (_, i) => byLight[Math.floor((i * byLight.length) / looked)]!);
}
/** A picture's pixels, small. Its answer is kept by the browser, so that it is shown without being asked for again. */
async function seen(address: string, signal: AbortSignal): Promise<Uint8ClampedArray> {
  const answer = await fetch(address, { signal });
  if (!answer.ok)
    throw new Error(((await answer.json().catch(() => ({}))) as { message?: string }).message ?? 'a picture could not be made');
  const picture = await createImageBitmap(await answer.blob()),
    scale = edge / Math.max(picture.width, picture.height),
    canvas = new OffscreenCanvas(Math.max(1, Math.round(picture.width * scale)), Math.max(1, Math.round(picture.height * scale))),
    context = canvas.getContext('2d', { alpha: false })!;
  context.imageSmoothingQuality = 'high';
  context.drawImage(picture, 0, 0, canvas.width, canvas.height);
  return context.getImageData(0, 0, canvas.width, canvas.height).data;
}
/** The mean CIEDE2000 of two pictures' pixels. */
const apartBy = (a: Uint8ClampedArray, b: Uint8ClampedArray): number => {
  let sum = 0;
  const n = Math.min(a.length, b.length) / 4;
  for (let i = 0; i < n; i++) sum += rgb8Difference([a[i * 4]!, a[i * 4 + 1]!, a[i * 4 + 2]!], [b[i * 4]!, b[i * 4 + 1]!, b[i * 4 + 2]!]);
  return sum / n;
};

/** What will change, before it does: the frames most changed, before and after. */
export function ChangeSheet({
  title,
  frames,
  now,
  then,
  words,
  onClose,
  onTake,
}: {
  title: string;
  frames: readonly Frame[];
  /** addresses of a frame's picture as it is, and as it would be */
  now: (frame: Frame) => string;
  then: (frame: Frame) => string;
  /** what the button does */
  words: string;
  onClose: () => void;
  onTake: () => void;
}): React.JSX.Element {
  const some = useMemo(() => spread(frames), [frames]),
    [known, setKnown] = useState<ReadonlyMap<number, number>>(new Map()),
    [failed, setFailed] = useState<string | null>(null);
  useEffect(() => {
    const away = new AbortController();
    const look = async (f: Frame): Promise<void> => {
      try {
        const [a, b] = await Promise.all([seen(now(f), away.signal), seen(then(f), away.signal)]);
        setKnown((m) => new Map(m).set(f.id, apartBy(a, b)));
      } catch (e) {
        if (!away.signal.aborted) setFailed(`${f.name}: ${e instanceof Error ? e.message : 'its picture could not be made'}`);
      }
    };
    void (async () => {
      // two at a time, so that what is shown behind is not held up
      for (let i = 0; i < some.length && !away.signal.aborted; i += 2) await Promise.all(some.slice(i, i + 2).map(look));
    })();
    return () => away.abort();
  }, [some]);
  const most = some.filter((f) => known.has(f.id)).sort((a, b) => known.get(b.id)! - known.get(a.id)!),
    alike = most.filter((f) => known.get(f.id)! < 0.05).length,
    done = known.size === some.length,
    strip = [...most, ...some.filter((f) => !known.has(f.id))].slice(0, shown);
  return (
    <Sheet title={title} onClose={onClose} wide>
      <p className="hint" role="status">
        {done
          ? frames.length > some.length
            ? `The most changed of ${some.length} frames from all lights; ${frames.length} change in all. `
            : `The most changed of ${frames.length === 1 ? 'one frame' : `${frames.length} frames`}. `
          : `Looking at ${known.size} of ${some.length}… `}
        {alike > 0 && `${alike} of them stay as they are. `}
        {failed}
      </p>
      <ul className="change-strip">
        {strip.map((f) => {
          const apart = known.get(f.id);
          return (
            <li key={f.id}>
              {(['now', 'then'] as const).map((when) =>
                apart !== undefined ? (
                  <img key={when} alt={`${f.name} as it ${when === 'now' ? 'is' : 'would be'}`} src={when === 'now' ? now(f) : then(f)} />
                ) : (
                  <span key={when} className="change-blank" />
                ),
              )}
              <span>
                {f.name}{' '}
                <small title="mean CIEDE2000 between before and after">{apart !== undefined ? `ΔE ${apart.toFixed(1)}` : ''}</small>{' '}
                <small>{f.light}</small>
              </span>
            </li>
          );
        })}
      </ul>
      <div className="sheet-actions">
        <Button size="sm" variant="ghost" onClick={onClose}>
          Cancel
        </Button>
        <Button size="sm" colorPalette="dye" autoFocus onClick={onTake}>
          {words}
        </Button>
      </div>
    </Sheet>
  );
}
