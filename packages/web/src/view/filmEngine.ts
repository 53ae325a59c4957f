import { filmCompiler, loadKernels, provideFilm } from '@dyepot/core';
import kernelsUrl from '@dyepot/core/src/render/kernels.wasm?url';

let started: Promise<void> | null = null;
const start = async (): Promise<void> => provideFilm(filmCompiler(await loadKernels(await (await fetch(kernelsUrl)).arrayBuffer())));
/** Readies what computes films; what did not come is asked for again the next time. */
export async function startFilm(): Promise<void> {
  try {
    await (started ??= start());
  } catch (e) {
    started = null;
    throw e;
  }
}
export { draftOf, filmOf } from '@dyepot/core';
