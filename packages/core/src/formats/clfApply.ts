import { applyCdl, type Cdl } from '../colour/cdl.ts';
import { applyTable, type Rgb, type Table } from '../colour/table.ts';
import type { Clf, LogParams, LogStyle } from './clf.ts';

const least = 1.17549435e-38;
function logOf(style: LogStyle, p: LogParams, x: number): number {
  const base = Math.log(p.base),
    line = (v: number): number =>
      p.logSideSlope * (Math.log(Math.max(least, p.linSideSlope * v + p.linSideOffset)) / base) + p.logSideOffset,
    back = (y: number): number => (p.base ** ((y - p.logSideOffset) / p.logSideSlope) - p.linSideOffset) / p.linSideSlope;
  switch (style) {
    case 'log10':
      return Math.log10(Math.max(least, x));
    case 'log2':
      return Math.log2(Math.max(least, x));
    case 'antiLog10':
      return 10 ** x;
    case 'antiLog2':
      return 2 ** x;
    case 'linToLog':
      return line(x);
    case 'logToLin':
      return back(x);
    default: {
      const at = p.linSideBreak ?? 0,
        slope = p.linearSlope ?? (p.logSideSlope * p.linSideSlope) / ((p.linSideSlope * at + p.linSideOffset) * base),
        offset = line(at) - slope * at;
      return style === 'cameraLinToLog'
        ? x <= at
          ? slope * x + offset
          : line(x)
        : x <= slope * at + offset
          ? (x - offset) / slope
          : back(x);
    }
  }
}
function powerOf(style: string, { exponent: e, offset }: { exponent: number; offset: number }, x: number): number {
  if (style.includes('Mirror') && x < 0) return -powerOf(style.replace('Mirror', ''), { exponent: e, offset }, -x);
  if (style.startsWith('basicPassThru') && x < 0) return x;
  if (style.startsWith('basic')) return Math.max(0, x) ** (style.endsWith('Rev') ? 1 / e : e);
  const slope = e === 1 || offset === 0 ? 1 : ((e - 1) / offset) * ((e * offset) / ((e - 1) * (1 + offset))) ** e,
    breakAt = e === 1 ? 0 : offset / (e - 1);
  if (style.endsWith('Rev')) return x >= slope * breakAt ? (1 + offset) * Math.max(0, x) ** (1 / e) - offset : x / slope;
  return x >= breakAt ? ((x + offset) / (1 + offset)) ** e : x * slope;
}
/** Trilinear reading of a 3D table. */
function trilinear(t: Table, rgb: Rgb): [number, number, number] {
  const at = rgb.map((v) => Math.min(t.size - 1, Math.max(0, v * (t.size - 1)))),
    cell = at.map((v) => Math.min(t.size - 2, Math.floor(v))),
    f = at.map((v, c) => v - cell[c]!),
    out: [number, number, number] = [0, 0, 0];
  for (let k = 0; k < 8; k++) {
    const d = [k & 1, (k >> 1) & 1, k >> 2],
      w = d.reduce((p, v, c) => p * (v ? f[c]! : 1 - f[c]!), 1),
      o = (((cell[2]! + d[2]!) * t.size + cell[1]! + d[1]!) * t.size + cell[0]! + d[0]!) * 3;
    for (let c = 0; c < 3; c++) out[c]! += w * t.data[o + c]!;
  }
  return out;
}
function cdlStyled({ cdl, style }: { cdl: Cdl; style: string }, rgb: Rgb): Rgb {
  if (style === 'Fwd') return applyCdl(cdl, rgb);
  const luma = (v: Rgb): number => 0.2126 * v[0] + 0.7152 * v[1] + 0.0722 * v[2],
    clamp = style.endsWith('NoClamp') ? (v: number): number => v : (v: number): number => Math.min(1, Math.max(0, v)),
    power = (v: number, p: number): number => (v < 0 ? v : v ** p);
  if (style.startsWith('Fwd')) {
    const v = rgb.map((x, c) => power(x * cdl.slope[c]! + cdl.offset[c]!, cdl.power[c]!)) as unknown as Rgb,
      l = luma(v);
    return v.map((x) => l + cdl.saturation * (x - l)) as unknown as Rgb;
  }
  const v = rgb.map(clamp) as unknown as Rgb,
    l = luma(v);
  return v.map((x, c) =>
    clamp((power(clamp(l + (x - l) / cdl.saturation), 1 / cdl.power[c]!) - cdl.offset[c]!) / cdl.slope[c]!),
  ) as unknown as Rgb;
}
/** A colour through all nodes, in double precision. */
export function applyClf({ nodes }: Clf, rgb: Rgb): Rgb {
  return nodes.reduce<Rgb>((v, n) => {
    switch (n.type) {
      case 'matrix':
        return n.rows.map((row, r) => row[0]! * v[0] + row[1]! * v[1] + row[2]! * v[2] + n.offsets[r]!) as unknown as Rgb;
      case 'table':
        return n.table.kind === '3d' && n.linear ? trilinear(n.table, v) : applyTable(n.table, v);
      case 'range': {
        const scale = n.minIn !== null && n.maxIn !== null ? (n.maxOut! - n.minOut!) / (n.maxIn - n.minIn) : 1,
          shift = n.minIn !== null ? n.minOut! - n.minIn * scale : n.maxIn !== null ? n.maxOut! - n.maxIn * scale : 0;
        return v.map((x) => {
          let y = x * scale + shift;
          if (n.clamp) {
            if (n.minOut !== null) y = Math.max(n.minOut, y);
            if (n.maxOut !== null) y = Math.min(n.maxOut, y);
          }
          return y;
        }) as unknown as Rgb;
      }
      case 'cdl':
        return cdlStyled(n, v);
      case 'log':
        return v.map((x, c) => logOf(n.style, n.params[c]!, x)) as unknown as Rgb;
      case 'exponent':
        return v.map((x, c) => powerOf(n.style, n.params[c]!, x)) as unknown as Rgb;
    }
  }, rgb);
}
