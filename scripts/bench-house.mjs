// What the house costs with many things in it: a shoot of 1,000 frames, a Shelf of 500 looks, the events of a job. Prints rows for the bench.
import { spawnSync } from 'node:child_process';
import { copyFileSync, linkSync, mkdirSync, mkdtempSync, readFileSync, rmSync, symlinkSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { performance } from 'node:perf_hooks';
import { launch, serve } from './served.mjs';

const require = createRequire(import.meta.url),
  sqlite3 = require('sqlite3'),
  frames = 1000,
  looks = 500;
const ask = (file, sql) =>
  new Promise((resolve, reject) => {
    const d = new sqlite3.Database(file);
    d.all(sql, (error, rows) => d.close(() => (error ? reject(error) : resolve(rows))));
  });
/** A data folder with a shoot of a thousand frames (the demo's fifteen over and over, each a raw of its own) and five hundred looks. */
async function lay(data) {
  spawnSync(process.execPath, ['dist/seed.mjs'], { env: { ...process.env, DYEPOT_DATA: data }, stdio: 'ignore' });
  const file = join(data, 'dyepot.sqlite'),
    raws = join(data, 'raws');
  mkdirSync(raws);
  const seeds = await ask(file, 'SELECT id, name, path, hash FROM frames ORDER BY id');
  const values = [],
    contents = [],
    facts = 'width, height, kelvin, tintDuv, facts, survey, signature, createdAt';
  for (let i = seeds.length; i < frames; i++) {
    const s = seeds[i % seeds.length],
      hash = `${i.toString(16).padStart(8, '0')}${s.hash.slice(8)}`,
      path = join(raws, `B-${i}.dng`);
    try {
      linkSync(s.path, path);
    } catch {
      copyFileSync(s.path, path);
    }
    symlinkSync(join(data, 'plates', s.hash), join(data, 'plates', hash));
    contents.push(`SELECT '${hash}', ${facts} FROM raws WHERE hash = '${s.hash}'`);
    values.push(`SELECT shootId, 'B-${String(i).padStart(4, '0')}', '${path}', '${hash}', light, createdAt FROM frames WHERE id = ${s.id}`);
  }
  for (let i = 0; i < values.length; i += 50) {
    await ask(file, `INSERT INTO raws (hash, ${facts}) ${contents.slice(i, i + 50).join(' UNION ALL ')}`);
    await ask(file, `INSERT INTO frames (shootId, name, path, hash, light, createdAt) ${values.slice(i, i + 50).join(' UNION ALL ')}`);
  }
  const { origin, end } = await serve(data),
    look = JSON.parse(readFileSync('e2e/looks/weld-morning.json', 'utf8'));
  for (let i = 0; i < looks; i++)
    await fetch(`${origin}/api/looks`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ ...look, name: `Look ${i}`, strength: 0.5 + i / looks }),
    });
  await end();
}
const median = (list) => [...list].sort((a, b) => a - b)[list.length >> 1];
/** The median time of asking five times, and the size of the answer as it is sent. */
async function asked(url) {
  const times = [];
  let bytes = 0;
  for (let i = 0; i < 5; i++) {
    const began = performance.now(),
      answer = await fetch(url);
    bytes = (await answer.arrayBuffer()).byteLength;
    times.push(performance.now() - began);
  }
  return { ms: median(times), bytes };
}

