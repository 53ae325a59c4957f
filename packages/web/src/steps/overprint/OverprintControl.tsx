import type { StoredPicture } from '@dyepot/core';
import { Button } from '@chakra-ui/react';
import { useEffect, useRef } from 'react';
import { api, messageOf } from '../../api.ts';
import { Fields } from '../../kit/Cell.tsx';
import { complain } from '../../kit/notices.tsx';
import { fieldsOf, type FittingProps } from '../fitting.ts';

/** The picture, small. */
function Thumb({ picture }: { picture: StoredPicture }): React.JSX.Element {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const c = canvas.current!,
      { width, height, data } = picture,
      bytes = Uint8Array.from(atob(data), (ch) => ch.charCodeAt(0)),
      pixels = new ImageData(width, height);
    c.width = width;
    c.height = height;
    for (let i = 0; i < width * height; i++) {
      for (let k = 0; k < 3; k++) pixels.data[i * 4 + k] = bytes[i * 3 + k]!;
      pixels.data[i * 4 + 3] = 255;
    }
    c.getContext('2d')!.putImageData(pixels, 0, 0);
  }, [picture]);
  return <canvas ref={canvas} className="overprint-thumb" role="img" aria-label={`The picture ${picture.name}`} />;
}

/** The picture that is laid over: brought in from a file, placed, taken out. */
export function OverprintControl({ params, numbers, onSet, onSetAll }: FittingProps): React.JSX.Element {
  const picture = params['picture'] as StoredPicture | null,
    input = useRef<HTMLInputElement>(null),
    [readPicture, { isLoading: reading }] = api.useReadPictureMutation();
  const take = async (file: File): Promise<void> => {
    try {
      const read = await readPicture(file).unwrap();
      onSetAll({ picture: read }, `Picture ${file.name}`, '');
    } catch (error) {
      complain(messageOf(error));
    }
  };
  return (
    <>
      {picture ? (
        <Thumb picture={picture} />
      ) : (
        <p className="purpose">No picture yet. A JPEG, PNG, WebP or TIFF can be laid over; it then goes with the look.</p>
      )}
      <div className="row">
        <input
          ref={input}
          type="file"
          hidden
          accept=".jpg,.jpeg,.png,.webp,.tif,.tiff"
          aria-label="File of the picture"
          onChange={(e) => {
            const f = e.target.files?.[0];
            e.target.value = '';
            if (f) void take(f);
          }}
        />
        <Button size="xs" variant="outline" loading={reading} onClick={() => input.current?.click()}>
          {picture ? 'Another picture…' : 'Bring in a picture…'}
        </Button>
        {picture && (
          <button type="button" className="text-button" onClick={() => onSetAll({ picture: null }, 'Picture taken out', '')}>
            take out
          </button>
        )}
      </div>
      <Fields of={fieldsOf('overprint', numbers, ['opacity', 'scale', 'turn'])} onSet={onSet} />
      <Fields
        of={fieldsOf('overprint', numbers, [
          ['x', 'Across'],
          ['y', 'Down'],
        ])}
        onSet={onSet}
      />
    </>
  );
}
