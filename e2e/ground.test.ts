import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from 'playwright-core';
import type { Groundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import { root } from '@dyepot/server/src/places.ts';
import { groundHand, meanOf, painted, setStage, still, type Stage } from './stage.ts';

let stage: Stage,
  page: Page,
  chartId = 0;
interface Told {
  id: number;
  name: string;
  groundwork: Groundwork | null;
  output: { width: number; height: number };
  path: string;
}
const frames = async (): Promise<Told[]> =>
  ((await (await page.request.get(`${stage.origin}/api/shoots/1`)).json()) as { frames: Told[] }).frames;
const told = async (): Promise<Told> => (await frames()).find((f) => f.id === chartId)!;
const settled = (): Promise<void> => still(page);
const { part, nudge } = groundHand(() => page);

beforeAll(async () => {
  stage = await setStage();
  page = await stage.open('/shoots');
  page.setDefaultTimeout(15000);
  chartId = (await frames()).find((f) => f.name === 'TR-0444')!.id;
  await page.goto(`${stage.origin}/ground?shoot=1&frame=${chartId}`);
  await painted(page);
});
afterAll(async () => {
  await stage.close();
});

describe('light', () => {
  it('kinds of light go from warm to cool and each changes the picture as it says', async () => {
    const warmth = async (): Promise<number> => {
      const m = await meanOf(page);
      return m[0]! - m[2]!;
    };
    let last = -1e9;
    for (const name of ['Tungsten', 'Fluorescent', 'Daylight', 'Flash', 'Cloudy', 'Shade']) {
      await page.getByRole('button', { name, exact: true }).click();
      await settled();
      const now = await warmth();
      expect(now, name).toBeGreaterThan(last);
      last = now;
    }
    await page.getByRole('button', { name: 'As shot' }).click();
  });
  it('the grey card is picked and becomes grey; a blown lamp is refused with the reason', async () => {
    const { chart } = JSON.parse(readFileSync(join(root, 'packages/camera/frames/TR-0444.truth.json'), 'utf8')) as {
        chart: { card: [number, number][] };
      },
      [x, y] = [0, 1].map((k) => chart.card.reduce((a, p) => a + p[k]! / 4, 0)) as [number, number];
    const box = async (): Promise<{ x: number; y: number; width: number; height: number }> =>
        (await page.getByTestId('lead').boundingBox())!,
      b = await box();
    await page.getByRole('button', { name: 'Pick something neutral' }).click();
    await page.mouse.click(b.x + x * b.width, b.y + y * b.height);
    await page.getByText(/^Averaged 24 × 24 px/).waitFor();
    await settled();
    const grey = await page.evaluate(
      ([u, v]) => {
        const c = document.querySelector<HTMLCanvasElement>('canvas[data-testid=lead]')!,
          d = c.getContext('2d')!.getImageData(Math.round(u! * c.width) - 4, Math.round(v! * c.height) - 4, 8, 8).data,
          s = [0, 0, 0];
        for (let i = 0; i < d.length; i++) if (i % 4 < 3) s[i % 4]! += d[i]! / 64;
        return s;
      },
      [x, y],
    );
    expect(Math.max(...grey) - Math.min(...grey)).toBeLessThan(2.5);
    await page.waitForTimeout(500);
    const { groundwork } = await told();
    expect(Math.abs(groundwork!.balance.kelvin - 2850)).toBeLessThan(150);
    // the brightest place of another frame is the sun's glow
    const dusk = (await frames()).find((f) => f.name === 'TR-0451')!;
    await page.goto(`${stage.origin}/ground?shoot=1&frame=${dusk.id}`);
    await painted(page);
    await settled();
    const spot = await page.evaluate(() => {
        const c = document.querySelector<HTMLCanvasElement>('canvas[data-testid=lead]')!,
          d = c.getContext('2d')!.getImageData(0, 0, c.width, c.height).data;
        let best = 0,
          at = 0;
        for (let j = 8; j < c.height - 8; j += 4)
          for (let i = 8; i < c.width - 8; i += 4) {
            let s = 0;
            for (let k = -8; k <= 8; k += 4)
              for (let l = -8; l <= 8; l += 4) {
                const o = ((j + k) * c.width + i + l) * 4;
                s += d[o]! + d[o + 1]! + d[o + 2]!;
              }
            if (s > best) {
              best = s;
              at = j * c.width + i;
            }
          }
        return [(at % c.width) / c.width, Math.floor(at / c.width) / c.height];
      }),
      d = await box();
    await page.keyboard.press('p');
    await page.mouse.click(d.x + spot[0]! * d.width, d.y + spot[1]! * d.height);
    await page
      .getByTestId('picked')
      .getByText(/clipped/)
      .waitFor();
    expect((await frames()).find((f) => f.id === dusk.id)!.groundwork).toBe(null);
    await page.goto(`${stage.origin}/ground?shoot=1&frame=${chartId}`);
    await painted(page);
  });
  it('kelvin is typed, and steps back with undo', async () => {
    await page.getByRole('slider', { name: 'Temperature' }).focus();
    await page.keyboard.press('Enter');
    await page.keyboard.type('5600');
    await page.keyboard.press('Enter');
    expect(await page.getByRole('slider', { name: 'Temperature' }).getAttribute('aria-valuetext')).toBe('5600 K');
    await page.keyboard.press('Control+z');
    expect(Number(/\d+/.exec((await page.getByRole('slider', { name: 'Temperature' }).getAttribute('aria-valuetext'))!)![0])).toBeLessThan(
      3100,
    );
  });
});

describe('exposure, zones and ends', () => {
  it('a stop more is brighter; auto brings the midtones to middle grey', async () => {
    await part(/^Exposure/);
    const before = await meanOf(page);
    await nudge('Exposure', 'Alt+ArrowRight', 2);
    expect((await meanOf(page))[1]!).toBeGreaterThan(before[1]! + 15);
    await page.getByRole('button', { name: 'Auto to midtones' }).click();
    await settled();
    await page.getByText(/midtones [+−]0\.[0-5] EV of 18 %/).waitFor();
  });
  it('raising the darks by their column brightens the picture and can be read in the history', async () => {
    await part(/^Zones/);
    const before = await meanOf(page);
    await nudge('Deep zone', 'ArrowUp', 8);
    await nudge('Dark zone', 'ArrowUp', 8);
    expect((await meanOf(page))[1]!).toBeGreaterThan(before[1]!);
    await page.getByText('Done to this frame').click();
    await page.getByRole('button', { name: 'Dark zone +0.80 EV', exact: true }).waitFor();
    const boundary = page.getByRole('slider', { name: 'Boundary between Dark and Middle' });
    await boundary.focus();
    await page.keyboard.press('ArrowRight');
    expect(await boundary.getAttribute('aria-valuenow')).toBe('-1.7');
  });
  it('ends fit to the histogram, and clipping can be shown', async () => {
    await part(/^Ends/);
    await page.getByRole('button', { name: 'Fit to histogram' }).click();
    await page.waitForFunction(() => !/^Open$/.test(document.querySelector('.parts button.selected small')!.textContent!));
    await page.getByRole('button', { name: 'Lights' }).click();
    await page.getByTestId('clipping').waitFor();
    await page.getByRole('button', { name: 'Lights' }).click();
  });
});

describe('the starting rendition', () => {
  it('is tried by hovering on the frame itself, and chosen for the whole shoot', async () => {
    const group = page.getByRole('group', { name: 'Starting rendition of the shoot' }),
      spread = (): Promise<number> =>
        page.evaluate(() => {
          const c = document.querySelector<HTMLCanvasElement>('canvas[data-testid=lead]')!,
            d = c.getContext('2d')!.getImageData(0, 0, c.width, c.height).data;
          let s = 0,
            q = 0,
            n = 0;
          for (let i = 1; i < d.length; i += 4) {
            s += d[i]!;
            q += d[i]! ** 2;
            n++;
          }
          return Math.sqrt(q / n - (s / n) ** 2);
        });
    await settled();
    const plain = await spread();
    await group.getByRole('button', { name: 'Flat' }).hover();
    await settled();
    expect(await spread()).toBeLessThan(plain * 0.92);
    await group.getByRole('button', { name: 'Firm' }).click();
    await page.mouse.move(640, 790);
    await settled();
    expect(await spread()).toBeGreaterThan(plain * 1.05);
    expect(((await (await page.request.get(`${stage.origin}/api/shoots/1`)).json()) as { rendition: string }).rendition).toBe('firm');
    await group.getByRole('button', { name: 'Plain' }).click();
    await page.mouse.move(640, 790);
  });
});

describe('crop and angle', () => {
  it('a crop is drawn by its handle, keeps its ratio, and the frame comes out at that size', async () => {
    await part(/^Crop and angle/);
    await page.getByLabel('Ratio').selectOption('1:1');
    await page.locator('.crop-frame[aria-valuenow="67"]').waitFor();
    const handle = page.locator('[data-handle=se]'),
      at = (await handle.boundingBox())!;
    await page.mouse.move(at.x + 7, at.y + 7);
    await page.mouse.down();
    await page.mouse.move(at.x - 60, at.y - 70, { steps: 5 });
    await page.mouse.up();
    await page.waitForTimeout(700);
    const { output, groundwork } = await told();
    expect(groundwork!.geometry.crop.height).toBeLessThan(0.95);
    expect(Math.abs(output.width - output.height)).toBeLessThanOrEqual(1);
  });
  it('a line drawn along something tilted straightens the picture by its angle', async () => {
    await page.getByRole('button', { name: 'Draw a level line' }).click();
    const b = (await page.getByTestId('crop').boundingBox())!;
    await page.mouse.move(b.x + 100, b.y + 100);
    await page.mouse.down();
    await page.mouse.move(b.x + 400, b.y + 121, { steps: 4 });
    await page.mouse.up();
    await settled();
    expect(Number(await page.getByRole('slider', { name: 'Straighten' }).getAttribute('aria-valuenow'))).toBeCloseTo(-4, 0);
    expect((await meanOf(page))[0]!).toBeGreaterThan(5);
  });
});

describe('the whole of it', () => {
  it('survives a reload, with its history', async () => {
    const before = (await told()).groundwork;
    await page.reload();
    await painted(page);
    expect((await told()).groundwork).toEqual(before);
    const undo = page.getByRole('button', { name: /^Undo / });
    expect(await undo.isEnabled()).toBe(true);
    expect(await undo.getAttribute('aria-label')).not.toContain('elsewhere');
  });
  it('Space presses the control that has the focus', async () => {
    await part(/^Light/);
    await page.getByRole('button', { name: 'Cloudy', exact: true }).focus();
    await page.keyboard.press('Space');
    expect(await page.getByRole('button', { name: 'Cloudy', exact: true }).getAttribute('aria-pressed')).toBe('true');
    await page.keyboard.press('Control+z');
  });
  it('is given to other frames part by part', async () => {
    await page
      .getByRole('navigation', { name: 'Frames' })
      .getByRole('button', { name: /TR-0437/ })
      .click({ modifiers: ['Control'] });
    await page.getByRole('button', { name: 'Give to 1 frame' }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'Give' }).click();
    await page.waitForTimeout(900);
    const other = (await frames()).find((f) => f.name === 'TR-0437')!.groundwork!,
      own = (await told()).groundwork!;
    expect([other.balance, other.exposureEv, other.zones]).toEqual([own.balance, own.exposureEv, own.zones]);
    expect(other.geometry.crop.width).toBe(1);
  });
  it('a snapshot is taken and stands as what was before, side by side', async () => {
    await page.getByText('Snapshots').click();
    await page.getByLabel('Name of the snapshot').fill('Client A');
    await page.getByRole('button', { name: 'Take' }).click();
    await page.getByRole('button', { name: 'as before' }).click();
    await page.getByRole('button', { name: 'Beside' }).click();
    await page.locator('.stage .tag', { hasText: 'Client A' }).waitFor();
    await page.keyboard.press('b');
  });
  it('wheel and keys zoom round the pointer, with a map of what is seen', async () => {
    await part(/^Light/);
    const b = (await page.getByTestId('stage').boundingBox())!;
    await page.mouse.move(b.x + 300, b.y + 200);
    await page.mouse.wheel(0, -500);
    await page.getByTestId('overview').waitFor();
    expect(Number(/(\d+) %/.exec((await page.getByTestId('zoom').textContent())!)![1])).toBeGreaterThan(90);
    await page.getByLabel('Other zooms').selectOption('8');
    await painted(page);
    await page.keyboard.press('1');
    expect(await page.getByTestId('overview').count()).toBe(0);
  });
  it('two fingers magnify the place between them, and fit again when they close', async () => {
    const touch = await page.context().newCDPSession(page),
      b = (await page.getByTestId('stage').boundingBox())!,
      at = { x: b.x + b.width * 0.3, y: b.y + b.height * 0.5 };
    const fingers = (type: 'touchStart' | 'touchMove' | 'touchEnd', gap: number): Promise<unknown> =>
      touch.send('Input.dispatchTouchEvent', {
        type,
        touchPoints: type === 'touchEnd' ? [] : [-1, 1].map((side, id) => ({ x: at.x + (side * gap) / 2, y: at.y, id })),
      });
    const pinch = async (from: number, to: number): Promise<void> => {
      await fingers('touchStart', from);
      for (let k = 1; k <= 5; k++) await fingers('touchMove', from + ((to - from) * k) / 5);
      await fingers('touchEnd', 0);
    };
    const under = (): Promise<number[]> =>
      page.evaluate(({ x, y }) => {
        const r = document.querySelector('canvas[data-testid=lead]')!.getBoundingClientRect(),
          o = document.querySelector('.overview i')!.getBoundingClientRect(),
          whole = document.querySelector('.overview')!.getBoundingClientRect();
        return [r.width, (o.left - whole.left) / whole.width, o.width / whole.width, x, y];
      }, at);
    await pinch(80, 400);
    await page.getByTestId('overview').waitFor();
    const [, left, width] = await under();
    // what was at three tenths of the stage still is: the part seen begins left of it by three tenths of its width
    const fit = (await page.getByTestId('lead').boundingBox())!;
    expect(fit.width).toBeGreaterThan(b.width);
    expect(left! + 0.3 * width!).toBeGreaterThan(0.2);
    expect(left! + 0.3 * width!).toBeLessThan(0.36);
    await pinch(400, 60);
    await page.getByTestId('overview').waitFor({ state: 'detached' });
    expect(await page.getByTestId('zoom').textContent()).toMatch(/^Fit/);
  });
  it('probes are pinned by a Shift-click, stay with the frame, and are taken away by a press', async () => {
    await settled();
    const b = (await page.getByTestId('lead').boundingBox())!;
    await page.keyboard.down('Shift');
    await page.mouse.click(b.x + b.width * 0.3, b.y + b.height * 0.4);
    await page.mouse.click(b.x + b.width * 0.7, b.y + b.height * 0.6);
    await page.keyboard.up('Shift');
    expect(await page.getByTestId('pinned').count()).toBe(2);
    await page.waitForTimeout(300);
    await page.reload();
    await painted(page);
    await page.getByTestId('pinned').nth(1).waitFor();
    expect(await page.getByTestId('pinned').first().textContent()).toMatch(/^1 · \d+ \d+ \d+$/);
    await page.getByTestId('pinned').first().click();
    expect(await page.getByTestId('pinned').count()).toBe(1);
  });
  it('noise and sharpness are judged through a loupe at 100 %', async () => {
    await part(/^Detail/);
    await page.getByTestId('loupe').waitFor();
    const read = (): Promise<number> =>
      page.evaluate(() => {
        const c = document.querySelector<HTMLCanvasElement>('canvas[data-testid=loupe-picture]')!,
          d = c.getContext('2d')!.getImageData(0, 0, c.width, c.height).data;
        let s = 0;
        for (let i = 4; i < d.length; i += 4) s += Math.abs(d[i]! - d[i - 4]!);
        return s / (d.length / 4);
      });
    await page.waitForTimeout(800);
    const before = await read();
    await nudge('Luminance noise', 'Alt+ArrowRight', 6);
    await page.waitForTimeout(500);
    expect(await read()).toBeLessThan(before * 0.9);
    await nudge('Sharpening', 'Alt+ArrowRight', 10);
    await page.waitForTimeout(700);
    expect((await told()).groundwork!.detail.sharpen).toBe(100);
  });
  it('readouts follow the picture: waveform, parade, vectors and hues', async () => {
    for (const [tab, label] of [
      ['Waveform', 'Waveform of luma'],
      ['Parade', 'Waveform of red, green and blue'],
      ['Vectors', /^Vectorscope/],
      ['Hues', 'How much of each hue is in the picture'],
    ] as const) {
      await page.getByRole('tab', { name: tab }).click();
      await page.getByRole('img', { name: label }).waitFor();
    }
  });
  it('what is delivered is what was seen: command line and page agree, byte for byte', async () => {
    const work = mkdtempSync(join(tmpdir(), 'dyepot-ground-')),
      frame = await told(),
      file = join(work, 'ground.json');
    writeFileSync(file, JSON.stringify(frame.groundwork));
    const job = (await (
      await page.request.post(`${stage.origin}/api/deliveries`, {
        data: {
          shootId: 1,
          frameIds: [chartId],
          folder: join(work, 'page'),
          file: { format: 'png', depth: 8, space: 'srgb', size: null, quality: 92 },
        },
      })
    ).json()) as { id: number; lookName: string };
    for (let state = ''; state !== 'done';) {
      state = ((await (await page.request.get(`${stage.origin}/api/jobs/${job.id}`)).json()) as { state: string }).state;
      await page.waitForTimeout(200);
    }
    const shoot = (await (await page.request.get(`${stage.origin}/api/shoots/1`)).json()) as { look: { id: number } | null },
      look = join(work, 'look.json');
    if (shoot.look) writeFileSync(look, await (await page.request.get(`${stage.origin}/api/looks/${shoot.look.id}/file`)).body());
    execFileSync(process.execPath, [
      join(root, 'packages/cli/bin/dyepot.mjs'),
      'render',
      frame.path,
      '--look',
      shoot.look ? look : 'none',
      '--groundwork',
      file,
      '--format',
      'png',
      '--out',
      join(work, 'cli'),
    ]);
    expect(readFileSync(join(work, 'cli', 'TR-0444.png')).equals(readFileSync(join(work, 'page', 'TR-0444.png')))).toBe(true);
  });
  it('nothing was complained of in the browser’s console', () => expect(stage.complaints).toEqual([]));
});
