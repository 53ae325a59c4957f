import { Button } from '@chakra-ui/react';
import { useState } from 'react';
import { messageOf } from '../api.ts';
import { complain, tell } from '../kit/notices.tsx';
import { settingsOf, type Values } from './deliverForm.ts';
import { useDeliveryPresetsQuery, useKeepDeliveryPresetsMutation, type DeliveryPreset } from './deliveryApi.ts';

/** Settings under names of one's own: taken up, kept, and taken out. */
export function Presets({ values, onTake }: { values: Values; onTake: (preset: DeliveryPreset) => void }): React.JSX.Element {
  const { data } = useDeliveryPresetsQuery(),
    [keep] = useKeepDeliveryPresetsMutation(),
    [chosen, setChosen] = useState(''),
    [name, setName] = useState<string | null>(null);
  const presets = data?.presets ?? [],
    file = settingsOf(values);
  const change = (next: DeliveryPreset[], words: string, undo?: DeliveryPreset[]): void => {
    keep(next)
      .unwrap()
      .then(
        () =>
          tell(
            words,
            undo &&
              (() =>
                keep(undo)
                  .unwrap()
                  .then(() => {})),
          ),
        (e: unknown) => complain(messageOf(e)),
      );
  };
  const keepNow = (): void => {
    const own = name?.trim() ?? '';
    if (own === '' || 'wrong' in file) return;
    change(
      [...presets.filter((p) => p.name !== own), { name: own, folder: values.folder.trim(), pattern: values.pattern, file }].sort((a, b) =>
        a.name.localeCompare(b.name),
      ),
      `${own} is kept`,
    );
    setChosen(own);
    setName(null);
  };
  return (
    <div className="wide presets">
      <label>
        Preset
        <select
          value={presets.some((p) => p.name === chosen) ? chosen : ''}
          onChange={(e) => {
            setChosen(e.target.value);
            const preset = presets.find((p) => p.name === e.target.value);
            if (preset) onTake(preset);
          }}
        >
          <option value="">{presets.length === 0 ? 'none kept yet' : 'none'}</option>
          {presets.map((p) => (
            <option key={p.name}>{p.name}</option>
          ))}
        </select>
      </label>
      {name === null ? (
        <>
          <Button size="xs" variant="outline" disabled={'wrong' in file} onClick={() => setName(chosen)}>
            Keep these…
          </Button>
          {chosen !== '' && (
            <Button
              size="xs"
              variant="ghost"
              onClick={() => {
                change(
                  presets.filter((p) => p.name !== chosen),
                  `${chosen} is no preset any more`,
                  presets,
                );
                setChosen('');
              }}
            >
              Take out
            </Button>
          )}
        </>
      ) : (
        <>
          <input
            autoFocus
            aria-label="Name of the preset"
            maxLength={80}
            value={name}
            onChange={(e) => setName(e.target.value)}
            onKeyDown={(e) => {
              if (e.key !== 'Enter') return;
              e.preventDefault();
              keepNow();
            }}
          />
          <Button size="xs" colorPalette="dye" disabled={name.trim() === ''} onClick={keepNow}>
            Keep
          </Button>
          <Button size="xs" variant="ghost" onClick={() => setName(null)}>
            Cancel
          </Button>
        </>
      )}
    </div>
  );
}
