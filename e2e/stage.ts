import { vi } from 'vitest';
import { spawnSync } from 'node:child_process';
import { copyFileSync, existsSync, linkSync, mkdirSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Browser, Page } from 'playwright-core';
import type { Look } from '@dyepot/core/src/look/look.ts';
import { root } from '@dyepot/server/src/places.ts';
import { seededFolder } from './seeded.ts';
import { launch, serve, type Served } from '../scripts/served.mjs';

export interface Stage {
  origin: string;
  browser: Browser;
  data: string;
  open(path: string): Promise<Page>;
  /** Ends the server, the page still open; and starts it again at the same address. */
  pauseServer(): Promise<void>;
  killServer(): Promise<void>;
  resumeServer(): Promise<void>;
  close(): Promise<void>;
  complaints: string[];
}

/** The same folder for one stage: plates and pictures are only ever written beside and renamed, so they are linked; the database is copied. */
function layOut(from: string, to: string): void {
  for (const entry of readdirSync(from, { withFileTypes: true })) {
    // the lock is of the folder it lies in
    if (entry.name.startsWith('running.')) continue;
    const [source, target] = [join(from, entry.name), join(to, entry.name)];
    if (entry.isDirectory()) {
      mkdirSync(target, { recursive: true });
      layOut(source, target);
    } else if (/sqlite/.test(entry.name)) copyFileSync(source, target);
    else
      try {
        linkSync(source, target);
      } catch {
        copyFileSync(source, target);
      }
  }
}

/** Someone who may change things, where people log in. */
export const someone = { name: 'Ines Fell', password: 'seven skeins hang by the weir' };
/** Gives someone a password, and the server a certificate of its own; returns the options that make it answer other machines. */
function madeReady(data: string, env: NodeJS.ProcessEnv): string[] {
  const [cert, key] = [join(data, 'cert.pem'), join(data, 'key.pem')],
    ask = ['req', '-x509', '-newkey', 'rsa:2048', '-nodes', '-days', '2', '-subj', '/CN=127.0.0.1', '-keyout', key, '-out', cert];
  spawnSync('openssl', ask);
  spawnSync(process.execPath, [join(root, 'dist/dyepot.mjs'), 'people', 'add', someone.name], { env, input: someone.password });
  return ['--listen', '127.0.0.1', '--tls-cert', cert, '--tls-key', key];
}

/** Starts the real server on a fresh data folder with the demo shoot, and Debian's Chromium. `away`: for other machines, where people log in. */
export async function setStage(options: { demo: boolean; away?: boolean } = { demo: true }): Promise<Stage> {
  if (!existsSync('/usr/bin/chromium')) throw new Error('Chromium is missing: apt-get install chromium');
  const data = mkdtempSync(join(tmpdir(), 'dyepot-e2e-')),
    env = { ...process.env, DYEPOT_DATA: data };
  if (options.demo) layOut(seededFolder(), data);
  const away = options.away ? madeReady(data, env) : [];
  const serveAt = (port: string): Promise<Served> => serve(data, ['--port', port, ...away]);
  let served = await serveAt('0');
  const { origin } = served;
  const browser = await launch(),
    complaints: string[] = [];
  return {
    origin,
    browser,
    data,
    complaints,
    async open(path) {
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, ignoreHTTPSErrors: true });
      page.setDefaultTimeout(30_000);
      page.on('pageerror', (e) => complaints.push(e.message));
      page.on('console', (m) => {
        if (m.type() === 'error' && !/status of 4\d\d/.test(m.text())) complaints.push(m.text());
      });
      await page.goto(origin + path);
      return page;
    },
    pauseServer: () => served.end(),
    killServer: () => served.end('SIGKILL'),
    async resumeServer() {
      served = await serveAt(new URL(origin).port);
    },
    async close() {
      await browser.close();
      await served.end();
      rmSync(data, { recursive: true, force: true });
    },
  };
}

