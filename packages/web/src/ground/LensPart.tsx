import { number, plainLens, type Lens } from '@dyepot/core';
import { Button, Checkbox } from '@chakra-ui/react';
import { useState } from 'react';
import { messageOf } from '../api.ts';
import { useLazyLensProfileQuery, useLensesQuery, useLensSourceQuery, useSetLensSourceMutation } from './groundApi.ts';
import { complain, tell } from '../kit/notices.tsx';
import { NumberControl } from '../kit/NumberControl.tsx';
import { Sheet } from '../kit/Sheet.tsx';
import type { Frame } from '../types.ts';
import type { PartProps } from './partProps.ts';

const percent = (name: string, from: number): ReturnType<typeof number> => number(name, '%', from, 100, 0, 1, 0);
const controls = [
  { name: 'distortion', parameter: percent('Bowed lines', -100), shows: 'grid' },
  { name: 'redSize', parameter: percent('Red against green', -100), shows: 'loupe' },
  { name: 'blueSize', parameter: percent('Blue against green', -100), shows: 'loupe' },
  { name: 'cornerEv', parameter: number('Corner light', 'EV', -3, 3, 0, 0.05, 2), shows: 'light' },
  { name: 'cornerPower', parameter: number('Kept to the corners', '', 1, 6, 2, 0.1, 1), shows: 'light' },
  { name: 'purpleFringe', parameter: percent('Purple edges', 0), shows: 'loupe' },
  { name: 'greenFringe', parameter: percent('Green edges', 0), shows: 'loupe' },
] as const;
export type LensShown = 'off' | 'grid' | 'light';

/** What the lens did wrong: by what the file says, by a database, by hand. */
export function LensPart({ frame, ground, set, onLensShown }: PartProps): React.JSX.Element {
  const { lens } = ground,
    [choosing, setChoosing] = useState(false),
    to = (words: string, gesture: string, change: Partial<Lens>): void => set(words, gesture, { lens: { ...lens, ...change } });
  const file = frame.fileLens,
    says = [
      file?.warp ? 'straight lines and colours (WarpRectilinear)' : '',
      file?.vignetting ? 'corner light (FixVignetteRadial)' : '',
    ].filter(Boolean);
  const control = ({ name, parameter, shows }: (typeof controls)[number]): React.JSX.Element => (
    <NumberControl
      key={name}
      parameter={parameter}
      value={lens[name]}
      onHold={(held) => onLensShown(held && shows !== 'loupe' ? shows : 'off')}
      onChange={(v, g) => to(`${parameter.label} ${v.toFixed(parameter.decimals)}`, `${name}-${g}`, { [name]: v })}
    />
  );
  return (
    <>
      {says.length > 0 ? (
        <Checkbox.Root
          size="sm"
          checked={lens.fromFile}
          onCheckedChange={() =>
            to(lens.fromFile ? 'File’s lens correction off' : 'File’s lens correction on', '', { fromFile: !lens.fromFile })
          }
        >
          <Checkbox.HiddenInput />
          <Checkbox.Control />
          <Checkbox.Label>As the file says: {says.join(', ')}</Checkbox.Label>
        </Checkbox.Root>
      ) : (
        <p className="purpose">This file says nothing of its lens ({frame.lens || 'no name'}).</p>
      )}
      {file && file.others.length > 0 && (
        <p className="purpose">
          It also asks for {file.others.join(', ')}, which {file.others.length === 1 ? 'is' : 'are'} not done.
        </p>
      )}
      <div className="row">
        <Button size="xs" variant="outline" onClick={() => setChoosing(true)}>
          {lens.profile ? 'Another lens…' : 'From a lens database…'}
        </Button>
        {lens.profile && (
          <button type="button" className="text-button" onClick={() => to('Lens profile taken off', '', { profile: null })}>
            take off
          </button>
        )}
      </div>
      {lens.profile && (
        <p className="purpose" data-testid="lens-profile">
          <b>{lens.profile.name}</b>, at {frame.exif.focalMm} mm, f/{frame.exif.aperture}:{' '}
          {[
            lens.profile.distortion && `lines (${lens.profile.distortion.model})`,
            lens.profile.aberration && 'colours',
            lens.profile.vignetting && 'corner light',
          ]
            .filter(Boolean)
            .join(', ') || 'nothing known here'}
          . {lens.profile.source}.
        </p>
      )}
      <h3 className="part-head">Straightness and light</h3>
      {controls.filter((c) => c.name === 'distortion' || c.name.startsWith('corner')).map(control)}
      <h3 className="part-head">Colour at edges</h3>
      {controls.filter((c) => c.shows === 'loupe').map(control)}
      {choosing && (
        <LensSheet
          frame={frame}
          onClose={() => setChoosing(false)}
          onChosen={(profile) => {
            to(`Lens ${profile.name}`, '', { profile });
            setChoosing(false);
          }}
        />
      )}
    </>
  );
}
export const resetLens = plainLens;

