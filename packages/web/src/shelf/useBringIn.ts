import { tableLook } from '@dyepot/core';
import { messageOf, useCreateLookMutation, useReadTableMutation } from '../api.ts';
import { complain, tell } from '../kit/notices.tsx';
import { useCreateStockMutation } from '../stock/index.ts';
import type { ShelfLook } from '../types.ts';
import { useOpenParcelMutation, type Arrival } from './shelfApi.ts';

/** Reads a look file, or makes a look of a lookup table; what a file of looks holds is shown first. */
export function useBringIn(arrived: (file: File, looks: readonly Arrival[]) => void): (f: File) => Promise<void> {
  const [openParcel] = useOpenParcelMutation(),
    [createLook] = useCreateLookMutation(),
    [createStock] = useCreateStockMutation(),
    [readTable] = useReadTableMutation();
  const documentOf = async (f: File): Promise<ShelfLook['document']> => {
    if (!/\.json$/i.test(f.name)) {
      const { table, corrections } = await readTable(f).unwrap();
      return tableLook(table.title || f.name.replace(/\.[^.]+$/, ''), table, corrections[0]?.cdl ?? null);
    }
    const text = await f.text();
    try {
      return JSON.parse(text) as ShelfLook['document'];
    } catch {
      throw new Error('it is not a look file: it is not JSON');
    }
  };
  return async (f) => {
    try {
      if (/\.dyelook$/i.test(f.name)) return arrived(f, (await openParcel(f).unwrap()).looks);
      const document = await documentOf(f);
      if ((document as { format?: string }).format === 'dyepot-stock') {
        const stock = await createStock(document).unwrap();
        return tell(`The stock ${stock.sheet.name} is on the shelf`);
      }
      const look = await createLook(document).unwrap();
      tell(`${look.name} is on the shelf`);
    } catch (e) {
      complain(`${f.name}: ${messageOf(e)}`);
    }
  };
}
