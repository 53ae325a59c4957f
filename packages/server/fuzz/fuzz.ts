import { formats } from './formats.ts';
import { mutateBytes } from './mutate.ts';
import { fuzzRoutes } from './routes.ts';

const patience = 5000,
  /** mutants of files for each mutant of a request */
  filesShare = 0.75;

/** Reads mutants of every format and sends mutants of every request. Returns what broke a promise; `tell` hears how far it is. */
export async function fuzz(count: number, tell: (words: string) => void = () => {}): Promise<string[]> {
  const all = await formats(),
    shares = all.reduce((n, f) => n + f.share, 0),
    broken: string[] = [];
  for (const format of all) {
    const own = Math.ceil((count * filesShare * format.share) / shares);
    for (let i = 0; i < own; i++) {
      const seed = format.seeds[i % format.seeds.length]!,
        mutant = mutateBytes(seed, i),
        began = performance.now();
      let timer: ReturnType<typeof setTimeout> | undefined;
      try {
        const late = new Promise<never>((_, reject) => {
          timer = setTimeout(() => reject(new Error(`no answer in ${patience / 1000} s`)), patience);
        });
        await Promise.race([format.read(mutant.bytes, mutant.cutAt), late]);
        if (performance.now() - began > patience) throw new Error(`it took ${Math.round(performance.now() - began)} ms`);
      } catch (error) {
        broken.push(
          `${format.name}, mutant ${i} (${mutant.how}): ${error instanceof Error ? (error.stack ?? error.message) : String(error)}`,
        );
      } finally {
        clearTimeout(timer);
      }
    }
    tell(`${format.name}: ${own} mutants`);
  }
  const requests = Math.floor(count * (1 - filesShare));
  broken.push(...(await fuzzRoutes(requests, all[all.length - 1]!.seeds[0]!)));
  tell(`requests: ${requests} mutants`);
  return broken;
}
