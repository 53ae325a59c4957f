import { Router } from 'express';
import { followNews } from '../services/news.ts';

/** What may wait for a page that does not read (it sleeps), in bytes; past it the page is let go, and fetches all anew when it comes back. */
const mostWaiting = 262_144;
const heartbeatMs = 20_000;

/** News as they happen (server-sent events, WHATWG HTML 9.2). */
export function eventRoutes(): Router {
  const api = Router();
  api.get('/events', (req, res) => {
    res.set({ 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store' }).flushHeaders();
    res.write('retry: 1500\n: open\n\n');
    const send = (text: string): void => {
      if (res.writableLength > mostWaiting) return void res.destroy();
      res.write(text);
    };
    const leave = followNews(({ kind, ...news }) => send(`event: ${kind}\ndata: ${JSON.stringify(news)}\n\n`)),
      beat = setInterval(() => send(': still here\n\n'), heartbeatMs);
    res.on('close', () => {
      leave();
      clearInterval(beat);
    });
    req.on('error', () => res.destroy());
  });
  return api;
}
