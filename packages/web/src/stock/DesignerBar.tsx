import { stocks } from '@dyepot/core';
import { Button } from '@chakra-ui/react';
import { memo } from 'react';
import { useNavigate } from 'react-router';
import { TopBar } from '../kit/TopBar.tsx';
import { UndoRedo } from '../kit/UndoRedo.tsx';
import { useAppDispatch } from '../store.ts';
import { stockAct } from './stockSlice.ts';
import { useStockRevisionsQuery, useStocksQuery } from './stockApi.ts';

/** What is done with the sheet as a whole. */
export const DesignerBar = memo(function DesignerBar({
  title,
  note,
  undoes,
  redoes,
  stockId,
  revision,
  laid,
  saves,
  does,
}: {
  title: string;
  note: string;
  undoes: string | null;
  redoes: string | null;
  stockId: number | null;
  revision: number | null;
  /** the name of the sheet laid over */
  laid: string;
  /** there is something to save */
  saves: boolean;
  does: { inLook: () => void; saveAs: () => void; save: () => void };
}): React.JSX.Element {
  const dispatch = useAppDispatch(),
    navigate = useNavigate(),
    { data: shelf } = useStocksQuery(),
    { data: revisions } = useStockRevisionsQuery(stockId ?? 0, { skip: stockId === null });
  const others = [
    ...(shelf ?? []).filter((s) => s.id !== null && s.id !== stockId && s.sheet),
    ...stocks.map((s) => ({ id: null, sheet: s })),
  ];
  return (
    <TopBar page="Stock" title={title} note={note}>
      <UndoRedo undoes={undoes} redoes={redoes} onUndo={() => dispatch(stockAct.undone())} onRedo={() => dispatch(stockAct.redone())} />
      {revisions && revisions.length > 1 && (
        <label className="inline">
          <select
            aria-label="Revision"
            value={revision ?? ''}
            onChange={(e) => void navigate(`/stock?stock=${stockId}&revision=${e.target.value}`)}
          >
            {revisions.map((r) => (
              <option key={r.revision} value={r.revision}>
                revision {r.revision}
              </option>
            ))}
          </select>
        </label>
      )}
      <label className="inline" title="The dashed lines of the charts">
        {laid && 'dashed'}
        <select
          aria-label="Lay another over"
          value={laid}
          onChange={(e) => dispatch(stockAct.laidOver(others.find((o) => o.sheet!.name === e.target.value)?.sheet ?? null))}
        >
          <option value="">Lay another over…</option>
          {others.map((o, i) => (
            <option key={`${o.sheet!.name}-${i}`} value={o.sheet!.name}>
              {o.sheet!.name}
            </option>
          ))}
        </select>
      </label>
      <Button size="xs" variant="outline" onClick={does.inLook}>
        Use in the look
      </Button>
      <Button size="xs" variant="outline" onClick={does.saveAs}>
        Save as…
      </Button>
      <Button size="xs" colorPalette="dye" disabled={!saves} onClick={does.save}>
        {stockId === null ? 'Save stock' : 'Save revision'}
      </Button>
    </TopBar>
  );
});
