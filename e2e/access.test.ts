import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { complaintsOf, walk } from './accessWalk.ts';
import { setStage, type Stage } from './stage.ts';

let stage: Stage;
beforeAll(async () => {
  stage = await setStage();
});
afterAll(() => stage.close());

describe('everyone can use every screen, part, sheet and menu', () => {
  it.each([
    [1024, 700],
    [1280, 800],
    [2560, 1440],
  ])(
    'axe-core finds nothing at %i × %i',
    async (width, height) => {
      const found: Record<string, string[]> = {};
      await walk(stage, { width, height }, async (page, name, trouble) => {
        const complaints = [...(trouble ? [trouble] : []), ...(await complaintsOf(page))];
        if (complaints.length > 0) found[name] = complaints;
      });
      expect(found).toEqual({});
    },
    600000,
  );
});
