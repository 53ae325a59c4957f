import { throughDomain, type Rgb, type Table } from '@dyepot/core';
import { useEffect, useRef, useState } from 'react';
import { channels, upper } from '../channels.ts';
import { Rove } from '../../kit/Rove.tsx';

const n = 96;

/** One plane of the cube at an amount of one channel; the next two channels run across and up. */
function Slice({ table, channel, amount }: { table: Table; channel: number; amount: number }): React.JSX.Element {
  const canvas = useRef<HTMLCanvasElement>(null),
    words = `${channels[channel]!} at ${Math.round(amount * 100)} %`;
  useEffect(() => {
    const context = canvas.current!.getContext('2d')!,
      image = context.createImageData(n, n);
    for (let y = 0; y < n; y++)
      for (let x = 0; x < n; x++) {
        const from = [0, 0, 0];
        from[channel] = amount;
        from[(channel + 1) % 3] = x / (n - 1);
        from[(channel + 2) % 3] = 1 - y / (n - 1);
        image.data.set([...throughDomain(table, from as unknown as Rgb).map((v) => v * 255), 255], (y * n + x) * 4);
      }
    context.putImageData(image, 0, 0);
  }, [table, channel, amount]);
  return (
    <figure>
      <canvas ref={canvas} width={n} height={n} role="img" aria-label={`Slice with ${words}`} />
      <figcaption>{Math.round(amount * 100)} %</figcaption>
    </figure>
  );
}

/** Planes of the cube at five amounts of one channel. */
export function TableSlices({ table }: { table: Table }): React.JSX.Element {
  const [channel, setChannel] = useState(2);
  return (
    <section>
      <header>
        <h3 className="part-head">Slices by amount of</h3>
        <Rove className="segmented" role="tablist" aria-label="Slices by amount of">
          {channels.map((c, i) => (
            <button key={c} type="button" role="tab" aria-selected={i === channel} onClick={() => setChannel(i)}>
              {upper(c)}
            </button>
          ))}
        </Rove>
      </header>
      <div className="slices">
        {[0, 0.25, 0.5, 0.75, 1].map((amount) => (
          <Slice key={amount} table={table} channel={channel} amount={amount} />
        ))}
      </div>
    </section>
  );
}
