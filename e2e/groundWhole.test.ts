import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { root } from '@dyepot/server/src/places.ts';
import { painted, until } from './stage.ts';
import { close, open, stage, page, chartId, frames, told, settled, part, nudge } from './groundTrial.ts';

beforeAll(async () => {
  await open();
  await part(/^Exposure/);
  await nudge('Exposure', 'ArrowRight', 6);
});
afterAll(close);

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
    const other = (await until(frames, (all) => all.find((f) => f.name === 'TR-0437')!.groundwork !== null)).find(
        (f) => f.name === 'TR-0437',
      )!.groundwork!,
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
    await page.waitForFunction(() => !document.body.textContent!.includes('not saved yet'));
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
    await expect.poll(read).toBeGreaterThan(0);
    const before = await read();
    await nudge('Luma, finest', 'Alt+ArrowRight', 2);
    await nudge('Luma, coarse', 'Alt+ArrowRight', 2);
    await expect.poll(read).toBeLessThan(before * 0.9);
    const quiet = await read();
    await nudge('Crest', 'Alt+ArrowRight', 3);
    await expect.poll(read).toBeGreaterThan(quiet * 1.03);
    await expect.poll(async () => (await told()).groundwork?.detail.sharpness.gain).toBe(1.5);
  });
  it('the crest is dragged on the graph in both ways, its feet go along, and undo puts all back', async () => {
    const crest = page.getByRole('slider', { name: 'Crest, on the graph' }),
      box = (await crest.boundingBox())!,
      detail = async (): Promise<{ gain: number; sizePx: number; coarsePx: number } | undefined> =>
        (await told()).groundwork?.detail.sharpness;
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width / 2 - 60, box.y + box.height / 2 - 12, { steps: 4 });
    await page.mouse.up();
    await expect.poll(async () => (await detail())?.sizePx).toBeGreaterThan(5);
    const after = (await detail())!;
    expect(after.gain).toBeGreaterThan(1.5);
    expect(after.coarsePx).toBeGreaterThan(after.sizePx);
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await detail())?.sizePx).toBe(3);
  });
  it('softness is returned where the file says how the frame was taken, or a filter is named', async () => {
    await nudge('Low-pass filter', 'Alt+ArrowRight', 5);
    await nudge('Softness returned', 'Alt+ArrowRight', 10);
    await expect.poll(async () => (await told()).groundwork?.detail.softness).toMatchObject({ share: 1, filterPx: 0.5 });
    expect(await page.getByRole('tab', { name: /^Detail/ }).textContent()).toMatch(/noise, softness, sharpened/);
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
