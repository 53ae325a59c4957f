// How even shoots come out that were not used while tuning: five of other seeds, framings and drifts, and the demo's. Prints rows for the bench.
import { execFileSync, spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync } from 'node:fs';
import { availableParallelism, tmpdir } from 'node:os';
import { basename, join } from 'node:path';

const kept = process.env.DYEPOT_SHOOTS ?? join(tmpdir(), 'dyepot-shoots'),
  views = ['window-0', 'window-1', 'window-2', 'window-3', 'window-3', 'vat-0', 'vat-1', 'vat-2', 'vat-3', 'vat-3'].concat([
    'dusk-0',
    'dusk-1',
    'dusk-2',
    'dusk-2',
    'moor-0',
    'moor-1',
    'moor-2',
    'moor-2',
  ]),
  believed = { window: 6500, vat: 3000, dusk: 6200, moor: 5500 },
  days = { window: 9, vat: 11, dusk: 18, moor: 7 };
/** Numbers from 0 to 1 that are the same each time (Park and Miller 1988). */
const random = (seed) => () => (seed = (seed * 48271) % 2147483647) / 2147483647;

/** What is photographed in a shoot: up to ±1 EV and ±600 K off, each view a step aside. */
function planned(seed) {
  const next = random(seed * 7919),
    about = (reach) => reach * (2 * next() - 1);
  return views.map((view, i) => {
    const light = view.split('-')[0],
      step = [about(0.12), about(0.06), about(0.12)].map((v) => v.toFixed(3)).join();
    return {
      name: `S${seed}-${String(i + 1).padStart(2, '0')}`,
      args: [
        ...['--scene', `${view}:${step}`, `--ev=${about(1).toFixed(2)}`, '--believed', String(Math.round(believed[light] + about(600)))],
        ...[
          '--iso',
          String([100, 200, 400, 800][Math.floor(4 * next())]),
          '--time',
          `2025:10:0${seed % 9} ${String(days[light]).padStart(2, '0')}:${String(10 + 4 * (i % 5))}:00`,
        ],
        ...['--seed', String(seed), '--size', '1224x816', '--light', '408x272', '--samples', '4', '--lights', join(kept, 'lights')],
      ],
    };
  });
}
/** Takes what is not there yet of a shoot, on all cores; its folder. */
async function taken(seed) {
  const folder = join(kept, String(seed)),
    waiting = planned(seed).filter(({ name }) => !existsSync(join(folder, `${name}.truth.json`)));
  mkdirSync(folder, { recursive: true });
  await Promise.all(
    Array.from({ length: availableParallelism() }, async () => {
      for (let one = waiting.shift(); one; one = waiting.shift()) {
        const { name, args } = one,
          child = spawn(process.execPath, ['dist/camera.mjs', ...args, '--out', join(folder, `${name}.dng`)], {
            stdio: ['ignore', 'ignore', 'pipe'],
          });
        let said = '';
        child.stderr.on('data', (d) => (said += d));
        const status = await new Promise((resolve) => child.once('exit', resolve));
        if (status !== 0) throw new Error(`${name}: ${said}`);
      }
    }),
  );
  return folder;
}

const told = (...args) => {
    const r = spawnSync(process.execPath, ['dist/dyepot.mjs', ...args, '--json'], { encoding: 'utf8', maxBuffer: 1e8 });
    if (!r.stdout) throw new Error(r.stderr);
    return JSON.parse(r.stdout);
  },
  deviation = (v) => {
    const mean = v.reduce((a, b) => a + b, 0) / v.length;
    return Math.sqrt(v.reduce((a, b) => a + (b - mean) ** 2, 0) / v.length);
  };
/** How far two ways to part the same things agree: the adjusted Rand index (Hubert and Arabie 1985). */
function agreement(a, b) {
  const pairs = (n) => (n * (n - 1)) / 2,
    counted = (keys) => [...keys.reduce((m, k) => m.set(k, (m.get(k) ?? 0) + 1), new Map()).values()].reduce((s, n) => s + pairs(n), 0),
    [both, one, other, all] = [counted(a.map((k, i) => `${k} ${b[i]}`)), counted(a), counted(b), pairs(a.length)],
    expected = (one * other) / all;
  return (both - expected) / ((one + other) / 2 - expected);
}

