import { Button } from '@chakra-ui/react';
import { useState } from 'react';
import { messageOf } from '../api.ts';
import { complain, tell } from '../kit/notices.tsx';
import { settingsOf, type Values } from './deliverForm.ts';
import {
  useDeliveryPresetsQuery,
  useDropDeliveryPresetMutation,
  useKeepDeliveryPresetMutation,
  type DeliveryPreset,
} from './deliveryApi.ts';

/** Settings under names of one's own: taken up, kept, and taken out. */
export function Presets({
  values,
  onTake,
  also,
  onAlso,
}: {
  values: Values;
  onTake: (preset: DeliveryPreset) => void;
  /** presets whose files are made besides, by name */
  also: readonly string[];
  onAlso: (names: readonly string[]) => void;
}): React.JSX.Element {
  const { data } = useDeliveryPresetsQuery(),
    [keep] = useKeepDeliveryPresetMutation(),
    [drop] = useDropDeliveryPresetMutation(),
    [chosen, setChosen] = useState(''),
    [name, setName] = useState<string | null>(null);
  const presets = data?.presets ?? [],
    file = settingsOf(values);
  const said = (work: Promise<unknown>, words: string, undo?: () => Promise<unknown>): void => {
    work.then(
      () => tell(words, undo && (() => undo().then(() => {}))),
      (e: unknown) => complain(messageOf(e)),
    );
  };
  const keepNow = (): void => {
    const own = name?.trim() ?? '',
      before = presets.find((p) => p.name === own);
    if (own === '' || 'wrong' in file) return;
    const work = keep({ name: own, folder: values.folder.trim(), pattern: values.pattern, file }).unwrap();
    said(work, `${own} is kept`, before && (() => keep(before).unwrap()));
    setChosen(own);
    setName(null);
  };
  const takeOut = (): void => {
    const gone = presets.find((p) => p.name === chosen);
    if (gone) said(drop(gone.name).unwrap(), `${gone.name} is no preset any more`, () => keep(gone).unwrap());
    setChosen('');
  };
  const others = presets.filter((p) => p.name !== chosen);
  return (
    <>
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
              <Button size="xs" variant="ghost" onClick={takeOut}>
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
      {others.length > 0 && (
        <fieldset className="wide also">
          <legend>Also, from the same raws decoded once</legend>
          {others.map((p) => (
            <label key={p.name} className="tick" title={`${p.pattern} into ${p.folder || 'Dyepot’s own folder'}`}>
              <input
                type="checkbox"
                checked={also.includes(p.name)}
                onChange={(e) => onAlso(e.target.checked ? [...also, p.name] : also.filter((n) => n !== p.name))}
              />
              {p.name}
            </label>
          ))}
        </fieldset>
      )}
    </>
  );
}
