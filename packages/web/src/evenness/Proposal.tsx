import { Button } from '@chakra-ui/react';
import { messageOf } from '../api.ts';
import { complain, tell } from '../kit/notices.tsx';
import { Picture } from '../kit/Picture.tsx';
import { sheetPictureUrl } from '../pictures.ts';
import type { Shoot } from '../types.ts';
import { useSetAnchorMutation, useSetMatchingMutation, type EvenFrame, type Evenness, type Under } from './evennessApi.ts';
import { ChartColours } from './ChartColours.tsx';
import { GreyScatter } from './GreyScatter.tsx';
import { PatchPicture } from './PatchPicture.tsx';

const signed = (v: number, digits: number): string => `${v < 0 ? '−' : '+'}${Math.abs(v).toFixed(digits)}`;

/** One frame: its anchor, as it is, as it is proposed, and what to do about it. */
export function Proposal({
  shoot,
  even,
  under,
  frame,
  place,
  outliers,
  onTake,
  onLeave,
  onChoose,
}: {
  shoot: Shoot;
  even: Evenness;
  under: Under;
  frame: EvenFrame | null;
  place: number;
  outliers: number;
  onTake: (share: number) => void;
  onLeave: () => void;
  onChoose: (id: number) => void;
}): React.JSX.Element {
  const [setAnchor] = useSetAnchorMutation(),
    [setMatching] = useSetMatchingMutation(),
    byPatch = even.by === 'patch',
    group = even.groups.find((g) => g.frames.some((f) => f.id === frame?.id)),
    of = (id: number | undefined): Shoot['frames'][number] | undefined => shoot.frames.find((f) => f.id === id),
    anchor = of(group?.anchorId),
    own = of(frame?.id),
    look = under === 'look' ? shoot.look : null,
    isAnchor = frame !== null && frame.id === group?.anchorId;
  const name = async (frameId: number | null): Promise<void> => {
    if (!group) return;
    try {
      await setAnchor({ id: shoot.id, light: group.light, frameId }).unwrap();
      tell(
        frameId === null ? `The most typical frame of ${group.light} is its anchor` : `${frame!.name} is the anchor of ${group.light}`,
        () => name(group.named ? group.anchorId : null),
      );
    } catch (e) {
      complain(messageOf(e));
    }
  };
  const point = (frameId: number, at: readonly [number, number] | null): void =>
    void setMatching({ id: shoot.id, frameId, at })
      .unwrap()
      .catch((e: unknown) => complain(messageOf(e)));
  return (
    <aside className="even-side" aria-label="The frame in hand">
      {frame && own && anchor ? (
        <>
          <h2 title={frame.name}>{frame.name}</h2>
          <p>
            {place > 0
              ? `${place} of ${outliers} that stand out · N next`
              : isAnchor
                ? `anchor of ${group!.light}`
                : `even with its anchor, ${group!.light}`}
          </p>
          {isAnchor ? (
            <>
              {byPatch ? (
                <>
                  <PatchPicture
                    frame={own}
                    alt={`${frame.name}, the anchor`}
                    src={sheetPictureUrl(own, look, 720, shoot.rendition)}
                    spot={frame.spot}
                    onPoint={(at) => point(frame.id, at)}
                  />
                  <p>
                    {frame.spot
                      ? 'The patch the others are brought to. Click to point at another.'
                      : 'Point at something that stands in every frame of this light: a grey card, a cloth, a skin.'}
                  </p>
                </>
              ) : (
                <Picture className="even-large" alt={`${frame.name}, the anchor`} src={sheetPictureUrl(own, look, 720, shoot.rendition)} />
              )}
              <p>
                {group!.named
                  ? 'Named by hand. The others of this light are brought to it.'
                  : 'The most typical frame of this light: all others have the least way to it, in exposure and colour together.'}
              </p>
              {group!.named && (
                <Button size="xs" variant="outline" onClick={() => void name(null)}>
                  Let the most typical serve again
                </Button>
              )}
            </>
          ) : (
            <>
              <div className="even-pair">
                <figure>
                  <Picture alt={`${anchor.name}, the anchor`} src={sheetPictureUrl(anchor, look, 360, shoot.rendition)} />
                  <figcaption>anchor {anchor.name}</figcaption>
                </figure>
                <figure>
                  {byPatch ? (
                    <PatchPicture
                      frame={own}
                      alt={`${frame.name} as it is`}
                      src={sheetPictureUrl(own, look, 360, shoot.rendition)}
                      spot={frame.spot}
                      onPoint={(at) => point(frame.id, at)}
                    />
                  ) : (
                    <Picture alt={`${frame.name} as it is`} src={sheetPictureUrl(own, look, 360, shoot.rendition)} />
                  )}
                  <figcaption>as it is</figcaption>
                </figure>
              </div>
              {frame.now && frame.proposed ? (
                <>
                  <Picture
                    className="even-large"
                    alt={`${frame.name} as it is proposed`}
                    src={`/api/shoots/${shoot.id}/proposed/${frame.id}?under=${under}&v=${own.groundStamp || 'x'}-${anchor.id}-${anchor.groundStamp || 'x'}-${shoot.look?.revision ?? 0}-${frame.exposureEv.toFixed(3)}-${Math.round(frame.groundwork?.balance.kelvin ?? 0)}-${frame.groundwork?.ends.whiteEv ?? ''}-${frame.groundwork?.zones.ev.join('_') ?? ''}`}
                  />
                  <p>
                    Proposed: <b>{signed(frame.exposureEv, 2)} EV</b>, <b>{signed(frame.proposed.mired - frame.now.mired, 0)} mired</b>
                    {even.parts.ends && frame.groundwork && `, white at ${frame.groundwork.ends.whiteEv.toFixed(1)} EV`}
                    {even.parts.contrast && frame.groundwork && `, zones ${frame.groundwork.zones.ev.map((v) => signed(v, 1)).join(' ')}`};
                    then {frame.proposed.difference.toFixed(1)} ΔE from its anchor
                  </p>
                  {frame.patches && (
                    <p data-testid="chart-patches">
                      The 24 patches lie {frame.patches.now.toFixed(1)} ΔE off the anchor’s in the mean, then{' '}
                      <b>{frame.patches.proposed.toFixed(1)}</b>
                    </p>
                  )}
                  {frame.note && (
                    <p role="note">
                      {frame.note[0]!.toUpperCase() + frame.note.slice(1)}.{byPatch && !frame.spot && ' Click it in the picture as it is.'}
                    </p>
                  )}
                  <div className="even-acts">
                    <Button size="sm" colorPalette="dye" title="T" onClick={() => onTake(1)}>
                      Take
                    </Button>
                    <Button size="sm" variant="outline" title="H" onClick={() => onTake(0.5)}>
                      Half way
                    </Button>
                    <Button size="sm" variant="outline" title="L" onClick={onLeave}>
                      Leave it
                    </Button>
                  </div>
                  <p>{frame.why ? `${frame.why[0]!.toUpperCase()}${frame.why.slice(1)}.` : 'Within the tolerance as it is.'}</p>
                </>
              ) : (
                <p>Not compared yet.</p>
              )}
              <Button size="xs" variant="ghost" onClick={() => void name(frame.id)}>
                Make it the anchor of {group!.light}
              </Button>
            </>
          )}
        </>
      ) : (
        <>
          <h2>{even.missing > 0 ? 'Comparing…' : 'All frames are even'}</h2>
          <p>
            {even.missing > 0 ? 'Frames of each light are compared with each other, once.' : 'Point at a frame in the charts to see it.'}
          </p>
        </>
      )}
      {even.by === 'chart' && own && <ChartColours shoot={shoot} frame={own} />}
      <GreyScatter even={even} chosen={frame?.id ?? null} onChoose={onChoose} />
    </aside>
  );
}
