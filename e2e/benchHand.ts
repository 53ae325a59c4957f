import { stepsOf, type Look, type LookStep } from '@dyepot/core/src/look/look.ts';
import type { Page } from 'playwright-core';
import { lookOnBench, painted, still, type Stage } from './stage.ts';

/** What a hand does on the Bench, and what it finds there. */
export interface BenchHand {
  page: Page;
  settled: () => Promise<void>;
  add: (lane: string, words: string) => Promise<void>;
  /** the look as the server keeps it */
  look: () => Promise<Look>;
  /** a step by its kind, the last of them */
  step: (kind: string) => Promise<LookStep>;
  lead: () => Promise<{ x: number; y: number; width: number; height: number }>;
  /** mean colour of a patch of the lead, at fractions of it */
  patch: (x: number, y: number) => Promise<number[]>;
  /** drags what is so named, by pixels from its middle */
  drag: (slider: string, dx: number, dy: number) => Promise<void>;
  type: (slider: string, value: number | string) => Promise<void>;
  undoAll: () => Promise<void>;
}

/** Opens the Bench with a new look on a frame of the demo. */
export async function benchHand(stage: Stage, frame: string): Promise<BenchHand> {
  const page = await stage.open('/shoots');
  const shoot = (await (await page.request.get(`${stage.origin}/api/shoots/1`)).json()) as { frames: { id: number; name: string }[] };
  await page.goto(`${stage.origin}/bench?shoot=1&look=new&frame=${shoot.frames.find((f) => f.name === frame)!.id}`);
  await painted(page);
  const settled = (): Promise<void> => still(page),
    named = (slider: string): ReturnType<Page['getByRole']> => page.getByRole('slider', { name: slider, exact: true });
  const look = async (): Promise<Look> => {
    await page.waitForFunction(() => /draft=\d+/.test(location.search));
    return lookOnBench(page);
  };
  await settled();
  return {
    page,
    settled,
    look,
    add: async (lane, words) => {
      await page.getByRole('button', { name: `Add a step to the ${lane} lane` }).click();
      await page.getByLabel('What should it do?').fill(words);
      await page.keyboard.press('Enter');
      await settled();
    },
    step: async (kind) => stepsOf(await look()).findLast((s) => s.kind === kind)!,
    lead: async () => (await page.getByTestId('lead').boundingBox())!,
    patch: (x, y) =>
      page.evaluate(
        ([u, v]) => {
          const c = document.querySelector<HTMLCanvasElement>('canvas[data-testid=lead]')!,
            d = c.getContext('2d')!.getImageData(Math.round(u! * c.width) - 5, Math.round(v! * c.height) - 5, 10, 10).data,
            s = [0, 0, 0];
          for (let i = 0; i < d.length; i++) if (i % 4 < 3) s[i % 4]! += d[i]! / 100;
          return s;
        },
        [x, y],
      ),
    drag: async (slider, dx, dy) => {
      const b = (await named(slider).boundingBox())!,
        [x, y] = [b.x + b.width / 2, b.y + b.height / 2];
      await page.mouse.move(x, y);
      await page.mouse.down();
      await page.mouse.move(x + dx, y + dy, { steps: 5 });
      await page.mouse.up();
      await settled();
    },
    type: async (slider, value) => {
      await named(slider).focus();
      await page.keyboard.press('Enter');
      await page.keyboard.type(String(value));
      await page.keyboard.press('Enter');
      await settled();
    },
    undoAll: async () => {
      for (let i = 0; i < 12; i++) await page.keyboard.press('Control+z');
      await settled();
    },
  };
}
