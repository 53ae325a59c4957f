import { existsSync } from 'node:fs';
import { resolve } from 'node:path';
import { writeRgbTiff } from '@dyepot/core/src/formats/tiff.ts';
import { openFilm } from '@dyepot/core/src/stock/film/film.ts';
import { hueTurnOf } from '@dyepot/core/src/stock/film/hueTurn.ts';
import { nearestSpeed, readoutsOf } from '@dyepot/core/src/stock/film/readouts.ts';
import { nameOfKind, type StockSheet } from '@dyepot/core/src/stock/film/sheet.ts';
import { readSheet } from '@dyepot/core/src/stock/film/sheetSchema.ts';
import { stocks } from '@dyepot/core/src/stock/film/stocks.ts';
import { exposedTo, wedgePicture } from '@dyepot/core/src/stock/film/wedge.ts';
import { parse, textOf } from './options.ts';
import { writeOwn } from './writeOwn.ts';

/** A stock that comes with Dyepot, by its name, or a sheet in a file. */
function sheetFrom(name: string): StockSheet {
  const known = stocks.find((s) => s.name.toLowerCase() === name.toLowerCase());
  if (known) return known;
  if (!existsSync(name)) throw new Error(`there is no stock called “${name}”, nor a file; dyepot stock --list names them`);
  const read = readSheet(textOf(name));
  if ('message' in read) throw new Error(`${name}: ${read.message}`);
  return read.sheet;
}
const say = (text: string): boolean => process.stdout.write(`${text}\n`);
const fixed = (v: number): string => v.toFixed(2).padStart(6);

/** FROM:TO:STEP, in log₁₀ lux·s. */
function rangeFrom(text: string): [number, number, number] {
  const parts = text.split(':').map((t) => Number(t.trim()));
  if (parts.length !== 3 || !parts.every(Number.isFinite)) throw new Error(`--expose takes FROM:TO:STEP in log₁₀ lux·s, not “${text}”`);
  const [from, to, step] = parts as [number, number, number];
  if (step <= 0 || to < from) throw new Error('--expose goes upwards: TO is not under FROM, and STEP is over 0');
  if (from < -9 || to > 5) throw new Error('--expose lies within -9 and 5');
  if ((to - from) / step > 10000) throw new Error('--expose gives at most 10000 exposures');
  return [from, to, step];
}

/** `dyepot stock`: what there is, what a sheet says of itself, what light makes of it. */
export async function stock(args: string[]): Promise<number> {
  const { values, flags, positionals } = parse(args, ['expose', 'wedge'], ['json', 'list']),
    json = flags['json'] === true;
  if (flags['list']) {
    const list = stocks.map((s) => ({ name: s.name, kind: s.kind, iso: nearestSpeed(readoutsOf(s).iso), notes: s.notes }));
    if (json) say(JSON.stringify(list, null, 2));
    else for (const s of list) say(`${s.name.padEnd(10)} ${nameOfKind[s.kind].padEnd(24)} ISO ${String(s.iso).padEnd(5)} ${s.notes}`);
    return 0;
  }
  const [name, ...more] = positionals;
  if (name === undefined || more.length > 0) throw new Error('stock needs one stock: dyepot stock --list, or dyepot stock NAME|FILE');
  const sheet = sheetFrom(name),
    film = openFilm(sheet);
  if (values['wedge'] !== undefined) {
    const { width, height, rgb } = wedgePicture(film);
    await writeOwn(resolve(values['wedge']), writeRgbTiff(width, height, rgb, null));
  }
  if (values['expose'] !== undefined) {
    const list = exposedTo(film, ...rangeFrom(values['expose']));
    if (json) say(JSON.stringify(list, null, 2));
    else
      for (const e of list)
        say(
          `${e.logH.toFixed(3).padStart(8)} ${e.density.map(fixed).join('')}${e.printed ? `   print${e.printed.map(fixed).join('')}` : ''}`,
        );
    return 0;
  }
  const said = { name: sheet.name, kind: sheet.kind, ...readoutsOf(sheet), hueTurn: hueTurnOf(film) };
  if (json) say(JSON.stringify(said, null, 2));
  else {
    say(`${sheet.name}, ${nameOfKind[sheet.kind]}. ${sheet.notes}`);
    say(
      `ISO ${said.iso.toFixed(1)} (${nearestSpeed(said.iso)}), average gradient ${said.averageGradient.toFixed(3)}, latitude ${said.latitudeStops.toFixed(1)} stops`,
    );
    if (said.hueTurn)
      say(
        `hues turn ${said.hueTurn.meanDegrees.toFixed(1)}° in the mean, ${said.hueTurn.worstDegrees.toFixed(1)}° at worst; skins ${said.hueTurn.skinsDegrees.toFixed(1)}°`,
      );
    say(`Dmin ${said.dmin.map((v) => v.toFixed(2)).join(' ')}, Dmax ${said.dmax.map((v) => v.toFixed(2)).join(' ')}`);
  }
  return 0;
}
