import { useWorkersQuery } from './deliveryApi.ts';

const askMs = 2000;

/** The workers that do the frames, where there is a queue for them: what each has in hand. Nothing where the server does all itself. */
export function Workers(): React.JSX.Element | null {
  const { data: first } = useWorkersQuery(),
    { data } = useWorkersQuery(undefined, { pollingInterval: askMs, skip: !first?.farm }),
    farm = (data ?? first)?.farm;
  if (!farm) return null;
  const { workers, answers, address } = farm,
    threads = workers.reduce((n, w) => n + w.threads, 0);
  return (
    <section className="workers" aria-label="Workers">
      <h2>
        {!answers
          ? 'The queue does not answer'
          : workers.length === 0
            ? 'No worker is there'
            : `${workers.length} ${workers.length === 1 ? 'worker' : 'workers'}, ${threads} at a time`}
      </h2>
      <small title={address}>
        {!answers
          ? `Redis at ${address} is waited for; what was ordered is kept.`
          : workers.length === 0
            ? `Imports and deliveries wait for one: dyepot work --queue ${address} --data FOLDER`
            : address}
      </small>
      {answers && workers.length > 0 && (
        <ul>
          {workers.map((w) => (
            <li key={`${w.host} ${w.process}`}>
              <b>
                {w.host} {w.process}
              </b>{' '}
              {w.doing.length > 0 ? w.doing.join(', ') : 'waits'}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