/** Names the database and finds a lens in it. */
function LensSheet({
  frame,
  onClose,
  onChosen,
}: {
  frame: Frame;
  onClose: () => void;
  onChosen: (profile: NonNullable<Lens['profile']>) => void;
}): React.JSX.Element {
  const { data: source } = useLensSourceQuery(),
    [setSource, setting] = useSetLensSourceMutation(),
    [words, setWords] = useState(''),
    { data: found, isFetching } = useLensesQuery({ id: frame.id, words }, { skip: !source?.folder }),
    [ask] = useLazyLensProfileQuery(),
    [folder, setFolder] = useState<string | null>(null),
    typed = folder ?? source?.folder ?? '';
  return (
    <Sheet title="A lens from a database" onClose={onClose}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          setSource(typed.trim() || null)
            .unwrap()
            .then(
              (s) => {
                setFolder(null);
                if (s.folder) tell(`${s.lenses} lenses in ${s.files} files`);
              },
              (error: unknown) => complain(messageOf(error)),
            );
        }}
      >
        <label className="field">
          Folder of a Lensfun database (XML, version 1)
          <span className="row">
            <input value={typed} placeholder="/usr/share/lensfun/version_1" onChange={(e) => setFolder(e.target.value)} />
            <Button size="xs" type="submit" variant="outline" loading={setting.isLoading}>
              Read
            </Button>
          </span>
        </label>
      </form>
      <p className="purpose">
        {source?.folder ? `${source.lenses} lenses read. ` : ''}The database is open data; on Debian it is the package liblensfun-data-v1.{' '}
        {source?.problems.slice(0, 2).join(' ')}
      </p>
      {source?.folder && (
        <>
          <label className="field">
            Find <input autoFocus value={words} placeholder={frame.lens} onChange={(e) => setWords(e.target.value)} />
          </label>
          <ul className="lens-list" aria-label="Lenses found">
            {found?.map((l) => (
              <li key={l.key}>
                <button
                  type="button"
                  onClick={() => {
                    ask({ id: frame.id, key: l.key })
                      .unwrap()
                      .then(onChosen, (error: unknown) => complain(messageOf(error)));
                  }}
                >
                  <b>{l.model}</b>
                  <small>
                    {l.has.join(', ')} · {l.focalMin === l.focalMax ? l.focalMin : `${l.focalMin}–${l.focalMax}`} mm · crop {l.crop}
                    {l.inRange ? '' : ` · not measured at ${frame.exif.focalMm} mm`}
                  </small>
                </button>
              </li>
            ))}
            {found?.length === 0 && !isFetching && (
              <li className="dim">
                {words
                  ? 'No lens has all these words in its name.'
                  : `Nothing is named like ${frame.lens || 'this frame’s lens'}; look for another.`}
              </li>
            )}
          </ul>
        </>
      )}
      <div className="sheet-actions">
        <Button size="sm" variant="ghost" onClick={onClose}>
          Close
        </Button>
      </div>
    </Sheet>
  );
}
