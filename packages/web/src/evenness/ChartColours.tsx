import type { ColourCorrection } from '@dyepot/core';
import { Button } from '@chakra-ui/react';
import { messageOf } from '../api.ts';
import { complain, tell } from '../kit/notices.tsx';
import type { Frame, Shoot } from '../types.ts';
import { useChartColoursQuery, useKeepColoursMutation, type SaidByCharts } from './evennessApi.ts';

const words = { matrix: 'Matrix', rootPolynomial: 'Root polynomial' } as const;
const whose = (said: SaidByCharts): string => (said.frameId === null ? `All ${said.count} charts` : 'This chart');

/** What the charts of a shoot say of a frame's camera, and what the shoot keeps of it. */
export function ChartColours({ shoot, frame }: { shoot: Shoot; frame: Frame }): React.JSX.Element | null {
  const { data } = useChartColoursQuery(shoot.id),
    [keep, { isLoading }] = useKeepColoursMutation();
  if (!data || frame.finished) return null;
  const camera = frame.camera || 'this camera',
    said = data.said.filter((s) => s.camera === frame.camera && (s.frameId === null || s.frameId === frame.id)),
    kept = data.kept[frame.camera];
  if (said.length === 0 && !kept) return null;
  const put = async (correction: ColourCorrection | null, done: string): Promise<void> => {
    try {
      const { was, before } = await keep({ id: shoot.id, camera: frame.camera, correction }).unwrap();
      tell(done, async () => {
        await keep({ id: shoot.id, camera: frame.camera, correction: before, frames: was })
          .unwrap()
          .catch((e: unknown) => complain(messageOf(e)));
      });
    } catch (e) {
      complain(messageOf(e));
    }
  };
  return (
    <section className="chart-colours" aria-label="The camera’s colours">
      <h3>What charts say of {camera}</h3>
      {said.length > 0 && (
        <table>
          <caption>ΔE of the patches to their published values, in the mean</caption>
          <thead>
            <tr>
              <th scope="col">Put right by</th>
              <th scope="col" title="As the file’s own profile shows them, and with the correction">
                own
              </th>
              <th scope="col" title="What was left out of the fit: one patch after another, or one chart after another">
                unseen
              </th>
              <td />
            </tr>
          </thead>
          {said.map((s) => (
            <tbody key={s.frameId ?? 'all'}>
              <tr>
                <th scope="rowgroup" colSpan={4}>
                  <b>{whose(s)}</b>, {s.before.toFixed(2)} as the file’s profile shows {s.count === 1 ? 'it' : 'them'}
                </th>
              </tr>
              {s.corrections.map(({ correction, unseen, others }) => {
                const is = kept !== undefined && kept.from === correction.from && kept.kind === correction.kind;
                return (
                  <tr key={correction.kind}>
                    <th scope="row">
                      {words[correction.kind]}
                      {others && (
                        <small className={others.after > others.before ? 'worse' : ''}>
                          the others {others.before.toFixed(2)} → {others.after.toFixed(2)}
                        </small>
                      )}
                    </th>
                    <td>{correction.after.toFixed(2)}</td>
                    <td>{unseen.toFixed(2)}</td>
                    <td>
                      <Button
                        size="2xs"
                        variant="outline"
                        disabled={isLoading || is}
                        aria-label={`Keep the ${words[correction.kind].toLowerCase()} by ${whose(s).toLowerCase()} for the shoot`}
                        onClick={() =>
                          void put(
                            correction,
                            `${words[correction.kind]} by ${s.frameId === null ? whose(s).toLowerCase() : `the chart in ${frame.name}`}: kept for all frames of ${camera}`,
                          )
                        }
                      >
                        {is ? 'Kept' : 'Keep'}
                      </Button>
                    </td>
                  </tr>
                );
              })}
            </tbody>
          ))}
        </table>
      )}
      {kept && (
        <p>
          Kept for the shoot: {words[kept.kind].toLowerCase()} by {kept.from}, {kept.before.toFixed(2)} → {kept.after.toFixed(2)} ΔE.{' '}
          <button
            type="button"
            className="text-button"
            disabled={isLoading}
            onClick={() => void put(null, `${camera} shows its colours as its profile says again`)}
          >
            Take it off
          </button>
        </p>
      )}
    </section>
  );
}
