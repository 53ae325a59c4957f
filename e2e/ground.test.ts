import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from '@dyepot/server/src/places.ts';
import { meanOf, painted, until } from './stage.ts';
import { close, open, stage, page, chartId, frames, told, settled, part, nudge } from './groundTrial.ts';

beforeAll(open);
afterAll(close);

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
    const { groundwork } = await until(told, (f) => f.groundwork !== null && f.groundwork.balance.kind === 'own');
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
    await until(spread, (s) => s < plain * 0.92);
    await group.getByRole('button', { name: 'Firm' }).click();
    await page.mouse.move(640, 790);
    await until(spread, (s) => s > plain * 1.05);
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
    const { output, groundwork } = await until(told, (f) => (f.groundwork?.geometry.crop.height ?? 1) < 0.95);
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
