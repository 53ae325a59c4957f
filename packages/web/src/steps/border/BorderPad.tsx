import { Fields } from '../../kit/Cell.tsx';
import { fieldsOf, trayWidth as W, type FittingProps } from '../fitting.ts';
import { padFrame, padHeight } from '../PlacePad.tsx';

const frame = padFrame(208);

/** The border as it lies round a picture. */
export function BorderPad({ numbers, onSet }: FittingProps): React.JSX.Element {
  const { width = 0, lightness = 97, hue = 0, chroma = 0, torn = 0 } = numbers,
    by = (width / 100) * frame.width;
  return (
    <>
      <svg className="drawing" viewBox={`0 0 ${W} ${padHeight}`} role="img" aria-label="Border round a picture">
        <rect width={W} height={padHeight} fill="#1f1f1f" />
        <rect x={frame.x} y={frame.y} width={frame.width} height={frame.height} fill={`oklch(${lightness / 100} ${chroma} ${hue})`} />
        <rect
          x={frame.x + by}
          y={frame.y + by}
          width={frame.width - 2 * by}
          height={frame.height - 2 * by}
          fill="#5a5a5a"
          stroke="#5a5a5a"
          strokeWidth={0.03 * torn * by}
          strokeDasharray={torn > 0 ? '7 3 2 5 11 4' : undefined}
        />
      </svg>
      <Fields of={fieldsOf('border', numbers, ['width', 'torn', 'take'])} onSet={onSet} />
      <Fields of={fieldsOf('border', numbers, ['lightness', 'hue', 'chroma'])} onSet={onSet} />
    </>
  );
}
