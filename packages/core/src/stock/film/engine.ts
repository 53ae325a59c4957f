import { plainResponse, responseOf } from '../../colour/response.ts';
import type { Kernels } from '../../kernels/kernels.ts';
import { grainPass } from '../../render/grainPass.ts';
import { scatterPass } from '../../render/scatter.ts';
import { tablePass } from '../../render/tablePass.ts';
import { tableOver, type Pass } from '../../render/pass.ts';
import { numberOf, type ParameterValues } from '../../render/step.ts';
import { openFilm, type Film } from './film.ts';
import type { LensFilter } from '../../colour/lensFilters.ts';
import type { Handling } from './handling.ts';
import { encodePicture } from './developing.ts';
import {
  codeOf,
  decodePicture,
  draftSize,
  filmTable,
  nodeLight,
  packTable,
  spreadAt,
  tableSize,
  unpackTable,
  type FilmTable,
} from './table.ts';
import { sheetOf, type CompileSheet } from './index.ts';
import type { StockSheet } from './sheet.ts';

/** How a step's values have it handled. */
export const handlingOf = (values: ParameterValues): Handling => ({
  ratedEv: numberOf(values, 'rated'),
  pushStops: numberOf(values, 'push'),
  contrast: 1 + numberOf(values, 'contrast') / 100,
  colour: 1 + numberOf(values, 'colour') / 100,
  printEv: numberOf(values, 'print'),
  filter: values['filter'] as LensFilter,
  compensated: values['loss'] === 'given back',
});

/** Where tables outlive their maker, packed; `of` says all that one follows from. */
export interface KeptTables {
  find(of: string): Float32Array | null;
  keep(of: string, packed: Float32Array): void;
}
interface Opened {
  /** opened when it is first asked for: a table that was kept needs none */
  film(): Film;
  /** all that it follows from */
  of: string;
  /** by their size, made where they are wanted */
  tables: Map<number, FilmTable>;
}
/** Films opened lately; by content, since a worker is given another copy of the same sheet each time. */
const lately = new Map<string, Opened>(),
  mostKept = 12;
function opened(sheet: StockSheet, values: ParameterValues): Opened {
  const handling = handlingOf(values),
    key = `${textOf(sheet)} ${Object.values(handling).join()}`,
    there = lately.get(key) ?? { film: once(() => openFilm(sheet, handling)), of: key, tables: new Map<number, FilmTable>() };
  // the one used last goes last
  lately.delete(key);
  lately.set(key, there);
  if (lately.size > mostKept) lately.delete(lately.keys().next().value!);
  return there;
}
function once<T>(make: () => T): () => T {
  let made: T | null = null;
  return () => (made ??= make());
}
/** A sheet is never changed in place. */
const texts = new WeakMap<StockSheet, string>();
function textOf(sheet: StockSheet): string {
  const text = texts.get(sheet) ?? JSON.stringify(sheet);
  texts.set(sheet, text);
  return text;
}
/** A step's film as it is handled; null without a sheet. */
export function filmOf(values: ParameterValues): Film | null {
  const sheet = sheetOf(values);
  return sheet && opened(sheet, values).film();
}
function tableFor(kernels: Kernels, sheet: StockSheet, values: ParameterValues, kept: KeptTables | null): FilmTable {
  const { film, of, tables } = opened(sheet, values),
    size = drafts.has(sheet) ? draftSize : tableSize,
    table = tables.get(size) ?? (size === tableSize && kept ? keptOr(kept, of, sheet.name, make) : make());
  tables.set(size, table);
  return table;

  function make(): FilmTable {
    return filmTable(kernels, film(), size);
  }
}
function keptOr(kept: KeptTables, of: string, name: string, make: () => FilmTable): FilmTable {
  const there = kept.find(of);
  if (there) return unpackTable(there, name);
  const table = make();
  kept.keep(of, packTable(table));
  return table;
}
/** A sheet for the moment, while a hand moves it: its table is coarser, and made in half the time. */
export function draftOf(sheet: StockSheet): StockSheet {
  const copy = { ...sheet };
  drafts.add(copy);
  return copy;
}
const drafts = new WeakSet<StockSheet>();

const plain = responseOf(plainResponse);
/** The cube mixed with the plain response, both as encoded pictures. */
function mixed({ spread, cube }: FilmTable, strength: number): FilmTable {
  if (strength === 1) return { spread, cube };
  const axis = nodeLight(spread, cube.size).map((light) => encodePicture(Math.min(1, plain(light))));
  const data = cube.data.map((v, i) => {
    const node = Math.floor(i / 3),
      own = axis[[node % cube.size, Math.floor(node / cube.size) % cube.size, Math.floor(node / cube.size ** 2)][i % 3]!]!;
    return own + strength * (v - own);
  });
  return { spread, cube: { ...cube, data } };
}
const fromPicture = Float32Array.from([1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, ...tableOver(4096, decodePicture)]);

/** A stock's own roll: none that a step of its own can have, so that the two are never the same grain laid on twice. */
const stockRoll = 0;
/** What comes with a stock: light scattered back from the base before it exposes, grain in the finished picture. */
function halationOf({ halation: h }: StockSheet, values: ParameterValues, strength: number): Pass[] {
  if (!h || values['halation'] !== 'with it' || h.red + h.green + h.blue === 0) return [];
  const share = (v: number): number => Math.min(0.95, v * strength);
  return [scatterPass([share(h.red), share(h.green), share(h.blue)], h.reachUm / 1000 / numberOf(values, 'format'))];
}
function grainOf({ grain: g }: StockSheet, values: ParameterValues, strength: number): Pass[] {
  if (!g || values['grain'] !== 'with it' || g.rms === 0) return [];
  return [grainPass({ ...g, rms: g.rms * strength, formatMm: numberOf(values, 'format'), roll: stockRoll })];
}

/** What computes a step with a sheet, by kernels of its own: light scattered back, the stock's table, grain. Tables are taken from what is kept, where there is such. */
export const filmCompiler =
  (kernels: Kernels, kept: KeptTables | null = null): CompileSheet =>
  (values, strength) =>
    passesOf(sheetOf(values)!, tableFor(kernels, sheetOf(values)!, values, kept), values, strength);
function passesOf(sheet: StockSheet, whole: FilmTable, values: ParameterValues, strength: number): Pass[] {
  const table = mixed(whole, strength),
    { cube } = table,
    intervals = cube.size > draftSize ? 4096 : 1024;
  return [
    ...halationOf(sheet, values, strength),
    { kernel: 'filmPlaces', parameters: Float32Array.from(tableOver(intervals, (t) => spreadAt(table, codeOf(32 * t ** 4)))) },
    tablePass(cube),
    { kernel: 'affineTable', parameters: fromPicture },
    ...grainOf(sheet, values, strength),
  ];
}
