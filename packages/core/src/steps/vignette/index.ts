import { smoothstep } from '../../colour/smoothstep.ts';
import { luminanceShares } from '../../colour/luminance.ts';
import { tableOver } from '../../render/pass.ts';
import { boxes } from '../../render/boxes.ts';
import { choice, defineStep, number, numberOf } from '../../render/step.ts';

/** Less or more light towards the edges, and an amount of its own in the middle, in EV of linear light. */
export const vignette = defineStep({
  kind: 'vignette',
  lane: 'print',
  name: 'Vignette',
  purpose: 'Edges darker or lighter, about a place that is put on the picture',
  atStrength: 'multiplies both amounts',
  note: 'Centre and size are of the uncropped frame, or of the picture as it is cropped; at a size of 100 % half of the fall lies at its sides. Lights kept: from a third of white on',
  needs: ['vignette', 'darker edges', 'burn the edges', 'light in the middle'],
  params: {
    edgeEv: number('At the edges', 'EV', -4, 2, 0, 0.05, 2),
    middleEv: number('In the middle', 'EV', -1, 2, 0, 0.05, 2),
    x: number('Centre across', '%', 0, 100, 50, 0.5, 1),
    y: number('Centre down', '%', 0, 100, 50, 0.5, 1),
    size: number('Size', '%', 10, 180, 90, 1, 0),
    feather: number('Feather', '%', 5, 100, 70, 1, 0),
    round: number('Roundness', '%', 0, 100, 20, 1, 0),
    kept: number('Lights kept', '%', 0, 100, 0, 1, 0),
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
    const share = (name: string): number => numberOf(values, name) / 100,
      edge = numberOf(values, 'edgeEv') * strength,
      middle = numberOf(values, 'middleEv') * strength,
      feather = share('feather');
    if (edge === 0 && middle === 0) return [];
    const outer = (r: number): number => smoothstep((r - (1 - 0.9 * feather)) / (1.8 * feather) + 1e-9),
      inner = (r: number): number => 1 - smoothstep(r / 1.1),
      ev = (t: number): number => edge * outer(2 * t) + middle * inner(2 * t);
    return [
      {
        kernel: 'vignette',
        parameters: [
          ...boxes,
          ...luminanceShares,
          values['of'] === 'picture' ? 1 : 0,
          share('x'),
          share('y'),
          share('size'),
          share('round'),
          share('kept'),
          ...tableOver(512, share('kept') > 0 ? ev : (t) => 2 ** ev(t)),
        ],
      },
    ];
  },
});
