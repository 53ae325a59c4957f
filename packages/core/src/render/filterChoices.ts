import { lensFilters } from '../colour/lensFilters.ts';
import { choice } from './step.ts';

/** A filter in front of the lens, and whether the light it takes is given back. */
export const filterChoices = {
  filter: choice(
    'In front of the lens',
    Object.keys(lensFilters).map((f) => [f, f === 'none' ? 'no filter' : f] as const),
    'none',
  ),
  loss: choice(
    'What it takes',
    [
      ['given back', 'given back'],
      ['taken', 'taken'],
    ],
    'given back',
    (values) => values['filter'] !== 'none',
  ),
} as const;
