import { compileFilm, provideFilm } from '@dyepot/core';

provideFilm(compileFilm);
export { draftOf, filmOf } from '@dyepot/core';
