import { packedPixels, type StoredPicture } from '../../formats/storedPicture.ts';
import { boxes } from '../../render/boxes.ts';
import { choice, defineStep, number, numberOf } from '../../render/step.ts';
import { blendModes } from '../../render/blendModes.ts';

const fits = [
  ['cover', 'covering all'],
  ['within', 'within the picture'],
  ['stretch', 'stretched'],
  ['repeat', 'again and again'],
] as const;

/** An imported picture laid over the frame: paper, a sky, lights out of focus. */
export const overprint = defineStep({
  kind: 'overprint',
  lane: 'print',
  name: 'Overprint',
  purpose: 'Another picture laid over: texture, sky, lights out of focus',
  atStrength: 'multiplies the opacity',
  note: 'The picture is kept by its content, up to 1280 pixels long, and goes with the look’s file. Blending is on sRGB-encoded values, as W3C Compositing and Blending Level 1 has it',
  needs: ['texture', 'paper', 'double exposure', 'bokeh', 'sky', 'overlay', 'dust'],
  params: {
    picture: { type: 'document', label: 'Picture', default: null, format: 'dyepot-picture' },
    opacity: number('Opacity', '%', 0, 100, 50, 1, 0),
    mode: choice('Laid on', blendModes, 'screen'),
    fit: choice('Fit', fits, 'cover'),
    scale: number('Scale', '%', 10, 400, 100, 1, 0),
    turn: number('Turn', '°', -180, 180, 0, 1, 0),
    x: number('Moved across', '%', -100, 100, 0, 0.5, 1),
    y: number('Moved down', '%', -100, 100, 0, 0.5, 1),
    flip: choice(
      'Flip',
      [
        ['no', 'as it is'],
        ['yes', 'mirrored'],
      ],
      'no',
    ),
    of: choice(
      'Placed on',
      [
        ['frame', 'the whole frame'],
        ['picture', 'the crop'],
      ],
      'frame',
    ),
  },
  unbakeable: 'a table does not know places',
  compile: (values, strength) => {
    const picture = values['picture'] as StoredPicture | null,
      opacity = Math.min(1, (numberOf(values, 'opacity') / 100) * strength);
    if (!picture || opacity === 0) return [];
    const turn = (numberOf(values, 'turn') * Math.PI) / 180,
      { width, height } = picture,
      head = [
        ...boxes,
        values['of'] === 'picture' ? 1 : 0,
        fits.findIndex(([fit]) => fit === values['fit']),
        width / height,
        Math.cos(turn),
        Math.sin(turn),
        100 / numberOf(values, 'scale'),
        numberOf(values, 'x') / 100,
        numberOf(values, 'y') / 100,
        values['flip'] === 'yes' ? -1 : 1,
        blendModes.findIndex(([mode]) => mode === values['mode']),
        opacity,
        width,
        height,
      ],
      pixels = packedPixels(picture),
      parameters = new Float32Array(head.length + pixels.length);
    parameters.set(head);
    parameters.set(pixels, head.length);
    return [{ kernel: 'overprint', parameters }];
  },
});
