import { Button } from '@chakra-ui/react';
import { messageOf, useLooksQuery } from '../api.ts';
import { useDeliveryPresetsQuery } from '../deliveries/deliveryApi.ts';
import { complain, tell } from '../kit/notices.tsx';
import { useEndWatchMutation, useWatchesQuery, useWatchFolderMutation } from './watchApi.ts';

/** What is done with raws that arrive later: worn look, and delivery. */
export interface Arriving {
  lookId: number | null;
  preset: string;
}
/** What arrivals wear and how they are delivered. */
export function ArrivingPart({ arriving, onChange }: { arriving: Arriving; onChange: (a: Arriving) => void }): React.JSX.Element {
  const { data: looks } = useLooksQuery(),
    { data: kept } = useDeliveryPresetsQuery();
  return (
    <div className="arriving">
      <label>
        They wear
        <select
          value={arriving.lookId ?? ''}
          onChange={(e) => onChange({ ...arriving, lookId: e.target.value === '' ? null : Number(e.target.value) })}
        >
          <option value="">what the shoot wears</option>
          {looks
            ?.filter((l) => !l.broken)
            .map((l) => (
              <option key={l.id} value={l.id}>
                {l.name}
              </option>
            ))}
        </select>
      </label>
      <label>
        They are delivered
        <select value={arriving.preset} onChange={(e) => onChange({ ...arriving, preset: e.target.value })}>
          <option value="">not by themselves</option>
          {kept?.presets.map((p) => (
            <option key={p.name} value={p.name}>
              as {p.name}
            </option>
          ))}
        </select>
      </label>
    </div>
  );
}
/** Folders that are watched for a shoot. */
export function WatchedFolders({ shootId }: { shootId: number }): React.JSX.Element | null {
  const { data } = useWatchesQuery(),
    [end] = useEndWatchMutation(),
    [watch] = useWatchFolderMutation(),
    own = data?.watches.filter((w) => w.shootId === shootId) ?? [];
  if (own.length === 0) return null;
  return (
    <section className="watched" aria-label="Watched folders">
      <h3>Watched</h3>
      <ul>
        {own.map(({ id, trouble, ...w }) => (
          <li key={id}>
            <span title={w.folder}>{w.folder}</span>
            <small>{w.preset === '' ? 'brought in' : `brought in, delivered as ${w.preset}`}</small>
            <Button
              size="2xs"
              variant="outline"
              onClick={() => {
                end(id)
                  .unwrap()
                  .then(
                    () =>
                      tell(`${w.folder} is not watched any more`, () =>
                        watch(w)
                          .unwrap()
                          .then(() => {}),
                      ),
                    (e: unknown) => complain(messageOf(e)),
                  );
              }}
            >
              Stop
            </Button>
            {trouble && <p role="alert">{trouble}</p>}
          </li>
        ))}
      </ul>
    </section>
  );
}
