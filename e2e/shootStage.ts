import type { Page } from 'playwright-core';
import type { Frame } from '@dyepot/web/src/types.ts';
import { setStage, type Stage } from './stage.ts';

/** The demo's shoot on a stage of its own, and what the server says of its frames. */
export interface ShootStage extends Stage {
  page: Page;
  frames: () => Promise<Frame[]>;
  named: (name: string) => Promise<Frame>;
}
export async function setShoot(): Promise<ShootStage> {
  const stage = await setStage(),
    page = await stage.open('/shoots/1');
  const frames = async (): Promise<Frame[]> =>
    ((await (await page.request.get(`${stage.origin}/api/shoots/1`)).json()) as { frames: Frame[] }).frames;
  return { ...stage, page, frames, named: async (name) => (await frames()).find((f) => f.name === name)! };
}
