import { CloseButton, Dialog, Portal } from '@chakra-ui/react';
import { useEffect, useState } from 'react';

/** A dialog: a title, and what it holds. */
export function Sheet({
  title,
  onClose,
  wide = false,
  children,
}: {
  title: string;
  onClose: () => void;
  wide?: boolean;
  children: React.ReactNode;
}): React.JSX.Element {
  // afterwards the focus is where it was
  const [before] = useState(() => document.activeElement as HTMLElement | null);
  useEffect(
    () => () => {
      setTimeout(() => {
        if (document.activeElement === document.body && before?.isConnected) before.focus();
      }, 0);
    },
    [before],
  );
  return (
    <Dialog.Root
      open
      onOpenChange={(e) => {
        if (!e.open) onClose();
      }}
      size={wide ? 'lg' : 'sm'}
    >
      <Portal>
        <Dialog.Backdrop bg="blackAlpha.600" />
        <Dialog.Positioner>
          <Dialog.Content bg="#2f2f2f" className={wide ? 'sheet wide' : 'sheet'}>
            <Dialog.Header pb="2">
              <Dialog.Title fontFamily="heading" fontSize="17px">
                {title}
              </Dialog.Title>
            </Dialog.Header>
            <Dialog.Body>{children}</Dialog.Body>
            <Dialog.CloseTrigger asChild>
              <CloseButton size="sm" />
            </Dialog.CloseTrigger>
          </Dialog.Content>
        </Dialog.Positioner>
      </Portal>
    </Dialog.Root>
  );
}
