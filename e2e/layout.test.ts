import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { join } from 'node:path';
import type { Page } from 'playwright-core';
import { root } from '@dyepot/server/src/places.ts';
import { painted, setStage, type Stage } from './stage.ts';

let stage: Stage;
beforeAll(async () => {
  stage = await setStage();
});
afterAll(() => stage.close());
const at = async (path: string, ready: (p: Page) => Promise<unknown>): Promise<Page> => {
  const page = await stage.open(path);
  await ready(page);
  return page;
};
const shown = (page: Page): Promise<unknown> => page.locator('[data-frame]').first().waitFor();

describe('nothing is cut off or pushed out', () => {
  const long = 'A very long name that a client gave to this work, with places, dates and a season';
  it.each([
    ['1024 wide', 1024, 700, 1],
    ['at 200 %', 1280, 800, 2],
  ])('%s, with names of 80 letters', async (_, width, height, zoom) => {
    const page = await at('/shoots/1', shown);
    await page.request.patch(`${stage.origin}/api/shoots/1`, { data: { name: long.slice(0, 80) } });
    await page.request.post(`${stage.origin}/api/frames/say`, { data: { frames: [{ id: 1, light: long.slice(0, 60) }] } });
    const looks = (await (await page.request.get(`${stage.origin}/api/looks/7`)).json()) as { document: object };
    await page.request.post(`${stage.origin}/api/looks/7/revisions`, {
      data: { look: { ...looks.document, name: long.slice(0, 80) }, from: null },
    });
    await page.setViewportSize({ width: width / zoom, height: height / zoom });
    for (const path of [
      '/shoots',
      '/shoots/1',
      '/shoots/1/evenness',
      '/shoots/1/swatches',
      '/shoots/1/compare?side=6',
      '/bench?shoot=1&look=7',
      '/ground?shoot=1&frame=1',
      '/shelf',
      '/deliveries',
      '/trash',
    ]) {
      await page.goto(stage.origin + path);
      await page.getByRole('heading', { level: 1 }).waitFor();
      await page.waitForFunction(() => !document.querySelector('.quiet-page[role=status]'));
      const out = await page.evaluate(() => {
        const room = { width: document.documentElement.scrollWidth, height: document.documentElement.scrollHeight },
          found: string[] = [];
        for (const e of document.querySelectorAll<HTMLElement>(
          'header button, header nav a, .work-path > *, .filter-bar > *, .table-tools button, .selection-bar button, .shelf-bar > *',
        )) {
          const r = e.getBoundingClientRect();
          if (r.width > 0 && (r.left + scrollX < -1 || r.right + scrollX > room.width + 1 || r.bottom + scrollY > room.height + 1))
            found.push(e.textContent!.slice(0, 40));
        }
        // words that do not fit are shown whole when pointed at
        for (const e of document.querySelectorAll<HTMLElement>('h1, h2, .chip b, .witness-line span')) {
          const titled = e.closest('[title]') !== null || e.querySelector('[title]') !== null;
          if (e.scrollWidth > e.clientWidth + 1 && e.clientWidth > 0 && !titled) found.push(`cut: ${e.textContent!.slice(0, 40)}`);
        }
        return found;
      });
      expect([path, out]).toEqual([path, []]);
    }
    await page.close();
  });
  it('in forced colours what is chosen and what has the focus can still be told', async () => {
    const context = await stage.browser.newContext({ forcedColors: 'active', viewport: { width: 1280, height: 800 } }),
      page = await context.newPage();
    await page.goto(`${stage.origin}/bench?shoot=1&look=6`);
    await painted(page);
    const border = await page.evaluate(() => {
      const of = (s: string): string => getComputedStyle(document.querySelector(s)!).borderTopColor;
      return [of('.chip.selected'), of('.chip:not(.selected)')];
    });
    expect(border[0]).not.toBe(border[1]);
    await context.close();
  });
  it('each page has a title of its own', async () => {
    const page = await at('/shoots', (p) => p.getByRole('article').first().waitFor()),
      titles = new Set<string>();
    for (const path of [
      '/shoots',
      '/shoots/1',
      '/shoots/1/evenness',
      '/shoots/1/swatches',
      '/shoots/1/compare?side=6',
      '/bench?shoot=1&look=1',
      '/ground?shoot=1',
      '/shelf',
      '/deliveries',
      '/trash',
      '/nowhere',
      '/shoots/99',
    ]) {
      await page.goto(stage.origin + path);
      await page.getByRole('heading', { level: 1 }).waitFor();
      // a page that is being opened has the title of none
      await page.waitForFunction((known) => !/Opening/.test(document.title) && !known.includes(document.title), [...titles]);
      titles.add(await page.title());
    }
    expect(titles.size).toBe(12);
    await page.close();
  });
});

it('a page whose piece cannot be fetched is a designed one, and comes when it can be', async () => {
  const page = await stage.browser.newPage();
  await page.route('**/assets/TrashScreen*', (route) => route.abort());
  await page.goto(`${stage.origin}/trash`);
  await page.getByRole('heading', { name: 'This page could not be fetched' }).waitFor();
  await page.unroute('**/assets/TrashScreen*');
  await page.getByRole('button', { name: 'Try again' }).click();
  await page
    .getByRole('heading', { name: /The trash is empty|Trash/ })
    .first()
    .waitFor();
  await page.close();
});

it('the bench takes under 260 kB of gzipped script to first use; hashed files are compressed and kept a year', async () => {
  const { readFileSync } = await import('node:fs'),
    page = await stage.browser.newPage();
  await page.addInitScript(() => {
    new MutationObserver((_, self) => {
      if (!document.querySelector('canvas[data-testid=lead][data-ready]')) return;
      document.documentElement.dataset['firstUse'] = String(performance.now());
      self.disconnect();
    }).observe(document, { subtree: true, childList: true, attributes: true });
  });
  await page.goto(`${stage.origin}/bench?shoot=1&look=6`);
  await painted(page);
  // what is fetched later, when the picture stands, is not waited for
  const names = await page.evaluate(() =>
    performance
      .getEntriesByType('resource')
      .filter((r) => r.startTime <= Number(document.documentElement.dataset['firstUse']))
      .map((r) => new URL(r.name).pathname)
      .filter((p) => /^\/assets\/.*\.js$/.test(p)),
  );
  const bytes = [...new Set(names)].reduce((n, p) => n + readFileSync(join(root, 'dist/web', `${p}.gz`)).length, 0);
  console.log(`the bench to first use: ${bytes} bytes of gzipped script in ${names.length} files`);
  expect(bytes).toBeGreaterThan(50_000);
  expect(bytes).toBeLessThan(260_000);
  for (const [asked, given] of [
    ['gzip', 'gzip'],
    ['br, gzip', 'br'],
  ]) {
    const { headers } = await fetch(`${stage.origin}${names[0]}`, { headers: { 'Accept-Encoding': asked! } });
    expect([headers.get('content-encoding'), headers.get('cache-control')]).toEqual([given, 'public, max-age=31536000, immutable']);
  }
  await page.close();
});
