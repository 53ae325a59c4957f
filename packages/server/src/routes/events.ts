import { Router } from 'express';
import { tokenOf } from '../people/door.ts';
import { whoAsks } from '../people/sessions.ts';
import { followNews } from '../services/news.ts';

/** What may wait for a page that does not read (it sleeps), in bytes; past it the page is let go, and fetches all anew when it comes back. */
const mostWaiting = 262_144;
const heartbeatMs = 20_000,
  doorMs = 5000;

/** News as they happen (server-sent events, WHATWG HTML 9.2). */
export function eventRoutes(away: boolean): Router {
  const api = Router();
  api.get('/events', (req, res) => {
    res.set({ 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store' }).flushHeaders();
    res.write('retry: 1500\n: open\n\n');
    const send = (text: string): void => {
      if (res.writableLength > mostWaiting) return void res.destroy();
      res.write(text);
    };
    const leave = followNews(({ kind, ...news }) => send(`event: ${kind}\ndata: ${JSON.stringify(news)}\n\n`)),
      beat = setInterval(() => send(': still here\n\n'), heartbeatMs),
      // whoever is not let in any more hears no more
      door = away
        ? setInterval(() => {
            whoAsks(tokenOf(req), false).then(
              (who) => who ?? res.end(),
              () => {},
            );
          }, doorMs)
        : undefined;
    res.on('close', () => {
      leave();
      clearInterval(beat);
      clearInterval(door);
    });
    req.on('error', () => res.destroy());
  });
  return api;
}
