import { plainResponse, responseOf } from '../../colour/response.ts';
import { filterChoices } from '../../render/filterChoices.ts';
import { tableOver, type Pass } from '../../render/pass.ts';
import { choice, defineStep, number, type ParameterValues } from '../../render/step.ts';
import type { StockSheet } from './sheet.ts';

/** The sheet that stands in a step's values. */
export const sheetOf = (values: ParameterValues): StockSheet | null => values['sheet'] as StockSheet | null;
export type CompileSheet = (values: ParameterValues, strength: number) => Pass[];
let compileSheet: CompileSheet | null = null;
/** Gives the step what computes a sheet (`engine.ts`): pages fetch that only when a film is there. */
export const provideFilm = (compile: CompileSheet): void => {
  compileSheet = compile;
};
const plain = responseOf(plainResponse);
const kept = [
  ['with it', 'with the stock'],
  ['left out', 'left out'],
] as const;

/** A film stock, by its data sheet: light through emulsion, dyes and print, as one table. */
export const film = defineStep({
  kind: 'film',
  lane: 'stock',
  name: 'Film stock',
  purpose: 'A film by its data sheet: emulsion, dyes and print',
  atStrength: 'mixes with the plain response',
  note: 'The sheet is carried in the look; without one it is the plain neutral response (docs/stock.md). Rated over its speed a film gets less light, pushed it makes up for it; the print brings middle grey back',
  needs: ['film', 'negative', 'slide', 'black and white', 'emulation', 'print'],
  params: {
    sheet: {
      type: 'document',
      label: 'Sheet',
      default: null,
      format: 'dyepot-stock',
    },
    contrast: number('Contrast', '%', -50, 60, 0, 1, 0),
    colour: number('Colour', '%', -100, 100, 0, 1, 0),
    rated: number('Rated', 'EV', -3, 3, 0, 0.1, 1),
    push: number('Pushed', 'EV', -2, 3, 0, 0.1, 1),
    print: number('Print', 'EV', -1.5, 1.5, 0, 0.05, 2),
    ...filterChoices,
    grain: choice('Grain', kept, 'with it', (values) => Boolean(sheetOf(values)?.grain)),
    halation: choice('Halation', kept, 'with it', (values) => Boolean(sheetOf(values)?.halation)),
    format: number('Format', 'mm', 16, 250, 36, 1, 0),
  },
  unbakeable: 'a table carries its colours; its grain and halation belong to places',
  compile: (values, strength): Pass[] => {
    if (strength === 0 || !sheetOf(values))
      return [{ kernel: 'response', parameters: Float32Array.from([0.6, ...tableOver(8192, (t) => plain(64 * t ** 4))]) }];
    if (!compileSheet) throw new Error('the film engine has not been provided');
    return compileSheet(values, strength);
  },
});
