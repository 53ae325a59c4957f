// A look with a stock, its grain and halation, and a vignette on top of the steps of another. Prints JSON.
import '@dyepot/server/src/filmEngine.ts';
import { readFileSync } from 'node:fs';
import { newStep, type Look } from '@dyepot/core/src/look/look.ts';
import { validateLook } from '@dyepot/core/src/look/schema.ts';
import { stocks } from '@dyepot/core/src/stock/film/stocks.ts';

const read = validateLook(JSON.parse(readFileSync(process.argv[2]!, 'utf8')));
if ('message' in read) throw new Error(read.message);
const film = newStep('film', read.look.stock.id),
  vignette = newStep('vignette', 'vignette'),
  look: Look = {
    ...read.look,
    stock: { ...film, params: { ...film.params, sheet: stocks.find((s) => s.name === 'Weld')! } },
    print: [...read.look.print, { ...vignette, params: { ...vignette.params, edgeEv: -0.8 } }],
  };
console.log(JSON.stringify({ look }));
