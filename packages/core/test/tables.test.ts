import { describe, expect, it } from 'vitest';
import { readCdl } from '../src/formats/cdl.ts';
import { readClf } from '../src/formats/clf.ts';
import { readCube, writeCube } from '../src/formats/cube.ts';
import { table3d } from '../src/colour/table.ts';
import { bytes, odd } from './tableTrial.ts';

describe('malformed tables are refused with the line, in less than a second', () => {
  const rows = (n: number): string => Array.from({ length: n }, (_, i) => `0 0 ${i / n}`).join('\n');
  it.each([
    ['a missing row', `LUT_3D_SIZE 3\n${rows(26)}`, /line 27: the table ends after 26 of 27 rows/],
    ['a row too many', `LUT_1D_SIZE 4\n${rows(5)}`, /line 6: there are more rows/],
    ['NaN', 'LUT_1D_SIZE 2\n0 0 0\n1 nan 1', /line 3: “nan” is not a number/],
    ['size 1', 'LUT_3D_SIZE 1\n0 0 0', /line 1: .*from 2 to 129, not “1”/],
    ['size 10⁶', 'LUT_3D_SIZE 1000000\n0 0 0', /line 1: .*not “1000000”/],
    ['two numbers', 'LUT_1D_SIZE 2\n0 0\n1 1 1', /line 2: expected three numbers, found two numbers/],
    ['no size', 'TITLE "x"\n', /neither/],
    ['a foreign word', 'LUT_1D_SIZE 2\nSPARKLE 3\n0 0 0\n1 1 1', /line 2: “SPARKLE”/],
    ['a domain upside down', 'LUT_1D_SIZE 2\nDOMAIN_MIN 1 1 1\nDOMAIN_MAX 0 0 0\n0 0 0\n1 1 1', /not below/],
    ['a size said twice', 'LUT_1D_SIZE 2\nLUT_3D_SIZE 2\n', /second time/],
    ['text', 'hello there', /“hello”/],
    ['a title without quotes', 'TITLE x\n', /double quotes/],
  ])('%s', (_, text, words) => {
    const from = performance.now(),
      read = readCube(bytes(text));
    expect('message' in read && read.message).toMatch(words);
    expect(performance.now() - from).toBeLessThan(1000);
  });
  it('UTF-16 and binary', () => {
    expect(readCube(Uint8Array.from([255, 254, 76, 0, 85, 0]))).toMatchObject({ message: expect.stringContaining('UTF-16') as string });
    expect(readCube(Uint8Array.from([1, 0, 7, 9]))).toHaveProperty('message');
  });
  it('XML bombs, cut XML and foreign nodes', () => {
    const bomb = `<?xml version="1.0"?>\n<!DOCTYPE l [\n<!ENTITY a "${'ha'.repeat(50)}">\n${Array.from({ length: 9 }, (_, i) => `<!ENTITY a${i} "${`&a${i - 1 < 0 ? '' : i - 1};`.repeat(10)}">`).join('\n')}]>\n<ProcessList compCLFversion="3">&a8;</ProcessList>`,
      from = performance.now();
    expect(readClf(bytes(bomb))).toMatchObject({ message: expect.stringMatching(/^line 2: .*entities/) as string });
    expect(readCdl(bytes(bomb))).toHaveProperty('message');
    expect(readClf(bytes('<ProcessList compCLFversion="3">\n<Matrix>'))).toMatchObject({
      message: expect.stringMatching(/^line \d/) as string,
    });
    expect(readClf(bytes('<ProcessList compCLFversion="3"><Sparkle inBitDepth="32f" outBitDepth="32f"/></ProcessList>'))).toMatchObject({
      message: expect.stringContaining('Sparkle') as string,
    });
    expect(
      readClf(
        bytes(
          '<ProcessList compCLFversion="3"><LUT3D inBitDepth="32f" outBitDepth="32f"><Array dim="2 2 2 3">0 0 0</Array></LUT3D></ProcessList>',
        ),
      ),
    ).toMatchObject({ message: expect.stringContaining('should hold 24') as string });
    expect(readCdl(bytes('<ColorCorrection id="a"><SOPNode><Slope>1 -1 1</Slope></SOPNode></ColorCorrection>'))).toMatchObject({
      message: expect.stringContaining('below zero') as string,
    });
    expect(performance.now() - from).toBeLessThan(1000);
  });
  it('a large good one is read well within the time', () => {
    const text = bytes(writeCube(table3d('big', 65, odd))),
      from = performance.now();
    expect(readCube(text)).toHaveProperty('table');
    expect(performance.now() - from).toBeLessThan(2000);
  });
});