/** What is measured of a shoot, each figure the worst of its lights. */
function measured(folder) {
  const files = readdirSync(folder)
      .filter((f) => f.endsWith('.dng'))
      .map((f) => join(folder, f)),
    // the demo's truths say their light; of the others the plan does
    lightOf = (f) => views[Number(/-(\d+)\.dng$/.exec(f)?.[1]) - 1]?.split('-')[0],
    truth = new Map(files.map((f) => [f, { light: lightOf(f), ...JSON.parse(readFileSync(f.replace('.dng', '.truth.json'), 'utf8')) }])),
    lights = [...new Set([...truth.values()].map((t) => t.light))],
    worst = { ev: 0, mired: 0, worse: 0, cardEv: 0, cardOff: 0, patches: 0, corners: 0, missed: 0, falsely: 0 };
  for (const light of lights) {
    const own = files.filter((f) => truth.get(f).light === light);
    if (own.length < 2) continue;
    const of = (f) => truth.get(f),
      run = (by, some, ...more) => told('match', ...some, '--anchor', some[0], '--by', by, ...more).frames.filter((f) => f.proposed),
      anchor = own.find((f) => of(f).chart) ?? own[0],
      matched = run('statistics', [anchor, ...own.filter((f) => f !== anchor)]),
      after = matched.map((m) => of(m.file).ev + m.proposed.exposureEv),
      before = matched.map((m) => of(m.file).ev),
      mired = (k) => 1e6 / k;
    worst.ev = Math.max(worst.ev, deviation(after) / deviation(before));
    worst.mired = Math.max(
      worst.mired,
      deviation(matched.map((m) => mired(m.proposed.kelvin ?? of(m.file).believedKelvin))) /
        deviation(matched.map((m) => mired(of(m.file).believedKelvin))),
    );
    const goal = of(anchor).ev;
    matched.forEach((m, i) => (worst.worse = Math.max(worst.worse, Math.abs(after[i] - goal) - Math.abs(before[i] - goal))));
    const charted = own.filter((f) => of(f).chart);
    for (const f of own) {
      const { chart } = told('chart', f),
        board = of(f).chart?.board;
      if (!board) worst.falsely += chart ? 1 : 0;
      else if (!chart) worst.missed++;
      else
        chart.corners.forEach(([x, y], i) => {
          const [width, height] = folder.endsWith('frames') ? [1632, 1088] : [1224, 816];
          worst.corners = Math.max(worst.corners, Math.hypot((x - board[i][0]) * width, (y - board[i][1]) * height));
        });
    }
    if (charted.length > 1) {
      for (const m of run('chart', charted).slice(1)) worst.patches = Math.max(worst.patches, m.patches.after);
      const card = of(charted[0]).chart.card,
        at = [0, 1].map((k) => (card.reduce((s, p) => s + p[k], 0) / 4).toFixed(4)).join();
      for (const m of run('patch', charted, '--at', at).slice(1)) {
        worst.cardEv = Math.max(worst.cardEv, Math.abs(of(m.file).ev + m.proposed.exposureEv - of(charted[0]).ev));
        worst.cardOff = Math.max(worst.cardOff, m.after.difference);
      }
    }
  }
  const groups = told('evenness', ...files).groups,
    found = new Map(groups.flatMap((g, i) => g.frames.map((f) => [basename(f.file), i])));
  return {
    ...worst,
    agreement: agreement(
      files.map((f) => truth.get(f).light),
      files.map((f) => found.get(basename(f))),
    ),
  };
}

export async function matchRows() {
  const rows = [];
  rows.push(...rowsOf('the demo', measured('packages/camera/frames')));
  for (const seed of [11, 12, 13, 14, 15]) rows.push(...rowsOf(`shoot ${seed}`, measured(await taken(seed))));
  return rows;
}
const rowsOf = (name, m) =>
  [
    ['exposure spread after matching by what both show, the worst light', m.ev, 'of what it was', 1 / 3],
    ['warmth spread', m.mired, 'of what it was', 1 / 3],
    ['a frame made worse', m.worse, 'EV', 0.1],
    ['by the grey card: exposure', m.cardEv, 'EV', 0.05],
    ['by the grey card: greys and skins', m.cardOff, 'CIEDE2000', 1],
    ['by the chart: patches in the mean', m.patches, 'CIEDE2000', 1.5],
    ['corners of charts', m.corners, 'pixels', 2],
    ['charts missed, or found where there is none', m.missed + m.falsely, 'frames', 0],
    ['lights told apart (adjusted Rand index; at least)', m.agreement, '', 0.95],
  ].map(([what, figure, unit, bar]) => ({
    name: `${name}: ${what}`,
    figure: Math.round(figure * 1000) / 1000,
    unit,
    bar: Math.round(bar * 1000) / 1000,
  }));
if (process.argv[1]?.endsWith('bench-match.mjs')) {
  execFileSync(process.execPath, ['-e', "import('./scripts/build.mjs').then((m) => m.buildServer())"]);
  console.table(await matchRows());
}
