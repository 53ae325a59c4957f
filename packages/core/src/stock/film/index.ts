import { decodeAcescct } from '../../colour/transfer.ts';
import { plainResponse, responseOf } from '../../colour/response.ts';
import { tablePass } from '../../render/tablePass.ts';
import { tableOver, type Pass } from '../../render/pass.ts';
import { choice, defineStep, number, numberOf, type ParameterValues } from '../../render/step.ts';
import { openFilm } from './film.ts';
import { filters, type Filter, type Handling } from './handling.ts';
import { decodePicture, encodePicture, filmTable, spreadAt, type FilmTable } from './table.ts';
import type { StockSheet } from './sheet.ts';

/** The sheet that stands in a step's values. */
export const sheetOf = (values: ParameterValues): StockSheet | null => values['sheet'] as StockSheet | null;
/** How a step's values have it handled. */
export const handlingOf = (values: ParameterValues): Handling => ({
  ratedEv: numberOf(values, 'rated'),
  pushStops: numberOf(values, 'push'),
  contrast: 1 + numberOf(values, 'contrast') / 100,
  colour: 1 + numberOf(values, 'colour') / 100,
  printEv: numberOf(values, 'print'),
  filter: values['filter'] as Filter,
  compensated: values['loss'] === 'given back',
});

/** Tables made lately: sheets are never changed in place. */
const made = new WeakMap<StockSheet, { key: string; table: FilmTable }[]>();
function tableFor(sheet: StockSheet, values: ParameterValues): FilmTable {
  const handling = handlingOf(values),
    key = Object.values(handling).join(),
    known = made.get(sheet) ?? [],
    there = known.find((k) => k.key === key);
  if (there) return there.table;
  const table = filmTable(openFilm(sheet, handling));
  made.set(sheet, [...known.slice(-7), { key, table }]);
  return table;
}

const plain = responseOf(plainResponse);
/** The cube mixed with the plain response, both as encoded pictures. */
function mixed({ spread, cube }: FilmTable, strength: number): FilmTable {
  if (strength === 1) return { spread, cube };
  const axis = Array.from({ length: cube.size }, (_, k) => {
    let i = 0;
    while (i < spread.length - 2 && spread[i + 1]! < k / (cube.size - 1)) i++;
    const step = spread[i + 1]! - spread[i]!,
      at = i + (step > 0 ? Math.min(1, Math.max(0, (k / (cube.size - 1) - spread[i]!) / step)) : 1);
    return encodePicture(Math.min(1, plain(Math.max(0, decodeAcescct(at / (spread.length - 1))))));
  });
  const data = cube.data.map((v, i) => {
    const node = Math.floor(i / 3),
      own = axis[[node % cube.size, Math.floor(node / cube.size) % cube.size, Math.floor(node / cube.size ** 2)][i % 3]!]!;
    return own + strength * (v - own);
  });
  return { spread, cube: { ...cube, data } };
}
const fromPicture = Float32Array.from([1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, ...tableOver(4096, decodePicture)]);

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
    filter: choice(
      'In front of the lens',
      Object.keys(filters).map((f) => [f, f === 'none' ? 'no filter' : f] as const),
      'none',
    ),
    loss: choice(
      'What it takes',
      [
        ['given back', 'given back'],
        ['taken', 'taken'],
      ],
      'given back',
    ),
  },
  compile: (values, strength): Pass[] => {
    const sheet = sheetOf(values);
    if (strength === 0 || !sheet) {
      return [{ kernel: 'response', parameters: Float32Array.from([0.6, ...tableOver(8192, (t) => plain(64 * t ** 4))]) }];
    }
    const table = mixed(tableFor(sheet, values), strength),
      { cube } = table,
      // the kernel's tables are over the square root
      one = tableOver(2048, (t) => spreadAt(table, t * t)).slice(1),
      spreads = Float32Array.from([2048, ...one, ...one, ...one]);
    return [
      { kernel: 'acescct', parameters: [0] },
      { kernel: 'curves', parameters: spreads },
      tablePass(cube),
      { kernel: 'affineTable', parameters: fromPicture },
    ];
  },
});