/** Five thousand looks: how long what is looked for takes, and the Shelf that has them. */
async function lookedFor(data, row) {
  const file = join(data, 'dyepot.sqlite'),
    kept = ['looks', 'look_revisions'],
    columns = {};
  for (const table of kept)
    columns[table] = (await ask(file, `SELECT name FROM pragma_table_info('${table}')`)).map((c) => c.name).filter((c) => c !== 'id');
  const [{ n, last }] = await ask(file, 'SELECT count(*) AS n, max(id) AS last FROM looks');
  for (let copy = 1; copy * n < 5000; copy++) {
    const by = copy * (last + 1),
      of = (table) => columns[table].map((c) => (c === 'lookId' ? `lookId + ${by}` : c === 'name' ? `name || ' ${copy}'` : c)).join();
    for (const sql of [
      `INSERT INTO looks (id, ${columns.looks.join()}) SELECT id + ${by}, ${of('looks')} FROM looks WHERE id <= ${last}`,
      `INSERT INTO look_revisions (${columns.look_revisions.join()}) SELECT ${of('look_revisions')} FROM look_revisions WHERE lookId <= ${last}`,
      `INSERT INTO look_words (rowid, name, family, tags, notes, steps, words)
         SELECT rowid + ${by}, name || ' ${copy}', family, tags, notes, steps, words FROM look_words WHERE rowid <= ${last}`,
    ])
      await ask(file, sql);
  }
  const { origin, end } = await serve(data);
  await new Promise((r) => setTimeout(r, 2500));
  const times = [];
  for (const words of ['warm', 'lifted blacks', 'grain', 'weld', 'b', 'black and white', 'look 17'])
    times.push((await asked(`${origin}/api/looks/found?words=${encodeURIComponent(words)}`)).ms);
  row('looking through 5,000 looks, the slowest of seven', Math.max(...times), 'ms', 50);
  row('Shelf of 5,000 looks, server', (await asked(`${origin}/api/looks`)).ms / 1000, 's', 1);
  await end();
}

/** Measures; returns rows of name, figure, unit and bar. */
/** Evenness of a thousand frames that were compared before: what one pair says is taken for all. */
async function evenMany(data, row) {
  const file = join(data, 'dyepot.sqlite'),
    first = await serve(data),
    even = async (origin) => (await fetch(`${origin}/api/shoots/1/evenness?under=none`)).json(),
    { groups } = await even(first.origin);
  await fetch(`${first.origin}/api/shoots/1/evenness`, { method: 'POST' });
  let one = [];
  while (one.length === 0) {
    await new Promise((r) => setTimeout(r, 500));
    one = await ask(file, 'SELECT evidence FROM comparisons LIMIT 1');
  }
  await first.end();
  const hashes = new Map((await ask(file, 'SELECT id, hash FROM frames')).map((f) => [f.id, f.hash])),
    pairs = groups.flatMap(({ frames: of }) =>
      of.flatMap((f, i) =>
        [...new Set([0, i - 2, i - 1])].filter((j) => j >= 0 && j < i).map((j) => [hashes.get(f.id), hashes.get(of[j].id)]),
      ),
    );
  for (let i = 0; i < pairs.length; i += 200)
    await ask(
      file,
      `INSERT OR IGNORE INTO comparisons ("from", "to", evidence) VALUES ${pairs
        .slice(i, i + 200)
        .map(([from, to]) => `('${from}', '${to}', '${one[0].evidence}')`)
        .join()}`,
    );
  const { origin, end } = await serve(data);
  await new Promise((r) => setTimeout(r, 1500));
  const began = performance.now(),
    { missing } = await even(origin);
  row('evenness of 1,000 frames that were compared before, first time', (performance.now() - began) / 1000, 's', 3);
  if (missing > 8) throw new Error(`${missing} frames are not compared`);
  row('the same again', (await asked(`${origin}/api/shoots/1/evenness?under=none`)).ms / 1000, 's', 3);
  row('under the look', (await asked(`${origin}/api/shoots/1/evenness`)).ms / 1000, 's', 3);
  await end();
}

