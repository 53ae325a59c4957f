import { Button, Input } from '@chakra-ui/react';
import { useState } from 'react';
import { messageOf } from '../api.ts';
import { complain, tell } from '../kit/notices.tsx';
import { Sheet } from '../kit/Sheet.tsx';
import { useMakeLinkMutation, type LinkWish } from './peopleApi.ts';

const spans = [
  { days: 1, words: 'one day' },
  { days: 7, words: 'a week' },
  { days: 30, words: '30 days' },
  { days: 180, words: 'half a year' },
];
type Target = { kind: 'look'; lookId: number } | { kind: 'swatches'; shootId: number };

/** Makes a link to one look or one swatch card, for someone without a password. Its address is shown this once. */
export default function LinkSheet({ what, target, onClose }: { what: string; target: Target; onClose: () => void }): React.JSX.Element {
  const [make, { data: made, isLoading }] = useMakeLinkMutation(),
    [days, setDays] = useState(7),
    address = made && `${window.location.origin}/link/${made.token}`;
  return (
    <Sheet title={`A link to ${what}`} onClose={onClose}>
      {address ? (
        <>
          <p>Whoever has this address sees {what}, and nothing else. It is shown this once.</p>
          <Input size="sm" readOnly aria-label="Address of the link" value={address} autoFocus onFocus={(e) => e.target.select()} />
          <div className="sheet-actions">
            <Button size="sm" variant="ghost" onClick={onClose}>
              Close
            </Button>
            <Button
              size="sm"
              colorPalette="dye"
              onClick={() =>
                void navigator.clipboard.writeText(address).then(
                  () => tell('The address is copied'),
                  () => complain('The browser does not let it be copied; select it and copy it yourself'),
                )
              }
            >
              Copy
            </Button>
          </div>
        </>
      ) : (
        <>
          <p>Whoever has its address may look at {what}, without a password and without changing anything.</p>
          <label>
            Open for{' '}
            <select value={days} onChange={(e) => setDays(Number(e.target.value))}>
              {spans.map((s) => (
                <option key={s.days} value={s.days}>
                  {s.words}
                </option>
              ))}
            </select>
          </label>
          <div className="sheet-actions">
            <Button size="sm" variant="ghost" onClick={onClose}>
              Cancel
            </Button>
            <Button
              size="sm"
              colorPalette="dye"
              loading={isLoading}
              onClick={() =>
                void make({ ...target, days } as LinkWish)
                  .unwrap()
                  .catch((e: unknown) => complain(messageOf(e)))
              }
            >
              Make the link
            </Button>
          </div>
        </>
      )}
    </Sheet>
  );
}
