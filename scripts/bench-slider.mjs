// Drags a slider in headless Chromium on the demo shoot and measures, for each change, the time to the lead's next paint.
import { spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from 'playwright-core';
import { twelveSteps } from './twelve-steps.mjs';

const env = { ...process.env, DYEPOT_DATA: mkdtempSync(join(tmpdir(), 'dyepot-slider-')) };
spawnSync(process.execPath, ['dist/seed.mjs'], { env });
const server = spawn(process.execPath, ['dist/dyepot.mjs', 'serve', '--port', '0'], { env, stdio: ['ignore', 'pipe', 'inherit'] });
const origin = await new Promise((resolve) => server.stdout.on('data', (d) => { const m = /http:\S+/.exec(d.toString()); if (m) resolve(m[0]); }));
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--headless', '--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync'] });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
// a twelve-step look and six witnesses
const base = JSON.parse(readFileSync('demo/looks/weld-morning.json', 'utf8')), made = await (await page.request.post(`${origin}/api/looks`, { data: twelveSteps(base), headers: { Origin: origin } })).json(), { frames } = await (await page.request.get(`${origin}/api/shoots/1`)).json();
await page.goto(`${origin}/shoots`);
await page.evaluate((ids) => localStorage.setItem('dyepot-bench-1', JSON.stringify({ shootId: 1, lookId: null, revision: null, edited: false, past: [], future: [], selected: 'stock', leadId: ids[0], witnessIds: ids.slice(1, 7), readout: 'histogram', view: {}, look: null })), frames.map((f) => f.id));
await page.goto(`${origin}/bench?look=${made.id}`);
await page.waitForSelector('canvas[data-testid=lead][data-ready]');
await page.getByRole('button', { name: /^Saturation,/ }).click();
await page.waitForTimeout(1500);
const result = await page.evaluate(async () => {
  const slider = document.querySelector('.tray [role=slider][aria-label=Change]'), canvas = document.querySelector('canvas[data-testid=lead]'), times = [], settled = [], read = [], figure = document.querySelector('.readout figure');
  let readAt = 0;
  new MutationObserver(() => { readAt ||= performance.now(); }).observe(figure, { subtree: true, attributes: true, attributeFilter: ['d'] });
  const until = (name, count) => new Promise((resolve) => { const look = () => (Number(canvas.dataset[name] ?? 0) >= count ? resolve() : setTimeout(look, 1)); look(); });
  slider.focus();
  for (let i = 0; i < 60; i++) {
    const before = Number(canvas.dataset.painted ?? 0), drafts = Number(canvas.dataset.drafts ?? 0), start = performance.now();
    readAt = 0;
    slider.dispatchEvent(new KeyboardEvent('keydown', { key: i % 2 ? 'ArrowLeft' : 'ArrowRight', bubbles: true, repeat: i > 0 }));
    await until('drafts', drafts + 2);
    times.push(Number(canvas.dataset.draftAt) - start);
    while (readAt === 0) await new Promise((resolve) => setTimeout(resolve, 1));
    read.push(readAt - start);
    await until('painted', before + 2);
    settled.push(Number(canvas.dataset.paintedAt) - start);
    await new Promise((resolve) => setTimeout(resolve, 40));
  }
  return { read: read.slice(5), times: times.slice(5), settled: settled.slice(5), megapixels: (canvas.width * canvas.height) / 1e6, witnesses: document.querySelectorAll('canvas[data-testid=witness]').length };
});
await browser.close();
server.kill();
const sorted = result.times.sort((a, b) => a - b);
const read = result.read.sort((a, b) => a - b);
const rest = result.settled.sort((a, b) => a - b);
console.log(JSON.stringify({ read50: read[Math.floor(read.length * 0.5)], read95: read[Math.floor(read.length * 0.95)], settled95: rest[Math.floor(rest.length * 0.95)], p50: sorted[Math.floor(sorted.length * 0.5)], p95: sorted[Math.floor(sorted.length * 0.95)], megapixels: result.megapixels, witnesses: result.witnesses }));
process.exit(0);
