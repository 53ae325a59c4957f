import { LazyMenu } from '../kit/LazyMenu.tsx';
import { ChevronDown } from 'lucide-react';
import { useNavigate } from 'react-router';
import { api, useRevisionsQuery } from '../api.ts';
import { DyeStrip } from '../kit/DyeStrip.tsx';
import { tell } from '../kit/notices.tsx';
import { undoTakingOut } from '../trash/undoTakingOut.ts';
import { store } from '../store.ts';
import { act } from './benchSlice.ts';

const when = (iso: string): string =>
  new Date(iso).toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });

/** Which revision is on the bench, with the way to the others and back to it from its draft. */
export function RevisionMenu({
  lookId,
  revision,
  edited,
}: {
  lookId: number;
  revision: number | null;
  edited: boolean;
}): React.JSX.Element {
  const { data: revisions } = useRevisionsQuery(lookId),
    navigate = useNavigate(),
    newest = revisions?.[0]?.revision;
  const open = async (asked: number): Promise<void> => {
    const { draft } = store.getState().bench;
    if (asked === revision && draft) {
      // the draft of this very revision gives way to it, and can be had back
      await store.dispatch(api.endpoints.takeOutDraft.initiate(draft.id)).unwrap();
      tell(`The draft is in the trash; revision ${asked} is on the bench`, undoTakingOut('draft', [draft.id]));
    }
    const look = await store.dispatch(api.endpoints.look.initiate({ id: lookId, revision: asked })).unwrap();
    if (asked === revision) store.dispatch(act.lookOpened({ lookId, revision: asked, look: look.document }));
    else void navigate(`/bench?look=${lookId}&revision=${asked}`);
  };
  return (
    <LazyMenu
      minW="260px"
      trigger={
        <button type="button" className="revision-menu" title="Other revisions of this look">
          <span data-testid="look-state">
            revision {revision}
            {edited && ', edited'}
            {newest !== undefined && revision !== null && newest > revision && `, newest is ${newest}`}
          </span>
          <ChevronDown size={12} aria-hidden />
        </button>
      }
      items={(revisions ?? []).map((r) => ({
        value: String(r.revision),
        disabled: r.revision === revision && !edited,
        words: (
          <span className="revision-line">
            <span>
              {r.revision === revision && edited ? `Back to revision ${r.revision}` : `Revision ${r.revision}`}
              {r.revision === revision && !edited && ', on the bench'}
            </span>
            <small className="dim">{when(r.createdAt)}</small>
            <DyeStrip strip={r.strip} height={6} />
          </span>
        ),
      }))}
      onSelect={(value) => void open(Number(value))}
    />
  );
}
