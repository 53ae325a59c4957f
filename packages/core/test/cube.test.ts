import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readCdl, writeCdl } from '../src/formats/cdl.ts';
import { readCube, writeCube } from '../src/formats/cube.ts';
import { applyTable, countOf, readStoredTable, storeTable, table3d, type Rgb, type Table } from '../src/colour/table.ts';
import { applyCdl } from '../src/colour/cdl.ts';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text),
  read = (text: string): Table => {
    const r = readCube(bytes(text));
    if ('message' in r) throw new Error(r.message);
    return r.table;
  },
  finite = fc.float({ min: -8, max: 8, noNaN: true }),
  unit = fc.double({ min: 0, max: 1, noNaN: true }),
  colour = fc.tuple(unit, unit, unit),
  tables: fc.Arbitrary<Table> = fc
    .record({ kind: fc.constantFrom('1d' as const, '3d' as const), size: fc.integer({ min: 2, max: 6 }), wide: fc.boolean() })
    .chain(({ kind, size, wide }) =>
      fc.array(finite, { minLength: countOf(kind, size), maxLength: countOf(kind, size) }).map((v): Table => ({
        kind,
        size,
        title: 'A “title”',
        domainMin: wide ? [-0.5, 0, 0.25] : [0, 0, 0],
        domainMax: wide ? [2, 1.5, 1] : [1, 1, 1],
        data: Float32Array.from(v),
      })),
    );

describe('the Cube LUT (specification 1.0)', () => {
  it('the form of the specification: a title in quotes, comments, blank lines, red fastest', () => {
    const t = read('#Created by hand\nTITLE "Swap"\n\nLUT_3D_SIZE 2\n# rows\n0 0 0\n0 0 1\n0 1 0\n0 1 1\n1 0 0\n1 0 1\n1 1 0\n1 1 1\n');
    expect(t).toMatchObject({ kind: '3d', size: 2, title: 'Swap', domainMin: [0, 0, 0], domainMax: [1, 1, 1] });
    // the second row is red full, green and blue none
    expect(applyTable(t, [1, 0, 0])).toEqual([0, 0, 1]);
    expect(applyTable(t, [0, 0, 1])).toEqual([1, 0, 0]);
  });
  it('line ends of every kind, tabs, a byte order mark and exponents are read alike', () => {
    const plain = 'LUT_1D_SIZE 3\n0 0 0\n0.25 0.5 1e-1\n1 1 1\n';
    for (const text of [plain, plain.replaceAll('\n', '\r\n'), plain.replaceAll(' ', '\t'), `\uFEFF${plain}`, plain.replace('0.5', '5E-1')])
      expect(Array.from(read(text).data)).toEqual(Array.from(read(plain).data));
  });
  it('what is outside the domain is read at its border; inside a 1D table lines lie between the entries', () => {
    const t = read('LUT_1D_SIZE 3\nDOMAIN_MIN -1 -1 -1\nDOMAIN_MAX 1 1 1\n0 0 0\n10 10 10\n20 30 40\n');
    expect(applyTable(t, [-9, 0, 9])).toEqual([0, 10, 40]);
    expect(applyTable(t, [0.5, 0.5, -0.5])).toEqual([15, 20, 5]);
  });
  it('whatever table is written is read again to eight digits, domain and title too', () =>
    fc.assert(
      fc.property(tables, (t) => {
        const back = read(writeCube(t, ['a comment']));
        expect(back).toMatchObject({ kind: t.kind, size: t.size, domainMin: t.domainMin, domainMax: t.domainMax });
        back.data.forEach((v, i) => expect(Math.abs(v - t.data[i]!)).toBeLessThanOrEqual(1e-6 * Math.max(1, Math.abs(t.data[i]!))));
      }),
    ));
  it('no bytes, however spoilt, make the reader throw', () => {
    const good = bytes(writeCube(table3d('t', 3, (c) => c)));
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(good.length - 1), fc.nat(255)), { minLength: 1, maxLength: 6 }),
        fc.nat(good.length),
        (flips, length) => {
          const spoilt = good.slice(0, Math.max(1, length));
          for (const [at, value] of flips) spoilt[at % spoilt.length] = value;
          const r = readCube(spoilt);
          expect('table' in r || /^(line \d+|DOMAIN_MIN)/.test(r.message)).toBe(true);
        },
      ),
    );
  });
});

