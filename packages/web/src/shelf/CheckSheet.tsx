import type { Finding } from '@dyepot/core';
import { line } from 'd3-shape';
import { scaleLinear } from 'd3-scale';
import { Link } from 'react-router';
import { messageOf } from '../api.ts';
import { Sheet } from '../kit/Sheet.tsx';
import { Waiting } from '../kit/Waiting.tsx';
import { useCheckedLookQuery, type OnFrame } from './shelfApi.ts';

const percent = (v: number): string => `${(v * 100).toFixed(v < 0.1 ? 1 : 0)} %`;

/** What is weak in a look, each with its figure and what it is seen by. */
export function CheckSheet({
  id,
  name,
  shoot,
  onClose,
}: {
  id: number;
  name: string;
  shoot: number | null;
  onClose: () => void;
}): React.JSX.Element {
  const { data, error } = useCheckedLookQuery({ id, shoot });
  const weak = data?.findings.filter((f) => f.weight === 'weak') ?? [],
    said = data?.findings.filter((f) => f.weight === 'said') ?? [];
  return (
    <Sheet title={`Look check: ${name}`} onClose={onClose} wide>
      {error ? (
        <p role="alert">{messageOf(error)}</p>
      ) : !data ? (
        <Waiting words="Sending greys, skins and colours through it…" />
      ) : (
        <div className="check">
          <p className="hint">
            {weak.length === 0
              ? 'Nothing weak was found. '
              : `${weak.length} ${weak.length === 1 ? 'thing is' : 'things are'} weak in most looks; whether they are meant is yours to say. `}
            Revision {data.revision}.
          </p>
          <Findings title="Weak" list={weak} look={id} />
          <Findings title="Worth knowing" list={said} look={id} />
          {data.frames.length > 0 && <Ends frames={data.frames} />}
        </div>
      )}
    </Sheet>
  );
}
function Findings({ title, list, look }: { title: string; list: readonly Finding[]; look: number }): React.JSX.Element | null {
  if (list.length === 0) return null;
  return (
    <section aria-label={title}>
      <h3>{title}</h3>
      <ul>
        {list.map((f, i) => (
          <li key={i}>
            {f.chips.length + f.tones.length + f.steps.length === 0 ? (
              <p>{f.words}</p>
            ) : (
              <details>
                <summary>{f.words}</summary>
                <div className="check-shown">
                  {f.chips.length > 0 && <Chips pairs={f.chips} />}
                  {f.tones.length > 0 && <Tones points={f.tones} unit={f.unit} />}
                  {f.steps.length > 0 && (
                    <Link to={`/bench?look=${look}&step=${f.steps[0]!}`}>
                      See {f.steps.length === 1 ? 'the step' : 'the steps'} on the bench
                    </Link>
                  )}
                </div>
              </details>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
/** Colours as the plain response shows them, over what the look makes of them. */
function Chips({ pairs }: { pairs: readonly (readonly [string, string])[] }): React.JSX.Element {
  return (
    <div className="check-chips" role="img" aria-label="Above without the look, below with it">
      {pairs.map(([before, after], i) => (
        <span key={i}>
          <i style={{ background: before }} />
          <i style={{ background: after }} />
        </span>
      ))}
      <small>
        without it
        <br />
        with it
      </small>
    </div>
  );
}
/** A figure over scene exposure. */
function Tones({ points, unit }: { points: readonly (readonly [number, number])[]; unit: string }): React.JSX.Element {
  const [width, height] = [420, 90],
    x = scaleLinear([-8, 4], [0, width]),
    top = Math.max(...points.map((p) => p[1])),
    y = scaleLinear([0, top], [height - 2, 4]);
  return (
    <figure className="check-tones">
      <svg viewBox={`0 0 ${width} ${height}`} role="img" aria-label={`${unit} from eight stops under middle grey to four over it`}>
        <line x1={x(0)} x2={x(0)} y1="0" y2={height} />
        <path d={line()(points.map(([ev, v]) => [x(ev), y(v)])) ?? ''} />
        <text x="2" y="12">
          {unit} up to {top.toFixed(1)}
        </text>
      </svg>
      <figcaption>
        <span>−8 EV</span>
        <span>middle grey</span>
        <span>+4 EV</span>
      </figcaption>
    </figure>
  );
}
/** What reaches the ends of the picture on frames of the shoot. */
function Ends({ frames }: { frames: readonly OnFrame[] }): React.JSX.Element {
  return (
    <section aria-label="On your frames">
      <h3>On a frame of each light</h3>
      <table>
        <thead>
          <tr>
            <th scope="col">Frame</th>
            <th scope="col">white, a channel at its end</th>
            <th scope="col">black, all at their end</th>
          </tr>
        </thead>
        <tbody>
          {frames.map((f) => (
            <tr key={f.id}>
              <th scope="row">
                {f.name} <small>{f.light}</small>
              </th>
              {(['whites', 'blacks'] as const).map((end) => (
                <td key={end} className={f[end] > f[`${end}Before`] + 0.02 ? 'more' : ''}>
                  {percent(f[`${end}Before`])} → {percent(f[end])}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
