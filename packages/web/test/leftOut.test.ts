import { readdirSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect, it } from 'vitest';
import { unused } from '../vite.config.ts';

const chakra = dirname(createRequire(import.meta.url).resolve('@chakra-ui/react')).replace(/dist.*/, 'dist/esm'),
  read = (...path: string[]): string => readFileSync(join(...path), 'utf8'),
  /** Style properties as the set declares them, each with its other names. */
  declared = [...read(chakra, 'preset-base.js').matchAll(/^ {4}(\w+): \{(?:\n([\s\S]*?)^ {4}\}|(.*)\}),?\n/gm)].map(
    ([, name, long, short]) => {
      const others = /shorthand: (?:\[([^\]]*)\]|("\w+"))/.exec(long ?? short ?? '');
      return { name: name!, names: [name!, ...(others ? [...others[0].matchAll(/"(\w+)"/g)].map(([, other]) => other!) : [])] };
    },
  );

it('style properties that pages are built without are given nowhere, under none of their names', () => {
  const src = fileURLToPath(new URL('../src', import.meta.url)),
    used = ['button', 'input', 'textarea', 'spinner', 'checkmark', 'checkbox', 'dialog', 'menu', 'popover', 'toast'],
    texts = [
      ...readdirSync(src, { recursive: true, encoding: 'utf8' })
        .filter((file) => /\.tsx?$/.test(file))
        .map((file) => read(src, file)),
      ...used.map((name) => read(chakra, 'theme/recipes', `${name}.js`)),
    ].join('\n'),
    left = declared.filter(({ name }) => new RegExp(`^(${unused})$`).test(name));
  expect(declared.length).toBeGreaterThan(200);
  expect(left.length).toBeGreaterThan(100);
  const given = left.filter(({ names }) => names.some((name) => new RegExp(`(?<![\\w$-])${name}(?=\\s*[:=])`).test(texts)));
  expect(given.map(({ name }) => name)).toEqual([]);
});
