import type { StockSheet } from '@dyepot/core';
import { Button, Input, Textarea } from '@chakra-ui/react';
import { useForm } from 'react-hook-form';
import { Sheet } from '../kit/Sheet.tsx';

/** Asks for a stock's name, family and notes. */
export function SaveSheet({
  sheet,
  onClose,
  onSave,
}: {
  sheet: StockSheet;
  onClose: () => void;
  onSave: (named: Pick<StockSheet, 'name' | 'family' | 'notes'>) => void;
}): React.JSX.Element {
  const { register, handleSubmit, formState } = useForm({
    defaultValues: { name: `${sheet.name.slice(0, 70)}, own`, family: sheet.family, notes: sheet.notes },
  });
  return (
    <Sheet title="Put this stock on the shelf" onClose={onClose}>
      <form onSubmit={(e) => void handleSubmit((v) => onSave({ name: v.name.trim(), family: v.family.trim(), notes: v.notes.trim() }))(e)}>
        <label>
          Name
          <Input
            size="sm"
            autoFocus
            {...register('name', {
              maxLength: { value: 80, message: 'at most 80 letters' },
              validate: (v) => v.trim() !== '' || 'a stock needs a name',
            })}
          />
        </label>
        {formState.errors.name && <p className="form-error">{formState.errors.name.message}</p>}
        <label>
          Family
          <Input size="sm" placeholder="Negative, Reversal, Client work…" {...register('family', { maxLength: 60 })} />
        </label>
        <label>
          What it is for
          <Textarea size="sm" rows={3} {...register('notes', { maxLength: 4000 })} />
        </label>
        <div className="sheet-actions">
          <Button size="sm" variant="ghost" onClick={onClose}>
            Cancel
          </Button>
          <Button size="sm" type="submit" colorPalette="dye">
            Save stock
          </Button>
        </div>
      </form>
    </Sheet>
  );
}
