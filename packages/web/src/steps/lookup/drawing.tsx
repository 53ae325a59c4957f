import { applyTable, readStoredTable, type Rgb } from '@dyepot/core';
import { path, type Drawn } from '../drawing.tsx';

export default function Drawing({ p }: Drawn): React.JSX.Element {
  const read = p['table'] ? readStoredTable(p['table']) : null;
  if (!read || !('table' in read)) return <path d={path((t) => t)} stroke="#777" strokeDasharray="3 3" fill="none" />;
  const { table } = read;
  return (
    <>
      {[0, 1, 2].map((i) => (
        <path
          key={i}
          d={path(
            (t) =>
              applyTable(
                table,
                [0, 1, 2].map((k) => table.domainMin[k]! + t * (table.domainMax[k]! - table.domainMin[k]!)) as unknown as Rgb,
              )[i]!,
          )}
          stroke={['#d8675c', '#6fa868', '#6b8fd0'][i]}
          strokeWidth="1.3"
          fill="none"
        />
      ))}
    </>
  );
}
