import type { GroundworkPart } from '@dyepot/core';
import { Button } from '@chakra-ui/react';
import { useState } from 'react';
import { CheckGrid } from '../kit/CheckGrid.tsx';
import { complain } from '../kit/notices.tsx';
import { Sheet } from '../kit/Sheet.tsx';
import { allParts } from './GroundTray.tsx';

/** Asks which parts to give. */
export function GiveSheet({
  title,
  onClose,
  onGive,
}: {
  title: string;
  onClose: () => void;
  onGive: (parts: GroundworkPart[]) => void;
}): React.JSX.Element {
  const [which, setWhich] = useState<ReadonlySet<GroundworkPart>>(new Set(['light', 'exposure', 'zones', 'ends', 'lens', 'detail']));
  return (
    <Sheet title={title} onClose={onClose}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          if (which.size === 0) complain('choose at least one part');
          else onGive([...which]);
        }}
      >
        <CheckGrid of={allParts} chosen={which} onChosen={setWhich} />
        <div className="sheet-actions">
          <Button size="sm" variant="ghost" onClick={onClose}>
            Cancel
          </Button>
          <Button size="sm" type="submit" colorPalette="dye">
            Give
          </Button>
        </div>
      </form>
    </Sheet>
  );
}
