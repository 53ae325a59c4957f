import { ChevronRight, CornerLeftUp, Folder } from 'lucide-react';
import { messageOf } from '../api.ts';
import { Rove } from '../kit/Rove.tsx';
import type { Browsed } from '../types.ts';
import { useBrowseQuery } from './bringApi.ts';

const nameOf = (path: string): string => path.slice(path.lastIndexOf('/') + 1) || path;

const said = ({ raws, finished }: Browsed): string =>
  `${raws} ${raws === 1 ? 'raw' : 'raws'}${finished > 0 ? `, ${finished} finished ${finished === 1 ? 'picture' : 'pictures'}` : ''} here`;

/** The folders of this machine, to walk through instead of typing. */
export function FolderBrowser({ folder, onFolder }: { folder: string | null; onFolder: (path: string) => void }): React.JSX.Element {
  const { data, error, isFetching } = useBrowseQuery(folder);
  if (error && !data) return <p className="form-error">{messageOf(error)}</p>;
  return (
    <div className="folder-browser" aria-busy={isFetching}>
      <p className="folder-here" title={data?.folder}>
        <b>{data ? data.folder : '…'}</b>
        <span role="status">{data ? said(data) : ''}</span>
      </p>
      <Rove as="ul" aria-label="Folders">
        {data?.above && (
          <li>
            <button type="button" onClick={() => onFolder(data.above!)}>
              <CornerLeftUp size={14} aria-hidden /> <span>up to {nameOf(data.above)}</span>
            </button>
          </li>
        )}
        {data?.folders.map((f) => (
          <li key={f}>
            <button type="button" title={f} onClick={() => onFolder(f)}>
              <Folder size={14} aria-hidden /> <span>{nameOf(f)}</span>
              <ChevronRight size={13} aria-hidden />
            </button>
          </li>
        ))}
      </Rove>
      {data && data.folders.length === 0 && <p className="dim">No folders in it.</p>}
      {error ? <p className="form-error">{messageOf(error)}</p> : null}
    </div>
  );
}
