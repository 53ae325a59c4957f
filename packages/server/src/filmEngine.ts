import { compileFilm } from '@dyepot/core/src/stock/film/engine.ts';
import { provideFilm } from '@dyepot/core/src/stock/film/index.ts';

// whatever renders here renders films too
provideFilm(compileFilm);
