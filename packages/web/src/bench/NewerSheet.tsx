import { Button } from '@chakra-ui/react';
import { Sheet } from '../kit/Sheet.tsx';

/** Asked when a look is to be saved onto a revision that is not the newest. */
export function NewerSheet({
  message,
  onClose,
  onRevision,
  onOther,
}: {
  message: string;
  onClose: () => void;
  onRevision: () => void;
  onOther: () => void;
}): React.JSX.Element {
  return (
    <Sheet title="There is a newer revision" onClose={onClose}>
      <p>{`${message[0]!.toUpperCase()}${message.slice(1)}. Every revision stays; this one would come after the newest, without what that changed.`}</p>
      <div className="sheet-actions">
        <Button size="sm" variant="ghost" onClick={onClose}>
          Cancel
        </Button>
        <Button size="sm" variant="outline" onClick={onRevision}>
          Save as the next revision
        </Button>
        <Button size="sm" colorPalette="dye" onClick={onOther}>
          Save as another look…
        </Button>
      </div>
    </Sheet>
  );
}
