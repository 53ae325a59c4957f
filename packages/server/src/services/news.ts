import { EventEmitter } from 'node:events';
import type { JobNews } from '../jobs/jobView.ts';

/** What happened, and only that: pages mend what they hold by it. */
export type News =
  | { kind: 'job'; job: JobNews }
  | { kind: 'frame'; shootId: number; frame: object }
  | { kind: 'shoot'; id: number }
  | { kind: 'evenness'; shootId: number; done: number; total: number; message: string | null }
  | { kind: 'shoots' | 'looks' | 'drafts' | 'trash' | 'presets' | 'stocks' | 'watches' };

const events = new EventEmitter<{ news: [News] }>();
events.setMaxListeners(1000);

export const tellNews = (news: News): void => {
  events.emit('news', news);
};
/** Calls back with all news until what it returns is called. */
export function followNews(listener: (news: News) => void): () => void {
  events.on('news', listener);
  return () => events.off('news', listener);
}
