import type { StoredTable } from '../colour/table.ts';
import { cdlParams } from '../steps/cdl/index.ts';
import type { Cdl } from '../colour/cdl.ts';
import { emptyLook, newStep, type Look } from './look.ts';

/** A table from a file as a look: the neutral response with the table as finishing; a CDL as the step that holds its numbers. */
export function tableLook(name: string, table: StoredTable, correction: Cdl | null): Look {
  const look = emptyLook(name.slice(0, 80)),
    step = correction ? newStep('cdl', 'cdl') : newStep('tablePrint', 'table');
  return { ...look, print: [{ ...step, params: { ...step.params, ...(correction ? cdlParams(correction) : { table }) } }] };
}
