import { grainPass } from '../../render/grainPass.ts';
import { defineStep, number, numberOf } from '../../render/step.ts';

/** Grain of the film plane: density that varies by Selwyn's law, calibrated through 48 µm, the same at each place of the frame however it is cropped or scaled. */
export const grain = defineStep({
  kind: 'grain',
  lane: 'print',
  name: 'Grain',
  purpose: 'Grain of a film, in its own measures',
  atStrength: 'multiplies the granularity',
  note: 'Granularity is RMS density × 1000 through a round aperture of 48 µm, as data sheets print it. Format is the long edge of the uncropped frame on film; a roll is one of many that look alike',
  needs: ['grain', 'noise', 'gritty', 'film texture'],
  params: {
    rms: number('Granularity', '×1000', 0, 60, 0, 0.5, 1),
    size: number('Size', 'µm', 2, 30, 8, 0.5, 1),
    roughness: number('Roughness', '%', 0, 100, 30, 1, 0),
    colour: number('Colour', '%', 0, 100, 0, 1, 0),
    darks: number('In darks', '%', 0, 200, 70, 1, 0),
    mids: number('In mids', '%', 0, 200, 100, 1, 0),
    lights: number('In lights', '%', 0, 200, 60, 1, 0),
    format: number('Format', 'mm', 8, 250, 36, 1, 0),
    roll: number('Roll', '', 1, 99, 1, 1, 0),
  },
  unbakeable: 'grain belongs to places, which a table does not know',
  compile: (values, strength) => {
    const rms = numberOf(values, 'rms') * strength,
      share = (name: string): number => numberOf(values, name) / 100;
    return rms === 0
      ? []
      : [
          grainPass({
            rms,
            sizeUm: numberOf(values, 'size'),
            roughness: share('roughness'),
            colour: share('colour'),
            darks: share('darks'),
            mids: share('mids'),
            lights: share('lights'),
            formatMm: numberOf(values, 'format'),
            roll: Math.round(numberOf(values, 'roll')),
          }),
        ];
  },
});
