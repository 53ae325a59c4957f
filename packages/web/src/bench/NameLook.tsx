import type { Look } from '@dyepot/core';
import { Button, Input, Textarea } from '@chakra-ui/react';
import { useForm } from 'react-hook-form';
import { Sheet } from '../kit/Sheet.tsx';

/** Asks for a look's name, family and notes. */
export function NameLook({
  look,
  title,
  onClose,
  onSave,
}: {
  look: Look;
  title: string;
  onClose: () => void;
  onSave: (name: string, family: string, notes: string) => void;
}): React.JSX.Element {
  const { register, handleSubmit, formState } = useForm({
    defaultValues: { name: look.name === 'New look' ? '' : look.name, family: look.family, notes: look.notes },
  });
  return (
    <Sheet title={title} onClose={onClose}>
      <form onSubmit={(e) => void handleSubmit((v) => onSave(v.name.trim(), v.family.trim(), v.notes.trim()))(e)}>
        <label>
          Name
          <Input
            size="sm"
            autoFocus
            {...register('name', {
              required: 'a look needs a name',
              maxLength: { value: 80, message: 'at most 80 letters' },
              validate: (v) => v.trim() !== '' || 'a look needs a name',
            })}
          />
        </label>
        {formState.errors.name && <p className="form-error">{formState.errors.name.message}</p>}
        <label>
          Family
          <Input size="sm" placeholder="Warm, Film, Client work…" {...register('family', { maxLength: 60 })} />
        </label>
        <label>
          Notes
          <Textarea size="sm" rows={3} {...register('notes', { maxLength: 4000 })} />
        </label>
        <div className="sheet-actions">
          <Button size="sm" variant="ghost" onClick={onClose}>
            Cancel
          </Button>
          <Button size="sm" type="submit" colorPalette="dye">
            Save look
          </Button>
        </div>
      </form>
    </Sheet>
  );
}
