import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { decodeAcescct, decodeSrgb, encodeSrgb } from '../src/colour/transfer.ts';
import { readClf, type Clf, type ClfNode, writeClf } from '../src/formats/clf.ts';
import { applyClf } from '../src/formats/clfApply.ts';
import { table3d, type Rgb } from '../src/colour/table.ts';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text),
  list = (nodes: string): string =>
    `<?xml version="1.0" encoding="UTF-8"?>\n<ProcessList id="t" compCLFversion="3.0">\n${nodes}\n</ProcessList>`,
  read = (text: string): Clf => {
    const r = readClf(bytes(text));
    if ('message' in r) throw new Error(r.message);
    return r.clf;
  },
  refused = (text: string): string => {
    const r = readClf(bytes(text));
    if ('clf' in r) throw new Error('it was read');
    return r.message;
  },
  through = (nodes: string, rgb: Rgb): Rgb => applyClf(read(list(nodes)), rgb),
  float = 'inBitDepth="32f" outBitDepth="32f"';
const near = (actual: Rgb, expected: Rgb, digits = 6): void => expected.forEach((v, i) => expect(actual[i]!).toBeCloseTo(v, digits));

describe('nodes of the Common LUT Format, by the formulas of S-2014-006', () => {
  it('Matrix: out = M·in + offsets; a row is red’s first', () => {
    const m = `<Matrix ${float}><Array dim="3 4">2 0 0 0.1\n0 1 0.5 0\n0 0 1 -0.2</Array></Matrix>`;
    near(through(m, [0.25, 0.5, 1]), [0.6, 1, 0.8]);
  });
  it('bit depths scale what goes in and out: 10-bit codes to floats is a division by 1023', () => {
    near(
      through(
        '<Matrix inBitDepth="10i" outBitDepth="32f"><Array dim="3 3">0.000977517 0 0 0 0.000977517 0 0 0 0.000977517</Array></Matrix>',
        [1, 0.5, 0],
      ),
      [1, 0.5, 0],
      4,
    );
    near(through('<LUT1D inBitDepth="8i" outBitDepth="12i"><Array dim="2 1">0 4095</Array></LUT1D>', [0.3, 0.6, 1]), [0.3, 0.6, 1]);
  });
  it('Range: out = in·scale + offset with scale = (maxOut − minOut)/(maxIn − minIn), clamped unless it says noClamp', () => {
    const values = '<minInValue>0.2</minInValue><maxInValue>0.7</maxInValue><minOutValue>0</minOutValue><maxOutValue>2</maxOutValue>';
    near(through(`<Range ${float}>${values}</Range>`, [0.2, 0.45, 0.9]), [0, 1, 2]);
    near(through(`<Range ${float} style="noClamp">${values}</Range>`, [0.1, 0.45, 0.9]), [-0.4, 1, 2.8]);
    near(through(`<Range ${float}><minInValue>0</minInValue><minOutValue>0</minOutValue></Range>`, [-1, 0.5, 9]), [0, 0.5, 9]);
  });
  it('Log: cameraLinToLog with the numbers of ACEScct is ACEScct (S-2016-001), and cameraLogToLin undoes it', () => {
    const numbers =
        'base="2" logSideSlope="0.05707762557" logSideOffset="0.5547945205" linSideSlope="1" linSideOffset="0" linSideBreak="0.0078125"',
      there = `<Log ${float} style="cameraLinToLog"><LogParams ${numbers}/></Log>`,
      back = `<Log ${float} style="cameraLogToLin"><LogParams ${numbers}/></Log>`;
    near(through(there, [0.18, 0.0078125, 1]), [0.4135884, 0.155251141552511, 0.5547945], 5);
    for (const v of [-0.01, 0, 0.001, 0.18, 4, 60]) {
      near(through(there + back, [v, v, v]), [v, v, v], 4);
      expect(decodeAcescct(through(there, [v, v, v])[0])).toBeCloseTo(v, 3);
    }
  });
  it('Log: the plain bases', () => {
    near(through(`<Log ${float} style="log10"/>`, [1, 10, 0.01]), [0, 1, -2]);
    near(through(`<Log ${float} style="log2"/>`, [1, 8, 0.25]), [0, 3, -2]);
    near(through(`<Log ${float} style="antiLog10"/>`, [0, 1, -2]), [1, 10, 0.01]);
    near(through(`<Log ${float} style="antiLog2"/>`, [0, 3, -2]), [1, 8, 0.25]);
  });
  it('Exponent: monCurve with 2.4 and 0.055 is sRGB’s own curve (IEC 61966-2-1), forward and back', () => {
    const forward = `<Exponent ${float} style="monCurveFwd"><ExponentParams exponent="2.4" offset="0.055"/></Exponent>`,
      reverse = `<Exponent ${float} style="monCurveRev"><ExponentParams exponent="2.4" offset="0.055"/></Exponent>`;
    for (const v of [0, 0.02, 0.2, 0.5, 1]) {
      expect(Math.abs(through(forward, [v, v, v])[0] - decodeSrgb(v))).toBeLessThan(2e-5);
      expect(Math.abs(through(reverse, [v, v, v])[0] - encodeSrgb(v))).toBeLessThan(4e-4);
    }
  });
  it('Exponent: what is below zero is clamped, mirrored or passed through, as its style says', () => {
    const of = (style: string): string => `<Exponent ${float} style="${style}"><ExponentParams exponent="2"/></Exponent>`;
    near(through(of('basicFwd'), [-0.5, 0.5, 2]), [0, 0.25, 4]);
    near(through(of('basicMirrorFwd'), [-0.5, 0.5, 2]), [-0.25, 0.25, 4]);
    near(through(of('basicPassThruFwd'), [-0.5, 0.5, 2]), [-0.5, 0.25, 4]);
    near(through(of('basicRev'), [0.25, 4, 0]), [0.5, 2, 0]);
    const own = `<Exponent ${float} style="basicFwd"><ExponentParams channel="R" exponent="2"/><ExponentParams channel="B" exponent="3"/></Exponent>`;
    near(through(own, [0.5, 0.5, 0.5]), [0.25, 0.5, 0.125]);
  });
  it('ASC_CDL: forward as the ASC says, and the reverse style undoes it', () => {
    const numbers =
        '<SOPNode><Slope>1.2 0.9 1</Slope><Offset>0.02 -0.01 0</Offset><Power>1.1 0.8 1</Power></SOPNode><SatNode><Saturation>0.7</Saturation></SatNode>',
      [there, back] = ['FwdNoClamp', 'RevNoClamp'].map((s) => `<ASC_CDL ${float} style="${s}">${numbers}</ASC_CDL>`) as [string, string],
      sop = [(0.4 * 1.2 + 0.02) ** 1.1, (0.5 * 0.9 - 0.01) ** 0.8, 0.6],
      luma = 0.2126 * sop[0]! + 0.7152 * sop[1]! + 0.0722 * sop[2]!;
    near(through(there, [0.4, 0.5, 0.6]), sop.map((v) => luma + 0.7 * (v - luma)) as unknown as Rgb);
    near(through(there + back, [0.4, 0.5, 0.6]), [0.4, 0.5, 0.6], 5);
  });
  it('LUT3D: blue runs fastest', () => {
    const rows = Array.from({ length: 8 }, (_, i) => `${i >> 2} ${((i >> 1) & 1) * 0.5} ${(i & 1) * 0.25}`).join('\n'),
      cube = `<LUT3D ${float} interpolation="tetrahedral"><Array dim="2 2 2 3">${rows}</Array></LUT3D>`;
    near(through(cube, [1, 0, 0]), [1, 0, 0]);
    near(through(cube, [0, 0, 1]), [0, 0, 0.25]);
    near(through(cube, [0.5, 0.5, 0.5]), [0.5, 0.25, 0.125]);
  });
});