export async function houseRows() {
  const data = mkdtempSync(join(tmpdir(), 'dyepot-house-'));
  await lay(data);
  const { origin, end } = await serve(data),
    rows = [],
    row = (name, figure, unit, bar) => rows.push({ name, figure: Math.round(figure * 100) / 100, unit, bar });
  // a server that has come up, and a client whose own beginnings are behind it
  await new Promise((r) => setTimeout(r, 2500));
  await (await fetch(`${origin}/api/settings`)).arrayBuffer();
  const first = performance.now();
  await (await fetch(`${origin}/api/shoots/1`)).arrayBuffer();
  row('open a shoot of 1,000 frames, server, first time', (performance.now() - first) / 1000, 's', 0.4);
  const shoot = await asked(`${origin}/api/shoots/1`);
  row('open it again', shoot.ms / 1000, 's', 0.4);
  row('Shelf of 508 looks, server', (await asked(`${origin}/api/looks`)).ms / 1000, 's', 0.3);
  const browser = await launch(),
    page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  // the browser too: its own start is not the page's
  await page.goto('about:blank');
  await page.waitForTimeout(2000);
  const until = async (path, ready) => {
    const began = performance.now();
    await page.goto(origin + path);
    await page.waitForFunction(ready);
    return (performance.now() - began) / 1000;
  };
  // pictures that were never made: the first of them, and all in the window
  const some = () => document.querySelectorAll('.sheet-frame .picture.ready').length > 0;
  row('shoot of 1,000 frames, cold, to its first picture', await until('/shoots/1', some), 's', 1.2);
  await page.waitForFunction(() => document.querySelectorAll('.sheet-frame .picture.waiting').length === 0);
  row(
    'the same, pictures made before, to all in the window',
    await until('/shoots/1', () => document.querySelectorAll('.sheet-frame .picture.ready').length > 8),
    's',
    1.2,
  );
  // from the first frame shown to the last, so that a whole number of them is counted
  const scrolled = () =>
    page.evaluate(
      () =>
        new Promise((resolve) => {
          const scroller = document.querySelector('[data-testid=contact-sheet]');
          scroller.scrollTop = 0;
          let n = -1,
            began = 0;
          const step = (now) => {
            if (++n === 0) began = now;
            scroller.scrollTop += 24;
            if (now - began < 3000) requestAnimationFrame(step);
            else resolve((1000 * n) / (now - began));
          };
          setTimeout(() => requestAnimationFrame(step), 500);
        }),
    );
  row('contact sheet of 1,000, scrolled while its pictures are made', await scrolled(), 'frames a second', 55);
  row('the same, pictures made before', await scrolled(), 'frames a second', 58);
  // from the choice to the frame of the page that shows what is left
  const letThrough = (value) =>
    page.evaluate(
      (v) =>
        new Promise((resolve) => {
          const choice = document.querySelector('select[aria-label=Light]'),
            began = performance.now();
          Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype, 'value').set.call(choice, v);
          choice.dispatchEvent(new Event('change', { bubbles: true }));
          const look = () =>
            /^\d+ of \d+$/.test(document.querySelector('.filter-bar [role=status]')?.textContent ?? '') === (v !== '')
              ? requestAnimationFrame(() => resolve(performance.now() - began))
              : requestAnimationFrame(look);
          look();
        }),
      value,
    );
  const times = [];
  for (const light of ['Foggy moor', '', 'Dusk line', '', 'North window', '']) times.push(await letThrough(light));
  row('a filter over 1,000 frames, the slowest of six', Math.max(...times), 'ms', 100);
  row('Shelf of 508 looks, to its first cards', await until('/shelf', () => document.querySelectorAll('.look-card').length > 3), 's', 1);
  row('nodes of that page', await page.evaluate(() => document.querySelectorAll('*').length), 'nodes', 1500);
  // a delivery's events, as a page hears them
  const leave = new AbortController(),
    stream = await fetch(`${origin}/api/events`, { signal: leave.signal });
  let heard = 0;
  const listening = (async () => {
    for await (const piece of stream.body) heard += piece.length;
  })().catch(() => {});
  const order = await (
    await fetch(`${origin}/api/deliveries`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({
        shootId: 1,
        frameIds: Array.from({ length: 60 }, (_, i) => i + 1),
        file: { format: 'jpeg', depth: 8, space: 'srgb', size: 64, quality: 60 },
      }),
    })
  ).json();
  for (;;) {
    const job = await (await fetch(`${origin}/api/jobs/${order.id}`)).json();
    if (job.state === 'done') break;
    await new Promise((r) => setTimeout(r, 250));
  }
  leave.abort();
  await listening;
  row('events of a delivery, for each frame', heard / 60, 'bytes', 400);
  await browser.close();
  await end();
  await lookedFor(data, row);
  await evenMany(data, row);
  rmSync(data, { recursive: true, force: true });
  return rows;
}
if (process.argv[1]?.endsWith('bench-house.mjs')) console.table(await houseRows());
