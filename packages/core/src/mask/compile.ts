import { luminanceShares } from '../colour/luminance.ts';
import { rec2020ToLms } from '../colour/oklab.ts';
import type { FigureMap, MaskPlan, MaskStage, Shape } from '../render/maskPlan.ts';
import { outlineNumbers } from './outline.ts';
import type { ColourPart, FigurePart, GradientPart, Mask, MaskPart, Mode, NamedMask } from './mask.ts';
import { strokeNumbers } from './strokes.ts';
import { toneNumbers } from './tone.ts';

const modes: Readonly<Record<Mode, 0 | 1 | 2>> = { add: 0, subtract: 1, intersect: 2 };
/** Lightness counts half of what colour does in how near a colour is. */
const lightnessWeight = 0.5;

/** The exponent that puts the half of a gradient where it is wanted: h(tᵉ) = ½ at t = middle. */
const exponentOf = ({ middle }: GradientPart): number => Math.log(0.5) / Math.log(Math.min(0.99, Math.max(0.01, middle)));
function colourNumbers({ picks, reach, softness }: ColourPart): number[] {
  const soft = Math.max(1e-3, reach * softness);
  return [
    ...rec2020ToLms,
    lightnessWeight,
    reach - soft,
    1 / soft,
    picks.length,
    ...picks.flatMap(([L, a, b]) => [lightnessWeight * L, a, b]),
  ];
}
/** Bytes of base64, read once for each part. */
function figureMap(part: FigurePart): FigureMap {
  const known = figures.get(part);
  if (known) return known;
  const text = atob(part.data),
    map = { box: part.box, width: part.width, height: part.height, shares: Uint8Array.from(text, (c) => c.charCodeAt(0)) };
  figures.set(part, map);
  return map;
}
const figures = new WeakMap<FigurePart, FigureMap>();

function shapeOf(part: MaskPart, named: readonly NamedMask[]): Shape | null {
  switch (part.kind) {
    case 'gradient':
      return { kernel: 'gradientShare', from: part.from, to: part.to, exponent: exponentOf(part) };
    case 'radial':
      return {
        kernel: 'radialShare',
        centre: part.centre,
        radii: part.radii,
        turn: (part.turn * Math.PI) / 180,
        feather: part.feather,
      };
    case 'tone':
      return { kernel: 'toneShare', numbers: [...luminanceShares, ...toneNumbers(part)] };
    case 'colour':
      return part.picks.length === 0 ? null : { kernel: 'colourShare', numbers: colourNumbers(part) };
    case 'haze':
      // the field is what comes through: 1 near, less with distance
      return {
        kernel: 'fieldShare',
        field: { of: 'haze' },
        low: 1 - part.from,
        over: -1 / Math.max(0.01, part.to - part.from),
        plain: false,
      };
    case 'found':
      return { kernel: 'fieldShare', field: { of: part.what }, low: 0.25, over: 2, plain: false };
    case 'figure':
      return { kernel: 'fieldShare', field: { of: 'figure', map: figureMap(part) }, low: 0.25, over: 2, plain: false };
    case 'brush':
      return { kernel: 'strokeShare', numbers: strokeNumbers(part.strokes) };
    case 'outline':
      return part.points.length < 3 ? null : { kernel: 'outlineShare', numbers: outlineNumbers(part.points) };
    case 'named': {
      const mask = named.find((m) => m.id === part.mask)?.mask;
      return mask ? { kernel: 'nested', mask: compileMask(mask, []) } : null;
    }
  }
}
/** A mask as the engine draws it. A part that has nothing to go by, such as colours of which none is picked, finds nothing. */
export function compileMask(mask: Mask, named: readonly NamedMask[] = []): MaskPlan {
  const known = plans.get(mask),
    uses = mask.parts.some(({ kind }) => kind === 'named');
  if (known && (!uses || known.named === named)) return known.plan;
  const stages = mask.parts.flatMap((part): MaskStage[] => {
    const shape = shapeOf(part, named) ?? nothing;
    return [{ mode: modes[part.mode], opacity: part.opacity, inverted: part.inverted, shape }];
  });
  const { feather, grow, snap } = mask,
    // a list that begins by taking away, or keeping within, has all of the picture to begin with
    begins = stages[0] && stages[0].mode !== 0 ? [everywhere, ...stages] : stages,
    plan: MaskPlan = {
      stages: begins,
      inverted: mask.inverted,
      whole: feather > 0 || grow !== 0 || snap > 0 ? { feather, grow, snap } : null,
    };
  plans.set(mask, { named, plan });
  return plan;
}
const nothing: Shape = { kernel: 'strokeShare', numbers: [0] },
  everywhere: MaskStage = { mode: 0, opacity: 1, inverted: true, shape: nothing };
/** Masks are never changed in place. */
const plans = new WeakMap<Mask, { named: readonly NamedMask[]; plan: MaskPlan }>();
