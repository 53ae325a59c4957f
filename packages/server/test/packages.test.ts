import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { expect, it } from 'vitest';
import { distFile } from '../src/places.ts';

/** The package.json of a package as a file at some place would get it: looked for upwards, as Node does. */
function packageFrom(from: string, name: string): { version: string } {
  for (const folder of createRequire(from).resolve.paths(name) ?? []) {
    try {
      return JSON.parse(readFileSync(join(folder, name, 'package.json'), 'utf8')) as { version: string };
    } catch {
      // not there: further up
    }
  }
  throw new Error(`${name} is not installed for ${from}`);
}
it('the built server runs on the packages its sources ask for', () => {
  const own = new URL('../package.json', import.meta.url).pathname,
    { dependencies } = JSON.parse(readFileSync(own, 'utf8')) as { dependencies: Record<string, string> };
  for (const name of Object.keys(dependencies).filter((n) => !n.startsWith('@types/')))
    expect([name, packageFrom(distFile('dyepot.mjs'), name).version]).toEqual([
      name,
      packageFrom(join(dirname(own), 'src/main.ts'), name).version,
    ]);
});
