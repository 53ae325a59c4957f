import { Button, Dialog, Input, Portal } from '@chakra-ui/react';
import { useForm } from 'react-hook-form';
import { api, messageOf } from '../api.ts';
import { saver, useSaveState } from '../saving/index.ts';
import { useAppDispatch } from '../store.ts';
import { doorIsClosed, wasAnybodyIn } from './door.ts';
import { useLogInMutation } from './peopleApi.ts';

/** Asks who one is. It stands over the page, which keeps all that was done on it. */
export default function LogIn(): React.JSX.Element {
  const dispatch = useAppDispatch(),
    [logIn, { isLoading, error }] = useLogInMutation(),
    unsaved = useSaveState() !== 'kept',
    { register, handleSubmit } = useForm({ defaultValues: { name: '', password: '' } });
  const enter = (given: { name: string; password: string }): void => {
    logIn(given)
      .unwrap()
      .then(
        () => {
          // a page nobody was in yet has nothing to lose, and begins anew
          if (!wasAnybodyIn()) return window.location.reload();
          doorIsClosed(false);
          dispatch(api.util.invalidateTags(['Shoots', 'Shoot', 'Looks', 'Look', 'Draft', 'Job', 'Trash', 'Preset', 'Settings', 'Stocks']));
          void saver.flush();
        },
        () => {},
      );
  };
  return (
    <Dialog.Root open size="xs" closeOnEscape={false} closeOnInteractOutside={false}>
      <Portal>
        <Dialog.Backdrop bg="#262626ee" />
        <Dialog.Positioner>
          <Dialog.Content bg="#2f2f2f" className="sheet">
            <Dialog.Header pb="2">
              <Dialog.Title fontFamily="heading" fontSize="17px">
                Log in to Dyepot
              </Dialog.Title>
            </Dialog.Header>
            <Dialog.Body>
              {unsaved && <p className="hint">What you did is not saved yet; it will be when you are in.</p>}
              <form onSubmit={(e) => void handleSubmit(enter)(e)}>
                <label>
                  Name
                  <Input size="sm" autoFocus autoComplete="username" required maxLength={80} {...register('name')} />
                </label>
                <label>
                  Password
                  <Input size="sm" type="password" autoComplete="current-password" required {...register('password')} />
                </label>
                {error && (
                  <p className="form-error" role="alert">
                    {messageOf(error)}
                  </p>
                )}
                <div className="sheet-actions">
                  <Button size="sm" type="submit" colorPalette="dye" loading={isLoading}>
                    Log in
                  </Button>
                </div>
              </form>
            </Dialog.Body>
          </Dialog.Content>
        </Dialog.Positioner>
      </Portal>
    </Dialog.Root>
  );
}
