import { filmCompiler, type KeptTables } from '@dyepot/core/src/stock/film/engine.ts';
import { findIn } from '@dyepot/core/src/render/found/found.ts';
import { maskFields } from '@dyepot/core/src/render/maskFields.ts';
import { provideFields } from '@dyepot/core/src/render/smallPicture.ts';
import { provideFound } from '@dyepot/core/src/render/found/provided.ts';
import { provideFilm } from '@dyepot/core/src/stock/film/index.ts';
import { newKernels } from './work/ownKernels.ts';

const kernels = await newKernels();
/** Films are computed from now on, from tables that are kept where there are such. */
export const provideFilms = (kept: KeptTables | null): void => provideFilm(filmCompiler(kernels, kept));

// whatever renders here renders films, and finds regions, too
provideFound(findIn);
provideFields(maskFields);
provideFilms(null);
