import { readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { expect, it } from 'vitest';
import { stepKinds } from '../src/look/kinds.ts';
import type { Parameter, StepKind } from '../src/render/step.ts';

const page = fileURLToPath(new URL('../../../docs/steps.md', import.meta.url));
const signed = (v: number): string => String(v).replace('-', '−');
function worded(name: string, p: Parameter): string {
  const of = `| \`${name}\` | ${p.label} |`;
  if (p.type === 'number') return `${of} ${signed(p.min)} to ${signed(p.max)}${p.unit ? ` ${p.unit}` : ''} | ${signed(p.default)} |`;
  if (p.type === 'choice') return `${of} ${p.options.map(([value, words]) => `\`${value}\` (${words})`).join(', ')} | \`${p.default}\` |`;
  if (p.type === 'band') return `${of} handles, ${signed(p.min)} to ${signed(p.max)}${p.unit ? ` ${p.unit}` : ''} | none |`;
  if (p.type === 'curve') return `${of} points | straight |`;
  return `${of} a table, or null | null |`;
}
const section = (k: StepKind): string =>
  [
    `## ${k.name}`,
    '',
    `\`${k.kind}\`, ${k.lane}. ${k.purpose}.${k.note ? ` ${k.note}.` : ''} Strength ${k.atStrength}.${k.unbakeable ? ` A table cannot carry it: ${k.unbakeable}.` : ''}`,
    '',
    '| parameter | | range | default |',
    '| --- | --- | --- | --- |',
    ...Object.entries(k.params).map(([name, p]) => worded(name, p)),
    '',
  ].join('\n');

// DYEPOT_PAGES=write writes it anew
it('the page of the steps is what their declarations say', () => {
  const text = `# The steps\n\nWritten from the declarations in \`packages/core/src/steps\`. Order is the palette’s.\n\n${stepKinds.map(section).join('\n')}`;
  if (process.env['DYEPOT_PAGES'] === 'write') writeFileSync(page, text);
  expect(readFileSync(page, 'utf8')).toBe(text);
});
