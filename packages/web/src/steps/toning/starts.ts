import { baths } from '@dyepot/core';
import type { Start } from '../fitting.ts';

/** The baths of the trade. */
export const toningStarts: readonly Start[] = Object.entries(baths).map(([name, values]) => ({ name, values: { ...values, amount: 100 } }));
