import { Button } from '@chakra-ui/react';
import { useState } from 'react';
import { messageOf } from '../api.ts';
import { CheckGrid } from '../kit/CheckGrid.tsx';
import { complain, tell } from '../kit/notices.tsx';
import { Picture } from '../kit/Picture.tsx';
import { Sheet } from '../kit/Sheet.tsx';
import { sheetPictureUrl } from '../pictures.ts';
import type { Shoot } from '../types.ts';
import {
  useLightProposalsQuery,
  usePutGroundworksMutation,
  useTakeLightsMutation,
  type Evenness,
  type LightProposal,
} from './evennessApi.ts';

type Part = 'exposure' | 'balance';
const signed = (v: number, digits: number): string => `${v < 0 ? '−' : '+'}${Math.abs(v).toFixed(digits)}`;

/** Brings whole lights to one another in the chosen parts: each light is moved by one amount, so that it stays as even as it is. */
export default function LightsSheet({ shoot, even, onClose }: { shoot: Shoot; even: Evenness; onClose: () => void }): React.JSX.Element {
  const lights = even.groups.map((g) => g.light),
    [to, setTo] = useState(lights[0]!),
    [parts, setParts] = useState<ReadonlySet<Part>>(new Set(['exposure'])),
    [left, setLeft] = useState<ReadonlySet<string>>(new Set()),
    wish = { to, exposure: parts.has('exposure'), balance: parts.has('balance') },
    { data, error, isFetching } = useLightProposalsQuery({ id: shoot.id, ...wish }, { skip: parts.size === 0 }),
    [take, taking] = useTakeLightsMutation(),
    [put] = usePutGroundworksMutation(),
    goal = shoot.frames.find((f) => f.id === even.groups.find((g) => g.light === to)?.anchorId),
    proposals = parts.size === 0 ? [] : (data ?? []),
    taken = proposals.filter((p) => !left.has(p.light));
  const pictureUrl = (p: LightProposal): string =>
    `/api/shoots/${shoot.id}/light-to-light/picture?${new URLSearchParams({
      to,
      light: p.light,
      exposure: String(wish.exposure),
      balance: String(wish.balance),
      v: `${p.anchorId}-${shoot.look?.revision ?? 0}-${p.move.ev.toFixed(3)}-${p.move.mired.toFixed(1)}-${p.move.duv.toFixed(5)}`,
    }).toString()}`;
  const bring = async (): Promise<void> => {
    try {
      const { was } = await take({ id: shoot.id, ...wish, lights: taken.map((p) => p.light) }).unwrap();
      tell(`${taken.length === 1 ? taken[0]!.light : `${taken.length} lights`} brought to ${to}`, async () => {
        await put({ id: shoot.id, frames: was })
          .unwrap()
          .catch((e: unknown) => complain(messageOf(e)));
      });
      onClose();
    } catch (e) {
      complain(messageOf(e));
    }
  };
  return (
    <Sheet title="Light to light" onClose={onClose} wide>
      <div className="lights-head">
        <label className="inline">
          brought to{' '}
          <select aria-label="Brought to" value={to} onChange={(e) => setTo(e.target.value)}>
            {lights.map((l) => (
              <option key={l} value={l}>
                {l}
              </option>
            ))}
          </select>
        </label>
        <CheckGrid
          of={[
            { value: 'exposure', words: 'How bright it is' },
            { value: 'balance', words: 'The light’s colour' },
          ]}
          chosen={parts}
          onChosen={setParts}
        />
      </div>
      <p className="purpose">
        All frames of a light are moved by the same amount: what is even stays even. With brightness alone each keeps its own colour of
        light.
      </p>
      <div className="lights">
        {goal && (
          <figure>
            <Picture alt="" src={sheetPictureUrl(goal, shoot.look, 360, shoot.rendition)} />
            <figcaption>
              {to} <small>anchor {goal.name}</small>
            </figcaption>
          </figure>
        )}
        {proposals.map((p) => {
          const frame = shoot.frames.find((f) => f.id === p.anchorId);
          return (
            <div key={p.light} className="light-row">
              <input
                type="checkbox"
                checked={!left.has(p.light)}
                onChange={() => setLeft((was) => new Set(was.has(p.light) ? [...was].filter((k) => k !== p.light) : [...was, p.light]))}
                aria-label={`Bring ${p.light} to ${to}`}
              />
              {frame && <Picture alt={`${p.anchor} as it is`} src={sheetPictureUrl(frame, shoot.look, 360, shoot.rendition)} />}
              <Picture alt={`${p.anchor} as it would be`} src={pictureUrl(p)} />
              <p>
                <b>{p.light}</b> <small>{p.count === 1 ? '1 frame' : `${p.count} frames`}</small>
                <br />
                {signed(p.move.ev, 2)} EV{wish.balance && `, ${signed(p.move.mired, 0)} mired`}
                <br />
                <small>by {p.by}</small>
              </p>
            </div>
          );
        })}
      </div>
      <p role="status" className="hint">
        {parts.size === 0 ? 'Choose what is brought.' : error ? messageOf(error) : isFetching ? 'Reading the lights…' : ''}
      </p>
      <div className="sheet-actions">
        <Button size="sm" variant="ghost" onClick={onClose}>
          Cancel
        </Button>
        <Button
          size="sm"
          colorPalette="dye"
          disabled={taken.length === 0 || isFetching}
          loading={taking.isLoading}
          onClick={() => void bring()}
        >
          {taken.length === 1 ? 'Bring 1 light' : `Bring ${taken.length} lights`}
        </Button>
      </div>
    </Sheet>
  );
}
