import { createToaster, Toast, Toaster } from '@chakra-ui/react';
import type { Said } from './notices.tsx';

/** Over the bar of what can be done with chosen frames, which stands at the bottom. */
const offsets = { top: '16px', left: '16px', right: '16px', bottom: '72px' };
const toaster = createToaster({ placement: 'bottom-end', pauseOnPageIdle: true, max: 4, offsets });
const undoableMs = 12000,
  shortMs = 3500;

/** Shows a notice: one that tells goes by itself, one that complains stays longer and can be put away. */
export function show({ words, wrong, undo }: Said): void {
  toaster.create({
    title: words,
    type: wrong ? 'error' : 'info',
    duration: wrong || undo ? undoableMs : shortMs,
    closable: wrong || Boolean(undo),
    ...(undo ? { action: { label: 'Undo', onClick: () => void undo() } } : {}),
  });
}

/** Where notices are shown: in the corner. */
export function Toasts(): React.JSX.Element {
  return (
    <Toaster toaster={toaster} insetInline="16px">
      {(toast) => (
        <Toast.Root
          width="360px"
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
