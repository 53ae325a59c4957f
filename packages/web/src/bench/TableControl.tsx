import { readStoredTable, type StoredTable } from '@dyepot/core';
import { Button } from '@chakra-ui/react';
import { useRef, useState } from 'react';
import { messageOf, useFitPairMutation, useReadTableMutation, useTakePictureMutation } from '../api.ts';
import { complain } from '../kit/notices.tsx';
import { Sheet } from '../kit/Sheet.tsx';
import { TableInspector } from './TableInspector.tsx';

/** A lookup table in a look: brought in from a file, described, inspected, taken out. */
export function TableControl({
  table,
  onTable,
}: {
  table: StoredTable | null;
  onTable: (table: StoredTable | null, words: string) => void;
}): React.JSX.Element {
  const input = useRef<HTMLInputElement>(null),
    [read, reading] = useReadTableMutation(),
    [warnings, setWarnings] = useState<string[]>([]),
    [inspecting, setInspecting] = useState(false),
    [pairing, setPairing] = useState(false),
    held = table ? readStoredTable(table) : null;
  const take = (file: File): void => {
    read(file)
      .unwrap()
      .then(
        (r) => {
          onTable(r.table, `Table ${r.table.title || file.name}`);
          setWarnings(r.warnings);
        },
        (error: unknown) => complain(`${file.name}: ${messageOf(error)}`),
      );
  };
  return (
    <div className="table-control">
      {table && held && 'table' in held ? (
        <p>
          <b>{table.title || 'Untitled table'}</b>
          <small>
            {table.kind === '3d' ? `${table.size}³ colours` : `1D, ${table.size} entries`}
            {table.domainMin.some((v) => v !== 0) || table.domainMax.some((v) => v !== 1)
              ? `, domain ${table.domainMin.join(' ')} to ${table.domainMax.join(' ')}`
              : ''}
          </small>
        </p>
      ) : (
        <p className="purpose">
          No table yet. A .cube, a Hald image (PNG or TIFF), a CLF or a CDL can be brought in; it then stands in the look itself.
        </p>
      )}
      <div className="row">
        <input
          ref={input}
          type="file"
          hidden
          accept=".cube,.clf,.ctf,.cc,.ccc,.cdl,.png,.tif,.tiff"
          onChange={(e) => {
            const f = e.target.files?.[0];
            e.target.value = '';
            if (f) take(f);
          }}
          aria-label="File of the table"
        />
        <Button size="xs" variant="outline" loading={reading.isLoading} onClick={() => input.current?.click()}>
          {table ? 'Another file…' : 'Bring in a file…'}
        </Button>
        <Button size="xs" variant="outline" onClick={() => setPairing(true)}>
          From a picture pair…
        </Button>
        {table && (
          <>
            <Button size="xs" variant="outline" onClick={() => setInspecting(true)}>
              Inspect
            </Button>
            <button
              type="button"
              className="text-button"
              onClick={() => {
                onTable(null, 'Table taken out');
                setWarnings([]);
              }}
            >
              take out
            </button>
          </>
        )}
      </div>
      {warnings.map((w) => (
        <p key={w} className="purpose">
          {w}
        </p>
      ))}
      {pairing && (
        <PairSheet
          onClose={() => setPairing(false)}
          onFound={(found, words) => {
            onTable(found, 'Table from a picture pair');
            setWarnings(words);
            setPairing(false);
          }}
        />
      )}
      {inspecting && held && 'table' in held && <TableInspector table={held.table} onClose={() => setInspecting(false)} />}
    </div>
  );
}

/** A picture before and after: the table that takes one to the other. */
function PairSheet({
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
