import type { Credit } from '@dyepot/core';
import type { FileSettings } from '../types.ts';
import type { DeliveryPreset } from './deliveryApi.ts';

/** The form of a delivery: texts as they are typed. */
export interface Values {
  format: FileSettings['format'];
  depth: '8' | '16';
  space: FileSettings['space'];
  size: string;
  sizeBy: 'long' | 'short' | 'megapixels' | 'box';
  quality: string;
  sharpen: NonNullable<FileSettings['sharpen']>;
  pattern: string;
  folder: string;
  taken: boolean;
  namesLook: boolean;
  author: string;
  copyright: string;
  contact: string;
}
const key = 'dyepot-delivery-2';
export const usual: Values = {
  format: 'jpeg',
  depth: '8',
  space: 'srgb',
  size: '',
  sizeBy: 'long',
  quality: '92',
  sharpen: 'none',
  pattern: '{frame}',
  folder: '',
  taken: true,
  namesLook: false,
  author: '',
  copyright: '',
  contact: '',
};
/** The settings that served last. */
export function kept(): Values {
  try {
    return { ...usual, ...(JSON.parse(localStorage.getItem(key) ?? '{}') as Partial<Values>) };
  } catch {
    return usual;
  }
}
export const keep = (v: Values): void => localStorage.setItem(key, JSON.stringify(v));

export const lossy = (format: Values['format']): boolean => format === 'jpeg' || format === 'webp' || format === 'avif';
const numberIn = (text: string, min: number, max: number, whole: boolean): number | null => {
  const n = Number(text.trim().replace(',', '.'));
  return /^\d+([.,]\d+)?$/.test(text.trim()) && n >= min && n <= max && (!whole || Number.isInteger(n)) ? n : null;
};
/** The spaces files are written in, as they are called. */
export const spaceNames: Record<FileSettings['space'], string> = {
  srgb: 'sRGB',
  p3: 'Display P3',
  oprgb: 'opRGB',
  rec2020: 'Rec.2020',
  linear: 'linear Rec.2020',
};
/** The settings of a form, or what is wrong with them. */
export function settingsOf(v: Values): FileSettings | { wrong: string } {
  const pixels = v.sizeBy === 'megapixels',
    full = v.size.trim() === '',
    boxed = v.sizeBy === 'box' && !full,
    sides = boxed ? v.size.split(/[x×*\s]+/).filter((t) => t !== '') : [],
    [width, height] = sides.map((t) => numberIn(t, 16, 30000, true)),
    size = full || boxed ? null : pixels ? numberIn(v.size, 0.05, 900, false) : numberIn(v.size, 16, 30000, true),
    quality = lossy(v.format) ? numberIn(v.quality, 1, 100, true) : 92;
  if (boxed && !(sides.length === 2 && width && height))
    return { wrong: 'The box is a width and a height in whole pixels from 16 to 30000, such as 1920 × 1080, or empty for the full size.' };
  const linear = v.space === 'linear';
  if (linear && (lossy(v.format) || v.depth !== '16')) return { wrong: 'Linear light needs 16 bits: choose TIFF or PNG, and 16.' };
  if (size === null && !full && !boxed)
    return {
      wrong: pixels
        ? 'The size is a number from 0.05 to 900 megapixels, or empty for the full size.'
        : `The ${v.sizeBy} edge is a whole number of pixels from 16 to 30000, or empty for the full size.`,
    };
  if (quality === null) return { wrong: 'The quality is a whole number from 1 to 100.' };
  const credit: Credit = { author: v.author.trim(), copyright: v.copyright.trim(), contact: v.contact.trim() };
  return {
    format: v.format,
    depth: !lossy(v.format) && v.depth === '16' ? 16 : 8,
    space: v.format === 'avif' ? 'srgb' : v.space,
    size,
    quality,
    ...(v.sizeBy !== 'long' && size !== null && { sizeBy: v.sizeBy }),
    ...(boxed && { sizeBy: 'box' as const, box: [width!, height!] as const }),
    ...(v.sharpen !== 'none' && !linear && { sharpen: v.sharpen }),
    ...(!v.taken && { taken: false }),
    ...(v.namesLook && { namesLook: true }),
    ...(Object.values(credit).some((t) => t !== '') && { credit }),
  };
}
/** A preset as the form shows it. */
export const valuesOf = ({ folder, pattern, file }: DeliveryPreset): Values => ({
  ...usual,
  format: file.format,
  depth: file.depth === 16 ? '16' : '8',
  space: file.space,
  size: file.box ? file.box.join(' × ') : file.size === null ? '' : String(file.size),
  sizeBy: file.sizeBy ?? 'long',
  quality: String(file.quality),
  sharpen: file.sharpen ?? 'none',
  pattern,
  folder,
  taken: file.taken ?? true,
  namesLook: file.namesLook ?? false,
  ...file.credit,
});
