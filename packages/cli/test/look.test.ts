import { existsSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { root } from '@dyepot/server/src/places.ts';
import { dyepot } from './cliTrial.ts';

const folder = mkdtempSync(join(tmpdir(), 'dyepot-looks-')),
  looks = join(root, 'demo/looks'),
  files = readdirSync(looks).map((f) => join(looks, f)),
  gold = join(looks, 'weld-gold.json'),
  at = (name: string): string => join(folder, name);

describe('looks on the command line', () => {
  it('are packed, unpacked and packed again, byte for byte', () => {
    expect(dyepot('look', 'pack', ...files, '--out', at('a.dyelook')).status).toBe(0);
    expect(dyepot('look', 'unpack', at('a.dyelook'), '--out', at('d')).out.split('\n').length).toBe(files.length + 1);
    expect(readdirSync(at('d')).filter((f) => !f.includes('.')).length).toBe(files.length);
    // as a version control system has them: with its own files beside ours
    writeFileSync(at('d/.keep'), '');
    expect(dyepot('look', 'pack', at('d'), '--out', at('b.dyelook')).status).toBe(0);
    expect(readFileSync(at('b.dyelook')).equals(readFileSync(at('a.dyelook')))).toBe(true);
  });
  it('do not write over what is another’s', () => {
    writeFileSync(at('mine.dyelook'), 'mine');
    dyepot('look', 'pack', gold, '--out', at('mine.dyelook'));
    expect(readFileSync(at('mine.dyelook'), 'utf8')).toBe('mine');
    const file = at('d/weld-gold/look.json'),
      edited = readFileSync(file, 'utf8').replace('Weld gold', 'Weld old');
    writeFileSync(file, edited);
    expect(dyepot('look', 'unpack', at('a.dyelook'), '--out', at('d')).err).toContain('says something else');
    expect(readFileSync(file, 'utf8')).toBe(edited);
    expect(dyepot('look', 'blend', gold, gold, '--out', file).status).toBe(2);
    expect(readFileSync(file, 'utf8')).toBe(edited);
    // a folder that was changed by hand is packed as it is now
    expect(dyepot('look', 'pack', at('d'), '--out', at('edited.dyelook')).status).toBe(0);
    expect(dyepot('look', 'unpack', at('edited.dyelook'), '--out', at('again')).out).toContain('Weld old');
    expect(dyepot('look', 'pack', gold, '--out', at('edited.dyelook')).status).toBe(2);
    expect(dyepot('look', 'pack', gold, '--out', at('edited.dyelook'), '--replace').status).toBe(0);
  });
  it('are checked: what is weak ends with 1', () => {
    const { status, out } = dyepot('look', 'check', gold, '--json'),
      { findings } = JSON.parse(out) as { findings: { kind: string; weight: string }[] };
    expect(status).toBe(1);
    expect(findings.map((f) => f.kind)).toContain('greys');
    expect(dyepot('look', 'check', join(looks, 'linen.json'), '--json').status).toBe(existsSync(join(looks, 'linen.json')) ? 0 : 2);
  });
  it('are told apart, blended, and found near one another', () => {
    const other = files.find((f) => f.includes('woad'))!;
    expect(dyepot('look', 'diff', gold, gold).out).toBe('they are the same\n');
    const { differences, ciede2000 } = JSON.parse(dyepot('look', 'diff', gold, other, '--json').out) as {
      differences: string[];
      ciede2000: number;
    };
    expect(differences[0]).toMatch(/^Name “Weld gold” →/);
    expect(ciede2000).toBeGreaterThan(2);
    expect(dyepot('look', 'blend', gold, other, '--by', '0.1', '--out', at('c.json')).status).toBe(0);
    const near = JSON.parse(dyepot('look', 'near', at('c.json'), looks, '--json').out) as { name: string; ciede2000: number }[];
    expect(near[0]!.name).toBe('Weld gold');
    expect(near[0]!.ciede2000).toBeLessThan(ciede2000 / 2);
  });
  it('say what is wrong', () => {
    expect(dyepot('look', 'constructor')).toMatchObject({ status: 2, err: expect.stringContaining('look takes pack') as string });
    expect(dyepot('look', 'blend', gold, gold, '--by', '2', '--out', at('x.json')).err).toContain('from 0 to 1');
    writeFileSync(at('bad.dyelook'), 'x');
    expect(dyepot('look', 'unpack', at('bad.dyelook'), '--out', at('e')).err).toContain('bad.dyelook: it is not an archive');
    expect(existsSync(at('e'))).toBe(false);
  });
});
