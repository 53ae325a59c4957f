import { useEffect, useState } from 'react';
import { api } from '../api.ts';
import { saver } from '../saving/index.ts';
import { useAppDispatch, type Dispatch } from '../store.ts';
import type { EvennessNews, Frame, JobNews } from '../types.ts';
import { mendFrame } from './mendFrame.ts';
import { isServerAway, serverAnswered } from './serverAway.ts';

/** Mends the list of jobs by one step of one of them. */
function jobStepped(dispatch: Dispatch, news: JobNews): void {
  const { failure, finished, ...change } = news;
  let known = false;
  dispatch(
    api.util.updateQueryData('jobs', undefined, (jobs) => {
      const job = jobs.find((j) => j.id === news.id);
      if (!job) return;
      known = true;
      Object.assign(job, change);
      if (finished && !job.recent.some((r) => r.frameId === finished.frameId)) job.recent = [...job.recent, finished].slice(-12);
      if (failure && !job.failures.some((f) => f.id === failure.id)) job.failures.push(failure);
    }),
  );
  if (!known) dispatch(api.util.invalidateTags(['Job']));
  const over = news.state !== 'running' && news.state !== 'waiting';
  if (over) dispatch(api.util.invalidateTags(['Shoots', { type: 'Shoot', id: news.shootId }]));
}
/** A refused source of news is opened anew after so long, in milliseconds; a browser does so by itself only where it was cut off. */
const refusedMs = 3000;
/** Follows the server's news and mends what the pages hold by them; after a silence everything is asked anew. */
export function useNews(closed: boolean): void {
  const dispatch = useAppDispatch(),
    [turn, setTurn] = useState(0);
  useEffect(() => {
    // whoever is logged out is told nothing
    if (closed) return;
    const source = new EventSource('/api/events');
    let opened = turn > 0;
    const on = <T>(kind: string, handle: (news: T) => void): void =>
      source.addEventListener(kind, (e) => handle(JSON.parse((e as MessageEvent<string>).data) as T));
    on<{ job: JobNews }>('job', ({ job }) => jobStepped(dispatch, job));
    on<{ frame: Frame }>('frame', ({ frame }) => mendFrame(dispatch, frame));
    on<{ id: number }>('shoot', ({ id }) => dispatch(api.util.invalidateTags(['Shoots', { type: 'Shoot', id }])));
    // what is under way is shown by whoever has it open; at its end the shoot is asked for anew
    on<EvennessNews>('evenness', (news) => {
      window.dispatchEvent(new CustomEvent('dyepot-evenness', { detail: news }));
      if (news.done === news.total) dispatch(api.util.invalidateTags([{ type: 'Shoot', id: news.shootId }]));
    });
    on('shoots', () => dispatch(api.util.invalidateTags(['Shoots', 'Job'])));
    on('looks', () => dispatch(api.util.invalidateTags(['Looks', 'Look'])));
    on('drafts', () => dispatch(api.util.invalidateTags(['Draft'])));
    on('trash', () => dispatch(api.util.invalidateTags(['Trash'])));
    on('stocks', () => dispatch(api.util.invalidateTags(['Stocks'])));
    on('watches', () => dispatch(api.util.invalidateTags(['Watches'])));
    on('presets', () => dispatch(api.util.invalidateTags(['Preset'])));
    source.addEventListener('open', () => {
      const back = isServerAway();
      serverAnswered(true);
      if (opened || back) {
        dispatch(api.util.invalidateTags(['Shoots', 'Shoot', 'Looks', 'Look', 'Draft', 'Job', 'Trash', 'Preset', 'Settings', 'Stocks']));
        void saver.flush();
      }
      opened = true;
    });
    let again: ReturnType<typeof setTimeout> | undefined;
    source.addEventListener('error', () => {
      if (source.readyState !== EventSource.CLOSED) return serverAnswered(false);
      // refused: whether one has to log in is told by any answer; a proxy whose server is away is asked again
      dispatch(api.util.invalidateTags(['Settings']));
      again = setTimeout(() => setTurn((n) => n + 1), refusedMs);
    });
    return () => {
      clearTimeout(again);
      source.close();
    };
  }, [dispatch, closed, turn]);
}