/** Waits until the lead frame is painted whole. */
export async function painted(page: Page): Promise<void> {
  await page.waitForFunction(() => {
    const c = document.querySelector<HTMLCanvasElement>('canvas[data-testid=lead]');
    return c?.dataset['ready'] !== undefined && c.dataset['ready'] === c.dataset['piece'];
  });
}
/** Waits until every picture is up to date and none has been painted for so many frames of the page. */
export const still = (page: Page, quiet = 6): Promise<void> =>
  page.evaluate(
    (wanted) =>
      new Promise<void>((resolve) => {
        let last = '',
          rested = 0,
          since = performance.now();
        const look = (): void => {
          const now = [...document.querySelectorAll('canvas')]
            .map((c) => `${c.getAttribute('aria-busy')}${c.dataset['painted'] ?? ''}`)
            .join();
          if (now !== last || now.includes('true')) [rested, since] = [0, performance.now()];
          else rested++;
          last = now;
          if (rested >= wanted && performance.now() - since > 120) resolve();
          else requestAnimationFrame(look);
        };
        requestAnimationFrame(look);
      }),
    quiet,
  );
/** What a hand does on the Ground: opens a part, nudges a control by keys; both wait for the pictures. */
export const groundHand = (
  page: () => Page,
): { part: (name: RegExp) => Promise<void>; nudge: (slider: string, key: string, times: number) => Promise<void> } => ({
  part: async (name) => {
    await page().getByRole('tab', { name }).click();
    await still(page());
  },
  nudge: async (slider, key, times) => {
    const s = page().getByRole('slider', { name: slider, exact: true });
    await s.focus();
    for (let i = 0; i < times; i++) await page().keyboard.press(key);
    await still(page());
  },
});
/** Mean colour of the lead canvas. */
export const meanOf = (page: Page, test = 'lead'): Promise<number[]> =>
  page.evaluate((id) => {
    const c = document.querySelector<HTMLCanvasElement>(`canvas[data-testid=${id}]`)!,
      d = c.getContext('2d')!.getImageData(0, 0, c.width, c.height).data,
      s = [0, 0, 0];
    for (let i = 0; i < d.length; i += 4) for (let k = 0; k < 3; k++) s[k]! += d[i + k]!;
    return s.map((v) => v / (d.length / 4));
  }, test);

/** The look on the bench: the draft or the revision that the page's address names, once it is kept. */
export async function lookOnBench(page: Page): Promise<Look> {
  await kept(page);
  const at = new URL(page.url()),
    [draft, look, revision] = ['draft', 'look', 'revision'].map((k) => at.searchParams.get(k)),
    answer = await page.request.get(draft ? `${at.origin}/api/drafts/${draft}` : `${at.origin}/api/looks/${look}?revision=${revision}`),
    read = (await answer.json()) as { look?: Look; document?: Look };
  return (read.look ?? read.document)!;
}
/** Waits until the server has all that was done on the page. */
export const kept = async (page: Page): Promise<void> => {
  await page.waitForFunction(() => document.documentElement.dataset['saving'] === 'kept');
};

/** Whether the lead's canvas holds the very bytes that the server renders for that piece under the look on the bench. */
/** Asks again until the answer is what is waited for, and gives it. */
export async function until<T>(ask: () => Promise<T>, ready: (answer: T) => boolean): Promise<T> {
  let answer!: T;
  await vi.waitUntil(async () => ready((answer = await ask())), { timeout: 30_000, interval: 60 });
  return answer;
}
export const leadAsServer = async (page: Page): Promise<{ equal: boolean; pixels: number }> =>
  page.evaluate(
    async (look) => {
      const c = document.querySelector<HTMLCanvasElement>('canvas[data-testid=lead]')!,
        [frame, level, rect] = c.dataset['ready']!.split('/'),
        [x, y, width, height] = rect!.split(',').map(Number),
        ours = c.getContext('2d')!.getImageData(0, 0, c.width, c.height).data;
      const theirs = new Uint8Array(
        await (
          await fetch(`/api/frames/${frame}/region/${level}`, {
            method: 'POST',
            headers: { 'Content-Type': 'application/json' },
            body: JSON.stringify({ look, area: { x, y, width, height } }),
          })
        ).arrayBuffer(),
      );
      let same = theirs.length === ours.length;
      for (let i = 0; i < ours.length && same; i++) same = ours[i] === theirs[i];
      return { equal: same, pixels: ours.length / 4 };
    },
    await lookOnBench(page),
  );
