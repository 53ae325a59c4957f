import { readStoredTable, type StoredTable } from '@dyepot/core';
import { Button } from '@chakra-ui/react';
import { useRef, useState } from 'react';
import { messageOf, useReadTableMutation } from '../../api.ts';
import { complain } from '../../kit/notices.tsx';
import { PairSheet } from './PairSheet.tsx';
import type { FittingProps } from '../fitting.ts';
import { TableInspector } from './TableInspector.tsx';

/** A lookup table in a look: brought in from a file, described, inspected, taken out. */
export function TableControl({ params, onSetAll }: FittingProps): React.JSX.Element {
  const table = params['table'] as StoredTable | null,
    onTable = (found: StoredTable | null, words: string): void => onSetAll({ table: found }, words, ''),
    input = useRef<HTMLInputElement>(null),
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
