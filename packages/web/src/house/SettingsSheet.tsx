import { Checkbox } from '@chakra-ui/react';
import { api, messageOf, useChangeSettingsMutation, useSettingsQuery } from '../api.ts';
import { complain } from '../kit/notices.tsx';
import { Sheet } from '../kit/Sheet.tsx';
import { store } from '../store.ts';
import { LookFolder } from './LookFolder.tsx';
import { keyList } from './keyList.ts';

const sizes = [0.25, 0.5, 1, 2, 4, 8];

/** All keys on one page, and what is set once. */
export function SettingsSheet({ onClose }: { onClose: () => void }): React.JSX.Element {
  const { data: settings } = useSettingsQuery(),
    [change] = useChangeSettingsMutation();
  const set = (next: Parameters<typeof change>[0]): void => {
    // a setting acts as soon as it is changed
    const shown = store.dispatch(api.util.updateQueryData('settings', undefined, (s) => void Object.assign(s, next)));
    change(next)
      .unwrap()
      .catch((e: unknown) => {
        shown.undo();
        complain(messageOf(e));
      });
  };
  return (
    <Sheet title="Keys and settings" onClose={onClose} wide>
      <div className="settings">
        <Checkbox.Root
          size="sm"
          checked={settings?.letterKeys ?? true}
          disabled={!settings}
          onCheckedChange={(e) => set({ letterKeys: e.checked === true })}
        >
          <Checkbox.HiddenInput />
          <Checkbox.Control />
          <Checkbox.Label>Single letters and digits act as keys</Checkbox.Label>
        </Checkbox.Root>
        <label className="inline">
          Largest raw taken as an upload{' '}
          <select
            value={settings ? settings.uploadLimitBytes / 1e9 : 2}
            disabled={!settings}
            onChange={(e) => set({ uploadLimitBytes: Number(e.target.value) * 1e9 })}
          >
            {[...new Set([...sizes, (settings?.uploadLimitBytes ?? 2e9) / 1e9])]
              .sort((a, b) => a - b)
              .map((s) => (
                <option key={s} value={s}>
                  {s < 1 ? `${s * 1000} MB` : `${s} GB`}
                </option>
              ))}
          </select>
        </label>
        <LookFolder />
      </div>
      <div className="key-list">
        {keyList.map(({ where, keys }) => (
          <section key={where} aria-label={where}>
            <h3>{where}</h3>
            <dl>
              {keys.map(({ press, does, letter }) => (
                <div key={press} className={letter && settings?.letterKeys === false ? 'off' : ''}>
                  <dt>
                    <kbd>{press}</kbd>
                  </dt>
                  <dd>{does}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </div>
    </Sheet>
  );
}
