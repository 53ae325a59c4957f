import { IconButton } from '@chakra-ui/react';
import { Redo2, Undo2 } from 'lucide-react';

/** Takes back and does again: `undoes` and `redoes` say what; where there is nothing they are left out. */
export function UndoRedo({
  undoes,
  redoes,
  onUndo,
  onRedo,
}: {
  undoes: string | null | undefined;
  redoes: string | null | undefined;
  onUndo: () => void;
  onRedo: () => void;
}): React.JSX.Element {
  return (
    <>
      {(
        [
          ['Undo', 'Ctrl Z', undoes, onUndo, Undo2],
          ['Redo', 'Ctrl Shift Z', redoes, onRedo, Redo2],
        ] as const
      ).map(([name, keys, what, act, Icon]) => (
        <IconButton
          key={name}
          aria-label={what ? `${name} ${what}` : name}
          title={what == null ? `Nothing to ${name.toLowerCase()}` : `${name} ${what} (${keys})`}
          size="xs"
          variant="ghost"
          disabled={what == null}
          onClick={act}
        >
          <Icon size={16} />
        </IconButton>
      ))}
    </>
  );
}
