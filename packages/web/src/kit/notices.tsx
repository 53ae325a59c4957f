import { createToaster, Toast, Toaster } from '@chakra-ui/react';

const toaster = createToaster({ placement: 'bottom-end', pauseOnPageIdle: true });

/** Says something in the corner for a while. */
export function tell(words: string): void {
  toaster.create({ title: words, type: 'info', duration: 3500 });
}
/** Says what went wrong, until it is put away. */
export function complain(words: string): void {
  toaster.create({ title: words, type: 'error', duration: 12000, closable: true });
}

export function Notices(): React.JSX.Element {
  return (
    <Toaster toaster={toaster} insetInline="16px">
      {(toast) => (
        <Toast.Root
          width="360px"
          pointerEvents={toast.type === 'error' ? 'auto' : 'none'}
          bg="#383838"
          color="#f1f0ef"
          borderLeft={toast.type === 'error' ? '3px solid #e0633a' : '3px solid #8a8a8a'}
        >
          <Toast.Title fontSize="13px" fontWeight="500" data-testid="notice">
            {toast.title}
          </Toast.Title>
          {toast.type === 'error' && <Toast.CloseTrigger />}
        </Toast.Root>
      )}
    </Toaster>
  );
}
