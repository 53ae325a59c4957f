import { Button, Input, Textarea } from '@chakra-ui/react';
import { useForm } from 'react-hook-form';
import { Sheet } from './Sheet.tsx';

export interface Named {
  name: string;
  family: string;
  notes: string;
}

/** Asks for a name, a family and notes of something that goes on the Shelf; `what` it is, as in “a look”. */
export function NameSheet({
  title,
  what,
  families,
  notes,
  given,
  onClose,
  onSave,
}: {
  title: string;
  what: 'look' | 'stock';
  families: string;
  notes: string;
  given: Named;
  onClose: () => void;
  onSave: (named: Named) => void;
}): React.JSX.Element {
  const { register, handleSubmit, formState } = useForm({ defaultValues: given });
  return (
    <Sheet title={title} onClose={onClose}>
      <form onSubmit={(e) => void handleSubmit((v) => onSave({ name: v.name.trim(), family: v.family.trim(), notes: v.notes.trim() }))(e)}>
        <label>
          Name
          <Input
            size="sm"
            autoFocus
            {...register('name', {
              required: `a ${what} needs a name`,
              maxLength: { value: 80, message: 'at most 80 letters' },
              validate: (v) => v.trim() !== '' || `a ${what} needs a name`,
            })}
          />
        </label>
        {formState.errors.name && <p className="form-error">{formState.errors.name.message}</p>}
        <label>
          Family
          <Input size="sm" placeholder={families} {...register('family', { maxLength: 60 })} />
        </label>
        <label>
          {notes}
          <Textarea size="sm" rows={3} {...register('notes', { maxLength: 4000 })} />
        </label>
        <div className="sheet-actions">
          <Button size="sm" variant="ghost" onClick={onClose}>
            Cancel
          </Button>
          <Button size="sm" type="submit" colorPalette="dye">
            Save {what}
          </Button>
        </div>
      </form>
    </Sheet>
  );
}