describe('a list written is the list read', () => {
  const unit = fc.double({ min: -2, max: 2, noNaN: true }),
    three = fc.tuple(unit, unit, unit),
    positive = fc.double({ min: 0.2, max: 3, noNaN: true }),
    node: fc.Arbitrary<ClfNode> = fc.oneof(
      fc.record({ type: fc.constant('matrix' as const), rows: fc.tuple(three, three, three), offsets: three }),
      fc.record({
        type: fc.constant('cdl' as const),
        style: fc.constantFrom('Fwd', 'FwdNoClamp'),
        cdl: fc.record({
          slope: fc.tuple(positive, positive, positive),
          offset: three,
          power: fc.tuple(positive, positive, positive),
          saturation: positive,
        }),
      }),
      fc.record({
        type: fc.constant('exponent' as const),
        style: fc.constantFrom('basicFwd', 'basicMirrorFwd'),
        params: fc.array(fc.record({ exponent: positive, offset: fc.constant(0) }), { minLength: 3, maxLength: 3 }),
      }),
      fc.record({
        type: fc.constant('table' as const),
        linear: fc.boolean(),
        table: fc.array(fc.float({ min: -1, max: 2, noNaN: true }), { minLength: 24, maxLength: 24 }).map((v) => {
          const t = table3d('', 2, (c) => c);
          t.data.set(v);
          return t;
        }),
      }),
    );
  it('whatever nodes it has, colours come out the same', () =>
    fc.assert(
      fc.property(fc.array(node, { minLength: 1, maxLength: 4 }), three, (nodes, colour) => {
        const clf: Clf = { id: 'x', name: 'A & “b” <c>', nodes },
          back = read(writeClf(clf)),
          [a, b] = [applyClf(clf, colour), applyClf(back, colour)];
        expect(back.name).toBe(clf.name);
        a.forEach((v, k) => expect(Math.abs(v - b[k]!)).toBeLessThan(1e-5 * Math.max(1, Math.abs(v)) ** 2));
      }),
      { numRuns: 120 },
    ));
});

