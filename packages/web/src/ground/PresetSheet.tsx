import { groundworkParts, partIsPlain, withParts, type Groundwork, type GroundworkPart } from '@dyepot/core';
import { Button, Checkbox } from '@chakra-ui/react';
import { useState } from 'react';
import { messageOf } from '../api.ts';
import { useCreatePresetMutation, usePresetsQuery, useTakeOutPresetMutation } from './groundApi.ts';
import type { GroundworkPreset } from '../types.ts';
import { CheckGrid } from '../kit/CheckGrid.tsx';
import { complain, tell } from '../kit/notices.tsx';
import { undoTakingOut } from '../trash/undoTakingOut.ts';
import { Sheet } from '../kit/Sheet.tsx';
import type { Frame } from '../types.ts';
import { allParts, partNames } from './GroundTray.tsx';

const fits = (p: GroundworkPreset, frame: Frame): boolean =>
  (p.camera === null || p.camera === frame.camera) && frame.exif.iso >= p.isoFrom && frame.exif.iso <= p.isoTo;

/** Groundwork under names: those that fit this frame's camera and ISO first; and keeping this frame's as a new one. */
export function PresetSheet({
  frame,
  ground,
  onClose,
  onGiven,
}: {
  frame: Frame;
  ground: Groundwork;
  onClose: () => void;
  onGiven: (words: string, next: Groundwork) => void;
}): React.JSX.Element {
  const { data: presets } = usePresetsQuery(),
    [create, creating] = useCreatePresetMutation(),
    [takeOut] = useTakeOutPresetMutation(),
    all = Object.keys(groundworkParts) as GroundworkPart[];
  const [parts, setParts] = useState<ReadonlySet<GroundworkPart>>(new Set(all.filter((p) => p !== 'geometry' && !partIsPlain(ground, p)))),
    [automatic, setAutomatic] = useState(false),
    [any, setAny] = useState(false),
    { iso } = frame.exif;
  const sorted = [...(presets ?? [])].sort((a, b) => Number(fits(b, frame)) - Number(fits(a, frame)) || a.name.localeCompare(b.name));
  return (
    <Sheet title="Groundwork presets" onClose={onClose}>
      <ul className="preset-list" aria-label="Presets">
        {sorted.map((p) => (
          <li key={p.id} className={fits(p, frame) ? '' : 'unfit'}>
            <button
              type="button"
              title={fits(p, frame) ? 'Give it to this frame' : 'Made for another camera or ISO; it can be given all the same'}
              onClick={() => onGiven(`Preset “${p.name}”`, withParts(ground, p.groundwork, p.parts))}
            >
              <b>{p.name}</b>
              <small>
                {p.camera ?? 'any camera'}, ISO {p.isoFrom}–{p.isoTo} · {p.parts.map((q) => partNames[q][0].toLowerCase()).join(', ')}
                {p.automatic ? ' · given to new frames' : ''}
              </small>
            </button>
            <button
              type="button"
              className="text-button"
              onClick={() =>
                takeOut(p.id)
                  .unwrap()
                  .then(
                    () => tell(`The preset ${p.name} is in the trash`, undoTakingOut('preset', [p.id])),
                    (e: unknown) => complain(messageOf(e)),
                  )
              }
            >
              take out
            </button>
          </li>
        ))}
        {presets?.length === 0 && (
          <li className="dim">No presets yet. Keep what suits a camera at some ISO (noise and sharpening, say) below.</li>
        )}
      </ul>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          const value = (name: string): string => (e.currentTarget.elements.namedItem(name) as HTMLInputElement).value;
          if (parts.size === 0) {
            complain('choose at least one part');
            return;
          }
          create({
            name: value('name').trim() || `${frame.camera}, ISO ${iso}`,
            camera: any ? null : frame.camera,
            isoFrom: Number(value('from')),
            isoTo: Number(value('to')),
            parts: [...parts],
            groundwork: ground,
            automatic,
          })
            .unwrap()
            .then(
              (p) => tell(`${p.name} kept`),
              (error: unknown) => complain(messageOf(error)),
            );
        }}
      >
        <h3 className="part-head">Keep this frame’s groundwork</h3>
        <label className="field">
          Name
          <input name="name" placeholder={`${frame.camera}, ISO ${iso}`} />
        </label>
        <div className="row">
          <span className="dim">ISO</span>
          <input name="from" type="number" min="0" step="any" aria-label="Lowest ISO" defaultValue={Math.round(iso / 1.5)} />
          <span className="dim">to</span>
          <input name="to" type="number" min="0" step="any" aria-label="Highest ISO" defaultValue={Math.round(iso * 1.5)} />
          <label className="inline">
            <select aria-label="Camera" value={any ? 'any' : 'own'} onChange={(e) => setAny(e.target.value === 'any')}>
              <option value="own">{frame.camera}</option>
              <option value="any">any camera</option>
            </select>
          </label>
        </div>
        <CheckGrid of={allParts} chosen={parts} onChosen={setParts} />
        <Checkbox.Root size="sm" checked={automatic} onCheckedChange={() => setAutomatic(!automatic)}>
          <Checkbox.HiddenInput />
          <Checkbox.Control />
          <Checkbox.Label>Give it to every new frame it fits</Checkbox.Label>
        </Checkbox.Root>
        <div className="sheet-actions">
          <Button size="sm" variant="ghost" onClick={onClose}>
            Close
          </Button>
          <Button size="sm" type="submit" colorPalette="dye" loading={creating.isLoading}>
            Keep
          </Button>
        </div>
      </form>
    </Sheet>
  );
}