describe('tetrahedral reading', () => {
  it('is exact on what is linear, whatever the place (Kasson and others 1995)', () => {
    const t = table3d('linear', 5, ([r, g, b]) => [0.3 * r + 0.2 * g + 0.1, g - 0.5 * b, 0.9 * b + 0.05 * r]);
    fc.assert(
      fc.property(colour, ([r, g, b]) => {
        const out = applyTable(t, [r, g, b]);
        [0.3 * r + 0.2 * g + 0.1, g - 0.5 * b, 0.9 * b + 0.05 * r].forEach((v, k) => expect(out[k]!).toBeCloseTo(v, 5));
      }),
    );
  });
  it('never leaves the range of its cell’s corners, and keeps a neutral axis neutral', () =>
    fc.assert(
      fc.property(
        tables.filter((t) => t.kind === '3d'),
        colour,
        (t, c) => {
          const out = applyTable(t, c);
          for (let k = 0; k < 3; k++) {
            const all = Array.from(t.data).filter((_, i) => i % 3 === k);
            expect(out[k]!).toBeGreaterThanOrEqual(Math.min(...all) - 1e-5);
            expect(out[k]!).toBeLessThanOrEqual(Math.max(...all) + 1e-5);
          }
          const grey = table3d('grey', 4, ([r, g, b]): Rgb => [r ** 2, g ** 2, b ** 2]),
            [x, y, z] = applyTable(grey, [c[0], c[0], c[0]]);
          expect(x).toBeCloseTo(y, 6);
          expect(y).toBeCloseTo(z, 6);
        },
      ),
      { numRuns: 60 },
    ));
  it('a table that stands in a look comes out of it bit for bit', () =>
    fc.assert(
      fc.property(tables, (t) => {
        const back = readStoredTable(JSON.parse(JSON.stringify(storeTable(t))));
        if ('message' in back) throw new Error(back.message);
        expect(back.table.data).toEqual(t.data);
      }),
      { numRuns: 40 },
    ));
});

describe('CDL files (ASC CDL v1.2)', () => {
  const positive = fc.double({ min: 0.1, max: 3, noNaN: true }),
    any = fc.double({ min: -0.5, max: 0.5, noNaN: true }),
    cdls = fc.record({
      slope: fc.tuple(positive, positive, positive),
      offset: fc.tuple(any, any, any),
      power: fc.tuple(positive, positive, positive),
      saturation: positive,
    });
  it.each(['cc', 'ccc', 'cdl'] as const)('.%s: what is written is read again', (kind) =>
    fc.assert(
      fc.property(cdls, colour, (cdl, c) => {
        const r = readCdl(bytes(writeCdl({ id: 'shot <1> & "2"', cdl }, kind)));
        if ('message' in r) throw new Error(r.message);
        expect(r.corrections).toHaveLength(1);
        expect(r.corrections[0]!.id).toBe('shot <1> & "2"');
        applyCdl(r.corrections[0]!.cdl, c).forEach((v, k) => expect(v).toBeCloseTo(applyCdl(cdl, c)[k]!, 5));
      }),
      { numRuns: 40 },
    ),
  );
  it('what is left out is neutral; the older spellings are read', () => {
    const r = readCdl(bytes('<ColorCorrection id="a"><SATnode><Saturation>0.5</Saturation></SATnode></ColorCorrection>'));
    expect(r).toEqual({ corrections: [{ id: 'a', cdl: { slope: [1, 1, 1], offset: [0, 0, 0], power: [1, 1, 1], saturation: 0.5 } }] });
  });
  it.each([
    ['<SOPNode><Slope>1 1</Slope></SOPNode>', 'Slope needs three numbers'],
    ['<SOPNode><Slope>-1 1 1</Slope></SOPNode>', 'a slope is below zero'],
    ['<SOPNode><Power>1 0 1</Power></SOPNode>', 'a power is not above zero'],
    ['<SatNode><Saturation>much</Saturation></SatNode>', 'saturation is not a number'],
  ])('%s is refused', (inner, words) => {
    const r = readCdl(bytes(`<ColorCorrection id="x">${inner}</ColorCorrection>`));
    expect('message' in r && r.message).toContain(words);
    expect('message' in r && r.message).toContain('“x”');
  });
});