describe('a list that is wrong says which node and what', () => {
  it.each([
    ['<Matrix inBitDepth="32f" outBitDepth="32f"><Array dim="3 3">1 0 0 0 1 0 0 0</Array></Matrix>', /node 1 \(Matrix\).*holds 8 numbers/],
    ['<Matrix inBitDepth="9i" outBitDepth="32f"><Array dim="3 3">1 0 0 0 1 0 0 0 1</Array></Matrix>', /inBitDepth is “9i”/],
    ['<LUT1D inBitDepth="32f" outBitDepth="32f"><Array dim="3 1">0 x 1</Array></LUT1D>', /not a number/],
    ['<LUT1D inBitDepth="16f" outBitDepth="32f" halfDomain="true"><Array dim="2 1">0 1</Array></LUT1D>', /half floats are not read/],
    ['<LUT3D inBitDepth="32f" outBitDepth="32f"><Array dim="2 2 3 3">0 0 0</Array></LUT3D>', /its size is 2 × 2 × 3 × 3/],
    ['<Range inBitDepth="32f" outBitDepth="32f"><minInValue>1</minInValue></Range>', /without its value out/],
    [
      '<Range inBitDepth="32f" outBitDepth="32f"><minInValue>1</minInValue><maxInValue>0</maxInValue><minOutValue>0</minOutValue><maxOutValue>1</maxOutValue></Range>',
      /does not run upward/,
    ],
    ['<Log inBitDepth="32f" outBitDepth="32f" style="ln"/>', /style “ln” is not known/],
    ['<Sparkle inBitDepth="32f" outBitDepth="32f"/>', /node 1 \(Sparkle\): this kind of node is not read/],
    ['', /no process node/],
  ])('%s', (nodes, message) => expect(refused(list(nodes))).toMatch(message));
  it('another document, another version', () => {
    expect(refused('<Recipe/>')).toContain('begins with <Recipe>');
    expect(refused('<ProcessList id="t" compCLFversion="9"/>')).toContain('its version is “9”');
    expect(refused('<ProcessList id="t" compCLFversion="3"><Matrix>')).toMatch(/line 1/);
  });
});
