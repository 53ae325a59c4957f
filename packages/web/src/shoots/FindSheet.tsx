import { Button, Input } from '@chakra-ui/react';
import { useState } from 'react';
import { messageOf } from '../api.ts';
import { useFindFrameMutation } from './bringApi.ts';
import { complain, tell } from '../kit/notices.tsx';
import { Sheet } from '../kit/Sheet.tsx';
import type { Frame } from '../types.ts';

/** Asks where a raw file that moved is now. */
export function FindSheet({ frame, onClose }: { frame: Frame; onClose: () => void }): React.JSX.Element {
  const [path, setPath] = useState(''),
    [findFrame] = useFindFrameMutation();
  return (
    <Sheet title={`Where is ${frame.name}?`} onClose={onClose}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          findFrame({ id: frame.id, path })
            .unwrap()
            .then(
              () => {
                onClose();
                tell(`${frame.name} is found`);
              },
              (error: unknown) => complain(messageOf(error)),
            );
        }}
      >
        <p className="dim">It was at {frame.path}</p>
        <label>
          It is now at
          <Input size="sm" autoFocus value={path} onChange={(e) => setPath(e.target.value)} placeholder="/new/place/file.dng" />
        </label>
        <div className="sheet-actions">
          <Button size="sm" type="submit" colorPalette="dye" disabled={!path.trim()}>
            Find
          </Button>
        </div>
      </form>
    </Sheet>
  );
}
