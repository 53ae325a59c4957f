import type { Cdl } from '../colour/cdl.ts';
import { child, escapeXml, numbersOf, readXml, type XmlElement } from './xml.ts';

export interface NamedCdl {
  id: string;
  cdl: Cdl;
}

/** The numbers of a ColorCorrection's SOPNode and SatNode (ASC CDL v1.2; the older spellings SOPnode and SATNode too). */
function correctionOf(e: XmlElement): NamedCdl | { message: string } {
  const sop = e.children.find((c) => /^SOPNode$/i.test(c.name)),
    sat = e.children.find((c) => /^SATNode$/i.test(c.name)),
    id = e.attributes['id'] ?? '',
    where = id ? `the correction “${id}”` : 'the correction';
  const three = (name: string, plain: number): [number, number, number] | string => {
    const found = sop && child(sop, name),
      n = found ? numbersOf(found.text) : [plain, plain, plain];
    return n.length === 3 && n.every(Number.isFinite) ? (n as [number, number, number]) : `${where}: ${name} needs three numbers`;
  };
  const slope = three('Slope', 1),
    offset = three('Offset', 0),
    power = three('Power', 1),
    saturation = sat ? Number(child(sat, 'Saturation')?.text ?? NaN) : 1;
  for (const v of [slope, offset, power]) if (typeof v === 'string') return { message: v };
  if ((slope as number[]).some((v) => v < 0)) return { message: `${where}: a slope is below zero` };
  if ((power as number[]).some((v) => v <= 0)) return { message: `${where}: a power is not above zero` };
  if (!Number.isFinite(saturation) || saturation < 0) return { message: `${where}: its saturation is not a number from zero up` };
  return {
    id,
    cdl: {
      slope: slope as [number, number, number],
      offset: offset as [number, number, number],
      power: power as [number, number, number],
      saturation,
    },
  };
}

/** Reads a .cc, .ccc or .cdl file: its corrections in order. */
export function readCdl(bytes: Uint8Array): { corrections: NamedCdl[] } | { message: string } {
  const xml = readXml(bytes);
  if ('message' in xml) return xml;
  const find = (e: XmlElement): XmlElement[] => (e.name === 'ColorCorrection' ? [e] : e.children.flatMap(find)),
    found = find(xml.root);
  if (found.length === 0) return { message: 'there is no ColorCorrection in it' };
  const corrections: NamedCdl[] = [];
  for (const e of found) {
    const c = correctionOf(e);
    if ('message' in c) return c;
    corrections.push(c);
  }
  return { corrections };
}
/** Writes one correction as a .cc file, or as the only one of a collection (.ccc) or of a decision list (.cdl). */
export function writeCdl({ id, cdl }: NamedCdl, kind: 'cc' | 'ccc' | 'cdl'): string {
  const row = (v: readonly number[]): string => v.map((n) => Number(n.toPrecision(8))).join(' ');
  const [before, after] = {
    cc: ['', ''],
    ccc: ['<ColorCorrectionCollection xmlns="urn:ASC:CDL:v1.2">\n', '</ColorCorrectionCollection>\n'],
    cdl: ['<ColorDecisionList xmlns="urn:ASC:CDL:v1.2">\n<ColorDecision>\n', '</ColorDecision>\n</ColorDecisionList>\n'],
  }[kind] as [string, string];
  return `<?xml version="1.0" encoding="UTF-8"?>\n${before}<ColorCorrection id="${escapeXml(id)}">\n  <SOPNode>\n    <Slope>${row(cdl.slope)}</Slope>\n    <Offset>${row(cdl.offset)}</Offset>\n    <Power>${row(cdl.power)}</Power>\n  </SOPNode>\n  <SatNode>\n    <Saturation>${Number(cdl.saturation.toPrecision(8))}</Saturation>\n  </SatNode>\n</ColorCorrection>\n${after}`;
}
