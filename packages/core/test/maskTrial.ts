import { emptyLook } from '../src/look/look.ts';
import { common, type GradientPart, type RadialPart } from '../src/mask/mask.ts';
import { maskFields } from '../src/render/maskFields.ts';
import { provideFields } from '../src/render/smallPicture.ts';
import { platter } from './groundTrial.ts';

provideFields(maskFields);
/** The picture that masks are tried on. */
export const width = 96,
  height = 64,
  bare = emptyLook('t'),
  scene = platter(width, height, (x, y, c) => 0.05 + 0.5 * Math.abs(Math.sin(x / 9 + c)) * (y / height));
export const gradient: GradientPart = { ...common, kind: 'gradient', from: [0.1, 0.2], to: [0.7, 0.9], middle: 0.4 },
  pool: RadialPart = { ...common, kind: 'radial', centre: [0.4, 0.5], radii: [0.3, 0.16], turn: 25, feather: 0.6 };
