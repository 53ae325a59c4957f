import { Button, Input } from '@chakra-ui/react';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { messageOf } from '../api.ts';
import { tell } from '../kit/notices.tsx';
import { Sheet } from '../kit/Sheet.tsx';

/** Asks for a new password; for the old one too where it is one's own. */
export function PasswordSheet({
  title,
  asksOld = false,
  onClose,
  onGiven,
}: {
  title: string;
  asksOld?: boolean;
  onClose: () => void;
  onGiven: (old: string, password: string) => Promise<unknown>;
}): React.JSX.Element {
  const { register, handleSubmit, formState } = useForm({ defaultValues: { old: '', password: '', again: '' } }),
    [wrong, setWrong] = useState('');
  const give = async ({ old, password }: { old: string; password: string }): Promise<void> => {
    try {
      await onGiven(old, password);
      tell('The password is changed, and every other browser logged out');
      onClose();
    } catch (e) {
      setWrong(messageOf(e));
    }
  };
  const said = formState.errors.again?.message ?? wrong;
  return (
    <Sheet title={title} onClose={onClose}>
      <form onSubmit={(e) => void handleSubmit(give)(e)}>
        {asksOld && (
          <label>
            Old password
            <Input size="sm" type="password" autoComplete="current-password" autoFocus required {...register('old')} />
          </label>
        )}
        <label>
          New password, 12 letters or more
          <Input size="sm" type="password" autoComplete="new-password" autoFocus={!asksOld} required {...register('password')} />
        </label>
        <label>
          Once more
          <Input
            size="sm"
            type="password"
            autoComplete="new-password"
            required
            {...register('again', { validate: (again, { password }) => again === password || 'the two are not the same' })}
          />
        </label>
        {said && (
          <p className="form-error" role="alert">
            {said}
          </p>
        )}
        <div className="sheet-actions">
          <Button size="sm" variant="ghost" onClick={onClose}>
            Cancel
          </Button>
          <Button size="sm" type="submit" colorPalette="dye">
            Change it
          </Button>
        </div>
      </form>
    </Sheet>
  );
}
