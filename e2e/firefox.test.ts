import { existsSync } from 'node:fs';
import puppeteer, { type Browser } from 'puppeteer-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { setStage, type Stage } from './stage.ts';

let stage: Stage, browser: Browser;
beforeAll(async () => {
  if (!existsSync('/usr/bin/firefox-esr')) throw new Error('Firefox is missing: apt-get install firefox-esr');
  stage = await setStage();
  browser = await puppeteer.launch({ browser: 'firefox', executablePath: '/usr/bin/firefox-esr', headless: true, args: ['--no-sandbox'] });
}, 120000);
afterAll(async () => {
  await browser.close();
  await stage.close();
});

it('another browser walks the main path, and shows the very bytes the server renders', { timeout: 120000 }, async () => {
  const page = await browser.newPage();
  await page.setViewport({ width: 1280, height: 800 });
  await page.goto(`${stage.origin}/shoots`);
  await page.waitForSelector('.shoot-card a');
  await page.click('.shoot-card a');
  await page.waitForSelector('[role=option]');
  await page.goto(`${stage.origin}/bench?shoot=1&look=6`);
  await page.waitForFunction(() => {
    const c = document.querySelector<HTMLCanvasElement>('canvas[data-testid=lead]');
    return c?.dataset['ready'] !== undefined && c.dataset['ready'] === c.dataset['piece'];
  });
  await page.keyboard.press('2');
  await page.waitForFunction(() => {
    const c = document.querySelector<HTMLCanvasElement>('canvas[data-testid=lead]')!;
    return (
      /^\d+\/0\//.test(c.dataset['ready'] ?? '') && c.dataset['ready'] === c.dataset['piece'] && c.getAttribute('aria-busy') !== 'true'
    );
  });
  const [same, pixels] = await page.evaluate(async () => {
    const { document: look } = (await (await fetch('/api/looks/6')).json()) as { document: object },
      c = document.querySelector<HTMLCanvasElement>('canvas[data-testid=lead]')!,
      [frame, level, rect] = c.dataset['ready']!.split('/'),
      [x, y, width, height] = rect!.split(',').map(Number),
      ours = c.getContext('2d')!.getImageData(0, 0, c.width, c.height).data;
    const answer = await fetch(`/api/frames/${frame}/region/${level}`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ look, area: { x, y, width, height } }),
      }),
      theirs = new Uint8Array(await answer.arrayBuffer());
    return [theirs.length === ours.length && ours.every((v, i) => v === theirs[i]), ours.length / 4] as const;
  });
  expect(pixels).toBeGreaterThan(400000);
  expect(same).toBe(true);
  await page.focus('[role=slider][aria-label="Look strength"]');
  await page.keyboard.press('ArrowLeft');
  await page.waitForFunction(() => location.search.includes('draft='));
});
