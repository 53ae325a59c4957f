import { groundworkParts, type GroundworkPart } from '@dyepot/core';
import { Button, Checkbox } from '@chakra-ui/react';
import { useState } from 'react';
import { complain } from '../kit/notices.tsx';
import { Sheet } from '../kit/Sheet.tsx';
import { partNames } from './GroundTray.tsx';

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
        {(Object.keys(groundworkParts) as GroundworkPart[]).map((p) => (
          <Checkbox.Root
            key={p}
            size="sm"
            display="flex"
            mb="2"
            checked={which.has(p)}
            onCheckedChange={() =>
              setWhich((w) => {
                const next = new Set(w);
                if (!next.delete(p)) next.add(p);
                return next;
              })
            }
          >
            <Checkbox.HiddenInput />
            <Checkbox.Control />
            <Checkbox.Label>{partNames[p][0]}</Checkbox.Label>
          </Checkbox.Root>
        ))}
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
