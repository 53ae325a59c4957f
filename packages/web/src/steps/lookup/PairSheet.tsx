import type { StoredTable } from '@dyepot/core';
import { Button } from '@chakra-ui/react';
import { useState } from 'react';
import { messageOf, useTakePictureMutation } from '../../api.ts';
import { useFitPairMutation } from './pairApi.ts';
import { complain } from '../../kit/notices.tsx';
import { Sheet } from '../../kit/Sheet.tsx';

/** A picture before and after: the table that takes one to the other. */
export function PairSheet({
  onClose,
  onFound,
}: {
  onClose: () => void;
  onFound: (table: StoredTable, words: string[]) => void;
}): React.JSX.Element {
  const [before, setBefore] = useState<File | null>(null),
    [after, setAfter] = useState<File | null>(null),
    [size, setSize] = useState(17),
    [take] = useTakePictureMutation(),
    [fit] = useFitPairMutation(),
    [busy, setBusy] = useState(false);
  const go = async (): Promise<void> => {
    if (!before || !after) {
      complain('choose both pictures');
      return;
    }
    setBusy(true);
    try {
      const a = await take(before).unwrap(),
        b = await take(after).unwrap(),
        found = await fit({ before: a.id, after: b.id, size }).unwrap();
      onFound(found.table, [
        `Found from the pair: ${(found.coverage * 100).toFixed(0)} % of the cube’s colours are in the picture; ${found.mean.toFixed(2)} of 255 codes are left on average, ${found.worst.toFixed(1)} at worst.`,
        ...found.warnings,
      ]);
    } catch (e) {
      complain(messageOf(e));
    } finally {
      setBusy(false);
    }
  };
  return (
    <Sheet title="A table from a picture pair" onClose={onClose}>
      <p className="purpose">
        A picture before and after, the same size (PNG, TIFF or JPEG). The smooth table that takes one to the other is found: so a look
        whose recipe was lost comes back.
      </p>
      <label className="field">
        Before <input type="file" accept="image/png,image/tiff,image/jpeg" onChange={(e) => setBefore(e.target.files?.[0] ?? null)} />
      </label>
      <label className="field">
        After <input type="file" accept="image/png,image/tiff,image/jpeg" onChange={(e) => setAfter(e.target.files?.[0] ?? null)} />
      </label>
      <label className="inline">
        fineness{' '}
        <select aria-label="Fineness" value={size} onChange={(e) => setSize(Number(e.target.value))}>
          {[9, 17, 33].map((s) => (
            <option key={s} value={s}>
              {s}³
            </option>
          ))}
        </select>
      </label>
      <div className="sheet-actions">
        <Button size="sm" variant="ghost" onClick={onClose}>
          Cancel
        </Button>
        <Button size="sm" colorPalette="dye" loading={busy} loadingText="Finding…" onClick={() => void go()}>
          Find the table
        </Button>
      </div>
    </Sheet>
  );
}
