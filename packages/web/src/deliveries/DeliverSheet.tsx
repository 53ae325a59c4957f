import { Button, Input } from '@chakra-ui/react';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { messageOf, useDeliverMutation } from '../api.ts';
import { Sheet } from '../kit/Sheet.tsx';
import type { FileSettings, Shoot } from '../types.ts';

interface Values {
  format: FileSettings['format'];
  depth: '8' | '16';
  space: FileSettings['space'];
  size: string;
  quality: string;
  folder: string;
}
const key = 'dyepot-delivery-1';
function kept(): Values {
  const first: Values = { format: 'jpeg', depth: '8', space: 'srgb', size: '', quality: '92', folder: '' };
  try {
    return { ...first, ...(JSON.parse(localStorage.getItem(key) ?? '{}') as Partial<Values>) };
  } catch {
    return first;
  }
}

/** Settings of a delivery; remembered for the next one. */
export function DeliverSheet({
  shoot,
  frameIds,
  onClose,
}: {
  shoot: Shoot;
  frameIds: number[] | null;
  onClose: () => void;
}): React.JSX.Element {
  const navigate = useNavigate(),
    [deliver, state] = useDeliverMutation(),
    [error, setError] = useState<string | null>(null);
  const { register, handleSubmit, watch } = useForm<Values>({ defaultValues: kept() });
  const format = watch('format'),
    count = frameIds?.length ?? shoot.frames.length;
  const start = async (v: Values): Promise<void> => {
    localStorage.setItem(key, JSON.stringify(v));
    const size = v.size.trim() === '' ? null : Number(v.size),
      quality = Number(v.quality);
    if (size !== null && !(Number.isInteger(size) && size >= 16 && size <= 30000)) {
      setError('The long edge is a whole number of pixels from 16 to 30000, or empty for the full size.');
      return;
    }
    if (!(Number.isInteger(quality) && quality >= 1 && quality <= 100)) {
      setError('The quality is a whole number from 1 to 100.');
      return;
    }
    try {
      await deliver({
        shootId: shoot.id,
        frameIds,
        folder: v.folder.trim() || null,
        file: { format: v.format, depth: v.format === 'jpeg' ? 8 : v.depth === '16' ? 16 : 8, space: v.space, size, quality },
      }).unwrap();
      void navigate('/deliveries');
    } catch (e) {
      setError(messageOf(e));
    }
  };
  return (
    <Sheet title={`Deliver ${count} ${count === 1 ? 'frame' : 'frames'}`} onClose={onClose}>
      <p className="dim">
        {shoot.look ? `Under ${shoot.look.name}, revision ${shoot.look.revision}` : 'Under the neutral response, no look'}
      </p>
      <form className="deliver-form" onSubmit={(e) => void handleSubmit(start)(e)}>
        <label>
          Format
          <select {...register('format')}>
            <option value="jpeg">JPEG</option>
            <option value="tiff">TIFF</option>
            <option value="png">PNG</option>
          </select>
        </label>
        {format === 'jpeg' ? (
          <label>
            Quality
            <Input size="sm" {...register('quality')} inputMode="numeric" />
          </label>
        ) : (
          <label>
            Bits
            <select {...register('depth')}>
              <option value="8">8</option>
              <option value="16">16</option>
            </select>
          </label>
        )}
        <label>
          Colour
          <select {...register('space')}>
            <option value="srgb">sRGB</option>
            <option value="p3">Display P3</option>
          </select>
        </label>
        <label>
          Long edge, px
          <Input size="sm" placeholder="full size" {...register('size')} inputMode="numeric" />
        </label>
        <label className="wide">
          Into folder
          <Input size="sm" placeholder="Dyepot’s own; download as zip" {...register('folder')} />
        </label>
        {error && (
          <p className="form-error wide" role="alert">
            {error}
          </p>
        )}
        <div className="sheet-actions wide">
          <Button size="sm" variant="ghost" onClick={onClose}>
            Cancel
          </Button>
          <Button size="sm" type="submit" colorPalette="dye" loading={state.isLoading}>
            Deliver
          </Button>
        </div>
      </form>
    </Sheet>
  );
}
