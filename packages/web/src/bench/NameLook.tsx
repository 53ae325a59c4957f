import type { Look } from '@dyepot/core';
import { NameSheet, type Named } from '../kit/NameSheet.tsx';

/** Asks for a look's name, family and notes. */
export function NameLook({
  look: { name, family, notes },
  title,
  onClose,
  onSave,
}: {
  look: Look;
  title: string;
  onClose: () => void;
  onSave: (name: string, family: string, notes: string) => void;
}): React.JSX.Element {
  return (
    <NameSheet
      title={title}
      what="look"
      families="Warm, Film, Client work…"
      notes="Notes"
      given={{ name: name === 'New look' ? '' : name, family, notes }}
      onClose={onClose}
      onSave={(n: Named) => onSave(n.name, n.family, n.notes)}
    />
  );
}
