import { Button, Input } from '@chakra-ui/react';
import { useState } from 'react';
import { Sheet } from '../kit/Sheet.tsx';

/** Asks what light frames stand in. */
export function LightSheet({
  first,
  count,
  lights,
  onClose,
  onSet,
}: {
  first: string;
  count: number;
  lights: readonly string[];
  onClose: () => void;
  onSet: (light: string) => void;
}): React.JSX.Element {
  const [light, setLight] = useState(first);
  return (
    <Sheet title={`Light of ${count} ${count === 1 ? 'frame' : 'frames'}`} onClose={onClose}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          onSet(light.trim());
        }}
      >
        <label>
          Light
          <Input size="sm" autoFocus maxLength={60} value={light} list="lights" onChange={(e) => setLight(e.target.value)} />
        </label>
        <datalist id="lights">
          {lights.map((l) => (
            <option key={l} value={l} />
          ))}
        </datalist>
        <div className="sheet-actions">
          <Button size="sm" type="submit" colorPalette="dye" disabled={!light.trim()}>
            Set
          </Button>
        </div>
      </form>
    </Sheet>
  );
}
