import { inLab } from '../../render/pass.ts';
import { skinHue } from '../../render/readouts.ts';
import { defineStep, number, numberOf } from '../../render/step.ts';

/** Chroma where there is little of it; skins (common practice: hues 27° either side of 52°) spared. */
export const vibrance = defineStep({
  kind: 'vibrance',
  lane: 'print',
  name: 'Vibrance',
  purpose: 'More colour where there is little, skins spared',
  atStrength: 'multiplies it',
  needs: ['livelier', 'muted', 'gentle saturation', 'dull colours'],
  params: { change: number('Change', '%', -100, 100, 0, 1, 0), spare: number('Skins spared', '%', 0, 100, 70, 1, 0) },
  compile: (values, strength) => {
    const change = (numberOf(values, 'change') / 100) * strength,
      hue = (skinHue * Math.PI) / 180,
      edge = Math.cos((27 * Math.PI) / 180);
    return change === 0
      ? []
      : inLab('vibrance', [change, 1 / 0.28, Math.cos(hue), Math.sin(hue), edge, 1 / (1 - edge), numberOf(values, 'spare') / 100]);
  },
});
