import { expect, it } from 'vitest';
import { fuzz } from '../fuzz/fuzz.ts';

it(
  'mutants of every format and every request are answered plainly, in time, and a cut raw is never whole',
  { timeout: 240000 },
  async () => {
    expect(await fuzz(1600)).toEqual([]);
  },
);
