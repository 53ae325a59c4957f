import type { Page } from 'playwright-core';
import type { Groundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import { groundHand, kept, painted, setStage, still, type Stage } from './stage.ts';

export let stage: Stage;
export let page: Page;
/** the frame with the chart under tungsten */
export let chartId = 0;
export interface Told {
  id: number;
  name: string;
  groundwork: Groundwork | null;
  output: { width: number; height: number };
  path: string;
}
export const frames = async (): Promise<Told[]> => {
  await kept(page);
  return ((await (await page.request.get(`${stage.origin}/api/shoots/1`)).json()) as { frames: Told[] }).frames;
};
export const told = async (): Promise<Told> => (await frames()).find((f) => f.id === chartId)!;
export const settled = (): Promise<void> => still(page);
export const { part, nudge } = groundHand(() => page);

/** Opens the Ground on the chart's frame. */
export async function open(): Promise<void> {
  stage = await setStage();
  page = await stage.open('/shoots');
  chartId = (await frames()).find((f) => f.name === 'TR-0444')!.id;
  await page.goto(`${stage.origin}/ground?shoot=1&frame=${chartId}`);
  await painted(page);
}
export const close = (): Promise<void> => stage.close();
