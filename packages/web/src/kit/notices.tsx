import { createToaster, Toast, Toaster } from '@chakra-ui/react';

const toaster = createToaster({ placement: 'bottom-end', pauseOnPageIdle: true, max: 4 });

/** Takes back what a notice tells of. */
export type Undo = () => Promise<void> | void;
const undoableMs = 12000;

/** Says something in the corner for a while; with the way back where there is one. */
export function tell(words: string, undo?: Undo): void {
  toaster.create({
    title: words,
    type: 'info',
    duration: undo ? undoableMs : 3500,
    closable: Boolean(undo),
    ...(undo ? { action: { label: 'Undo', onClick: () => void undo() } } : {}),
  });
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
          pointerEvents={toast.type === 'error' || toast.action ? 'auto' : 'none'}
          bg="#383838"
          color="#f1f0ef"
          borderLeft={toast.type === 'error' ? '3px solid #e0633a' : '3px solid #8a8a8a'}
        >
          <Toast.Title fontSize="13px" fontWeight="500" data-testid="notice">
            {toast.title}
          </Toast.Title>
          {toast.action && (
            <Toast.ActionTrigger fontSize="13px" color="#f1b099">
              {toast.action.label}
            </Toast.ActionTrigger>
          )}
          {toast.closable && <Toast.CloseTrigger aria-label="Put this notice away" />}
        </Toast.Root>
      )}
    </Toaster>
  );
}
