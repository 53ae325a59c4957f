import { loadKernels } from '@dyepot/core/src/kernels/kernels.ts';
import { filmCompiler } from '@dyepot/core/src/stock/film/engine.ts';
import { provideFilm } from '@dyepot/core/src/stock/film/index.ts';
import { readFileSync } from 'node:fs';
import { kernelsFile } from './places.ts';

// whatever renders here renders films too
provideFilm(filmCompiler(await loadKernels(readFileSync(kernelsFile))));
