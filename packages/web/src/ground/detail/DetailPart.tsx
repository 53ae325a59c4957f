import { Fields } from '../../kit/Cell.tsx';
import { formatNumber } from '../../kit/NumberControl.tsx';
import type { PartProps } from '../partProps.ts';
import { ContrastGraph } from './ContrastGraph.tsx';
import { NoiseGraph } from './NoiseGraph.tsx';
import { numbers, valuesOf, withValues, type DetailNumber, type Values } from './numbers.ts';
import { SharpnessGraph } from './SharpnessGraph.tsx';

/** Noise over size and brightness, softness of the optics, sharpness over size and contrast: graphs, with their numbers under them. */
export function DetailPart({ frame, ground, small, set, onMask }: PartProps): React.JSX.Element {
  const { detail } = ground,
    values = valuesOf(detail, frame.optics);
  const onSet = (changed: Values, gesture: string): void => {
    const words = (Object.keys(changed) as DetailNumber[]).map(
      (name) => `${numbers[name].label} ${formatNumber(numbers[name], changed[name]!)}`,
    );
    set(words.join(', '), `${Object.keys(changed).join('-')}-${gesture}`, { detail: withValues(detail, changed) });
  };
  const fields = (names: readonly DetailNumber[]): React.JSX.Element => (
    <Fields
      of={names.map((name) => ({ name, parameter: numbers[name], value: values[name] }))}
      onSet={(name, value, gesture) => onSet({ [name]: value }, gesture)}
    />
  );
  const { softness, sharpness } = detail,
    { aperture, pitchUm } = frame.optics,
    optics = { aperture: softness.aperture ?? aperture, pitchUm: softness.pitchUm ?? pitchUm },
    // a frame of 36 mm, which Exif's equivalent focal lengths are said for
    wholeFrame = Math.round(360000 / Math.max(frame.width, frame.height)) / 10,
    setSoftness = (words: string, change: Partial<typeof softness>): void =>
      set(words, '', { detail: { ...detail, softness: { ...softness, ...change } } });
  return (
    <>
      <h3 className="part-head">Noise</h3>
      <NoiseGraph values={values} onSet={onSet} />
      {fields(['lumaCoarse', 'lumaFine'])}
      {fields(['colourCoarse', 'colourFine'])}
      {fields(['darks', 'lights'])}
      <p className="purpose">
        What stands out less than so many times the frame’s own noise is smoothed, by its size. Measured here:{' '}
        {(Math.sqrt(frame.noise.slope * 0.18 + frame.noise.floor) / 0.0018).toFixed(1)} % of middle grey, at ISO {frame.exif.iso}.
      </p>
      <h3 className="part-head">Sharpness</h3>
      <SharpnessGraph values={values} sharpness={sharpness} optics={optics} onSet={onSet} />
      {fields(['gain', 'sizePx'])}
      {fields(['coarsePx', 'finePx'])}
      <h3 className="part-head">Softness of the optics</h3>
      {fields(['share', 'filterPx'])}
      {fields(optics.pitchUm === null ? ['aperture'] : ['aperture', 'pitchUm'])}
      <p className="purpose">
        The grey fall is what the opening and the filter before the sensor leave of each size.{' '}
        {aperture ? `The file says f/${aperture}` : 'The file names no aperture'}
        {pitchUm ? `, and ${pitchUm.toFixed(1)} µm from pixel to pixel.` : '; how far its pixels lie apart it does not say.'}{' '}
        {optics.pitchUm === null && (
          <button
            type="button"
            className="text-button"
            onClick={() => setSoftness(`Pixel pitch ${wholeFrame} µm`, { pitchUm: wholeFrame })}
          >
            its sensor is 36 mm wide
          </button>
        )}
        {(softness.aperture !== null || softness.pitchUm !== null) && (
          <button
            type="button"
            className="text-button"
            onClick={() => setSoftness('Optics as the file says', { aperture: null, pitchUm: null })}
          >
            as the file says
          </button>
        )}
      </p>
      <h3 className="part-head">Where sharpness acts</h3>
      <div
        onPointerDownCapture={() => onMask(true)}
        onPointerUp={() => onMask(false)}
        onPointerCancel={() => onMask(false)}
        onKeyDownCapture={(e) => e.key.startsWith('Arrow') && onMask(true)}
        onKeyUp={() => onMask(false)}
      >
        <ContrastGraph values={values} sharpness={sharpness} small={small} noise={frame.noise} onSet={onSet} />
        {fields(['faint', 'strong', 'kept'])}
      </div>
      <p className="purpose">
        By how far a place stands out of the noise; the grey shape is this frame. While held, white is where it acts.
      </p>
    </>
  );
}
