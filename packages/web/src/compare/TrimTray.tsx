import {
  isTrim,
  isTrimmed,
  noTrim,
  number,
  stepKind,
  stepsOf,
  trimOf,
  trimParameters,
  withStepWorn,
  withTrim,
  type Look,
  type OwnSteps,
  type Trim,
} from '@dyepot/core';
import { Button } from '@chakra-ui/react';
import { Link } from 'react-router';
import { Fields } from '../kit/Cell.tsx';
import { formatNumber, NumberControl } from '../kit/NumberControl.tsx';
import type { Frame, Shoot } from '../types.ts';
import type { Trims } from './useTrims.ts';

const keys = Object.keys(noTrim) as (keyof Trim)[],
  worn = (label: string): ReturnType<typeof number> => number(label, '%', 0, 200, 100, 1, 0);

/** The middle one of some numbers. */
const middle = (of: readonly number[]): number => [...of].sort((a, b) => a - b)[Math.floor(of.length / 2)] ?? 0;

/** What of a frame's treatment is not as the others of its light have it, in words. */
export function differences(frame: Frame, steps: OwnSteps | null, kin: readonly { frame: Frame; steps: OwnSteps | null }[]): string[] {
  if (kin.length === 0) return [];
  const own = trimOf(steps),
    others = kin.map((k) => trimOf(k.steps)),
    out: string[] = [];
  for (const key of keys) {
    const apart = own[key] - middle(others.map((o) => o[key])),
      p = trimParameters[key];
    if (Math.abs(apart) > p.step / 2) out.push(`${p.label.split(',')[0]!.toLowerCase()} ${formatNumber({ ...p, min: -1 }, apart)}`);
  }
  const ev = (frame.groundwork?.exposureEv ?? 0) - middle(kin.map((k) => k.frame.groundwork?.exposureEv ?? 0));
  if (Math.abs(ev) > 0.02) out.push(`groundwork exposure ${formatNumber({ decimals: 2, unit: 'EV', min: -1 }, ev)}`);
  const most = kin.filter((k) => k.frame.look?.id === frame.look?.id).length;
  if (most * 2 < kin.length) out.push(frame.look ? 'a look of its own' : 'the shoot’s look, where most have their own');
  const local = (s: OwnSteps | null): number => [...(s?.scene ?? []), ...(s?.print ?? [])].filter((x) => !isTrim(x)).length,
    more = local(steps) - middle(kin.map((k) => local(k.steps)));
  if (more !== 0) out.push(`${Math.abs(more)} ${more > 0 ? 'more' : 'fewer'} local ${Math.abs(more) === 1 ? 'step' : 'steps'}`);
  return out;
}

/** The trim of the frame in hand, or of all that are laid out, moved by the same amount. */
export function TrimTray({
  shoot,
  frame,
  all,
  look,
  trims,
  together,
  onTogether,
}: {
  shoot: Shoot;
  frame: Frame;
  /** the frames that are compared */
  all: readonly Frame[];
  look: Look | null;
  trims: Trims;
  together: boolean;
  onTogether: (all: boolean) => void;
}): React.JSX.Element {
  const steps = trims.stepsOf(frame),
    trim = trimOf(steps),
    of = together ? all : [frame],
    names = of.length === 1 ? frame.name : `${of.length} frames`,
    kin = shoot.frames.filter((f) => f.light === frame.light && f.id !== frame.id),
    unlike = differences(
      frame,
      steps,
      kin.map((f) => ({ frame: f, steps: trims.stepsOf(f) })),
    );
  const set = (key: keyof Trim, value: number, gesture: string): void => {
    const by = value - trim[key];
    trims.change(
      of,
      (own, f) => withTrim(own, { [key]: f.id === frame.id ? value : trimOf(own)[key] + by }),
      `${trimParameters[key].label.split(',')[0]} of ${names}`,
      `${key}-${together}-${frame.id}-${gesture}`,
    );
  };
  const give = (frames: readonly Frame[]): void =>
    trims.change(frames, (own) => withTrim(own, trim), `The trim of ${frame.name} given to ${frames.length}`, '');
  const lookSteps = look ? stepsOf(look) : [];
  return (
    <aside className="tray trim-tray" aria-label="Trim">
      <div className="tray-step">
        <header>
          <h2>Trim</h2>
          <small title={frame.name}>{frame.name}</small>
          <button
            type="button"
            className="text-button"
            disabled={!of.some((f) => isTrimmed(trims.stepsOf(f)))}
            title={`Takes the trim off ${names}; what was painted or drawn stays`}
            onClick={() =>
              trims.change(
                of,
                (own) =>
                  withTrim(
                    Object.keys(own?.worn?.steps ?? {}).reduce<OwnSteps | null>((o, id) => withStepWorn(o, id, 1), own),
                    noTrim,
                  ),
                `Trim of ${names} off`,
                '',
              )
            }
          >
            Take off
          </button>
        </header>
        <p className="purpose">A small correction on top of the look. It stays with the frame when the look changes.</p>
        {all.length > 1 && (
          <div className="trim-whose" role="radiogroup" aria-label="Whose trim">
            <button type="button" role="radio" aria-checked={!together} onClick={() => onTogether(false)}>
              {frame.name}
            </button>
            <button
              type="button"
              role="radio"
              aria-checked={together}
              title="Moves all of them by the same amount"
              onClick={() => onTogether(true)}
            >
              all {all.length}
            </button>
          </div>
        )}
        {keys.map((key) => (
          <NumberControl key={key} parameter={trimParameters[key]} value={trim[key]} onChange={(v, gesture) => set(key, v, gesture)} />
        ))}
        {lookSteps.length > 0 && (
          <details className="trim-steps">
            <summary>
              Each step of {look!.name}
              {Object.keys(steps?.worn?.steps ?? {}).length > 0 && ' ●'}
            </summary>
            <Fields
              of={lookSteps.map((s) => ({
                name: s.id,
                parameter: worn(s.name || stepKind(s.kind)!.name),
                value: Math.round((steps?.worn?.steps[s.id] ?? 1) * 100),
              }))}
              onSet={(id, v, gesture) =>
                trims.change(of, (own) => withStepWorn(own, id, v / 100), `A step’s strength on ${names}`, `${id}-${together}-${gesture}`)
              }
            />
          </details>
        )}
        <div className="trim-give">
          {all.length > 1 && !together && (
            <Button size="xs" variant="outline" onClick={() => give(all.filter((f) => f.id !== frame.id))}>
              Give to the other {all.length - 1}
            </Button>
          )}
          {kin.length > 0 && (
            <Button size="xs" variant="outline" title={`All frames of ${frame.light}`} onClick={() => give(kin)}>
              Give to its light ({kin.length})
            </Button>
          )}
          <Button size="xs" variant="ghost" asChild>
            <Link
              title="There its steps can be painted, and taken into the look"
              to={`/bench?shoot=${shoot.id}&frame=${frame.id}${(frame.look ?? shoot.look) ? `&look=${(frame.look ?? shoot.look)!.id}&revision=${(frame.look ?? shoot.look)!.revision}` : ''}&side=frame`}
            >
              On the Bench
            </Link>
          </Button>
        </div>
        {kin.length > 0 && (
          <section className="trim-unlike">
            <h3>Beside its light</h3>
            {unlike.length === 0 ? (
              <p>
                Treated as the other {kin.length === 1 ? 'one' : kin.length} of {frame.light}.
              </p>
            ) : (
              <ul>
                {unlike.map((u) => (
                  <li key={u}>{u}</li>
                ))}
              </ul>
            )}
          </section>
        )}
      </div>
    </aside>
  );
}
