import { useEffect } from 'react';
import { api } from '../api.ts';
import { useAppDispatch } from '../store.ts';
import type { Job } from '../types.ts';

/** Follows the server's events: every step of a job updates the list, a finished import updates the shoots. */
export function useJobEvents(): void {
  const dispatch = useAppDispatch();
  useEffect(() => {
    const source = new EventSource('/api/events');
    source.addEventListener('job', (event) => {
      const job = JSON.parse((event as MessageEvent<string>).data) as Job;
      dispatch(
        api.util.updateQueryData('jobs', undefined, (jobs) => {
          const at = jobs.findIndex((j) => j.id === job.id);
          if (at >= 0) jobs[at] = job;
          else jobs.unshift(job);
        }),
      );
      if (job.kind === 'import') dispatch(api.util.invalidateTags(['Shoot']));
      else if (job.state === 'done') dispatch(api.util.invalidateTags(['Shoot']));
    });
    source.addEventListener('open', () => {
      dispatch(api.util.invalidateTags(['Job']));
    });
    return () => source.close();
  }, [dispatch]);
}
