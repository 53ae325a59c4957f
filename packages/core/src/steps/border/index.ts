import { oklabToRec2020, polar } from '../../colour/oklab.ts';
import { boxes } from '../../render/boxes.ts';
import { defineStep, number, numberOf } from '../../render/step.ts';

/** A border of one colour within the picture's edges, its inner edge as torn as paper. */
export const border = defineStep({
  kind: 'border',
  lane: 'print',
  name: 'Border',
  purpose: 'Paper or black round the picture',
  atStrength: 'multiplies the width',
  note: "It lies within the picture as it is cropped; its width is of the uncropped frame's long edge",
  needs: ['border', 'frame', 'paper edge', 'passe-partout'],
  params: {
    width: number('Width', '%', 0, 12, 0, 0.1, 1),
    lightness: number('Lightness', '%', 0, 100, 97, 1, 0),
    hue: number('Hue', '°', 0, 360, 85, 1, 0),
    chroma: number('Chroma', '', 0, 0.15, 0.01, 0.002, 3),
    torn: number('Torn', '%', 0, 100, 0, 1, 0),
    take: number('Take', '', 1, 99, 1, 1, 0),
  },
  unbakeable: 'a table does not know places',
  compile: (values, strength) => {
    const width = (numberOf(values, 'width') / 100) * strength;
    if (width === 0) return [];
    const torn = numberOf(values, 'torn') / 100;
    return [
      {
        kernel: 'border',
        parameters: [
          ...boxes,
          ...oklabToRec2020([numberOf(values, 'lightness') / 100, ...polar(numberOf(values, 'hue'), numberOf(values, 'chroma'))]).map((v) =>
            Math.max(0, v),
          ),
          width,
          0.0004 + 0.0012 * torn,
          0.35 * width * torn,
          90,
          Math.round(numberOf(values, 'take')),
        ],
      },
    ];
  },
});
