import type { Cdl } from '../colour/cdl.ts';
import { countOf, type Table } from '../colour/table.ts';
import { child, escapeXml, numbersOf, readXml, type XmlElement } from './xml.ts';

export type LogStyle = 'log10' | 'antiLog10' | 'log2' | 'antiLog2' | 'linToLog' | 'logToLin' | 'cameraLinToLog' | 'cameraLogToLin';
export interface LogParams {
  base: number;
  linSideSlope: number;
  linSideOffset: number;
  logSideSlope: number;
  logSideOffset: number;
  linSideBreak: number | null;
  linearSlope: number | null;
}
/** One process node, its numbers in 0–1 whatever bit depth the file has them in. */
export type ClfNode =
  | { type: 'matrix'; rows: readonly (readonly number[])[]; offsets: readonly number[] }
  | { type: 'table'; table: Table; linear: boolean }
  | { type: 'range'; minIn: number | null; maxIn: number | null; minOut: number | null; maxOut: number | null; clamp: boolean }
  | { type: 'cdl'; cdl: Cdl; style: string }
  | { type: 'log'; style: LogStyle; params: readonly LogParams[] }
  | { type: 'exponent'; style: string; params: readonly { exponent: number; offset: number }[] };
export interface Clf {
  id: string;
  name: string;
  nodes: ClfNode[];
}

const depths: Record<string, number> = { '8i': 255, '10i': 1023, '12i': 4095, '16i': 65535, '16f': 1, '32f': 1 };
class Wrong extends Error {}

function nodeOf(e: XmlElement, index: number): ClfNode {
  const where = `node ${index + 1} (${e.name})`,
    wrong = (words: string): never => {
      throw new Wrong(`${where}: ${words}`);
    };
  const depth = (name: 'inBitDepth' | 'outBitDepth'): number =>
      depths[e.attributes[name] ?? ''] ??
      wrong(`its ${name} is “${e.attributes[name] ?? ''}”, which is none of ${Object.keys(depths).join(', ')}`),
    top = { in: depth('inBitDepth'), out: depth('outBitDepth') };
  const array = (): { dim: number[]; values: number[] } => {
    const a = child(e, 'Array') ?? wrong('its Array is missing'),
      dim = numbersOf(a.attributes['dim'] ?? ''),
      values = numbersOf(a.text);
    if (!values.every(Number.isFinite)) wrong('its Array holds something that is not a number');
    return { dim, values };
  };
  const perChannel = <T>(name: string, read: (attributes: Record<string, string>) => T): T[] => {
    const all = e.children.filter((c) => c.name === name),
      common = all.find((c) => !c.attributes['channel']);
    return ['R', 'G', 'B'].map((k) => read((all.find((c) => c.attributes['channel'] === k) ?? common)?.attributes ?? {}));
  };
  const number = (a: Record<string, string>, name: string, plain: number): number => {
    const v = a[name] === undefined ? plain : Number(a[name]);
    return Number.isFinite(v) ? v : wrong(`${name} is not a number`);
  };
  switch (e.name) {
    case 'Matrix': {
      const { dim, values } = array(),
        columns = dim[1] ?? 3;
      if (dim[0] !== 3 || (columns !== 3 && columns !== 4) || values.length !== 3 * columns)
        wrong(`its Array is ${dim.join(' × ')} and holds ${values.length} numbers; 3 × 3 or 3 × 4 is read`);
      return {
        type: 'matrix',
        rows: [0, 1, 2].map((r) => [0, 1, 2].map((c) => (values[r * columns + c]! * top.in) / top.out)),
        offsets: [0, 1, 2].map((r) => (columns === 4 ? values[r * columns + 3]! / top.out : 0)),
      };
    }
    case 'LUT1D': {
      if (e.attributes['halfDomain'] || e.attributes['rawHalfs']) wrong('tables over half floats are not read');
      const { dim, values } = array(),
        [size = 0, channels = 0] = dim;
      if (size < 2 || size > 65536 || (channels !== 1 && channels !== 3)) wrong(`its size is ${dim.join(' × ')}`);
      if (values.length !== size * channels) wrong(`its Array should hold ${size * channels} numbers and holds ${values.length}`);
      const data = new Float32Array(size * 3);
      for (let i = 0; i < size; i++)
        for (let c = 0; c < 3; c++) data[c * size + i] = values[i * channels + (channels === 3 ? c : 0)]! / top.out;
      return { type: 'table', linear: true, table: { kind: '1d', title: '', size, domainMin: [0, 0, 0], domainMax: [1, 1, 1], data } };
    }
    case 'LUT3D': {
      const { dim, values } = array(),
        size = dim[0] ?? 0;
      if (dim[3] !== 3 || dim[1] !== size || dim[2] !== size || size < 2 || size > 129) wrong(`its size is ${dim.join(' × ')}`);
      if (values.length !== countOf('3d', size)) wrong(`its Array should hold ${countOf('3d', size)} numbers and holds ${values.length}`);
      const data = new Float32Array(values.length);
      // blue runs fastest in the file
      for (let r = 0, i = 0; r < size; r++)
        for (let g = 0; g < size; g++)
          for (let b = 0; b < size; b++) for (let c = 0; c < 3; c++, i++) data[((b * size + g) * size + r) * 3 + c] = values[i]! / top.out;
      return {
        type: 'table',
        linear: e.attributes['interpolation'] !== 'tetrahedral',
        table: { kind: '3d', title: '', size, domainMin: [0, 0, 0], domainMax: [1, 1, 1], data },
      };
    }
    case 'Range': {
      const v = (name: string, by: number): number | null => {
        const c = child(e, name);
        if (!c) return null;
        const n = Number(c.text);
        return Number.isFinite(n) ? n / by : wrong(`${name} is not a number`);
      };
      const node = {
        minIn: v('minInValue', top.in),
        maxIn: v('maxInValue', top.in),
        minOut: v('minOutValue', top.out),
        maxOut: v('maxOutValue', top.out),
      };
      if ((node.minIn === null) !== (node.minOut === null) || (node.maxIn === null) !== (node.maxOut === null))
        wrong('a value in stands without its value out');
      if (node.minIn !== null && node.maxIn !== null && node.minIn >= node.maxIn) wrong('its range in does not run upward');
      return { type: 'range', ...node, clamp: e.attributes['style'] !== 'noClamp' };
    }
    case 'ASC_CDL': {
      const sop = child(e, 'SOPNode') ?? child(e, 'SOP'),
        sat = child(e, 'SatNode') ?? child(e, 'SAT'),
        three = (name: string, plain: number): [number, number, number] => {
          const n = sop && child(sop, name) ? numbersOf(child(sop, name)!.text) : [plain, plain, plain];
          return n.length === 3 && n.every(Number.isFinite) ? (n as [number, number, number]) : wrong(`${name} needs three numbers`);
        };
      const saturation = sat ? Number(child(sat, 'Saturation')?.text) : 1;
      if (!Number.isFinite(saturation)) wrong('its saturation is not a number');
      return {
        type: 'cdl',
        cdl: { slope: three('Slope', 1), offset: three('Offset', 0), power: three('Power', 1), saturation },
        style: e.attributes['style'] ?? 'Fwd',
      };
    }
    case 'Log': {
      const style = (e.attributes['style'] ?? '') as LogStyle;
      if (!['log10', 'antiLog10', 'log2', 'antiLog2', 'linToLog', 'logToLin', 'cameraLinToLog', 'cameraLogToLin'].includes(style))
        wrong(`its style “${style}” is not known`);
      return {
        type: 'log',
        style,
        params: perChannel('LogParams', (a) => ({
          base: number(a, 'base', 2),
          linSideSlope: number(a, 'linSideSlope', 1),
          linSideOffset: number(a, 'linSideOffset', 0),
          logSideSlope: number(a, 'logSideSlope', 1),
          logSideOffset: number(a, 'logSideOffset', 0),
          linSideBreak: a['linSideBreak'] === undefined ? null : number(a, 'linSideBreak', 0),
          linearSlope: a['linearSlope'] === undefined ? null : number(a, 'linearSlope', 1),
        })),
      };
    }
    case 'Exponent':
      return {
        type: 'exponent',
        style: e.attributes['style'] ?? '',
        params: perChannel('ExponentParams', (a) => ({ exponent: number(a, 'exponent', 1), offset: number(a, 'offset', 0) })),
      };
    default:
      return wrong('this kind of node is not read');
  }
}

/** Reads an Academy/ASC Common LUT Format file, version 3 (S-2014-006): Matrix, LUT1D, LUT3D, Range, ASC_CDL, Log and Exponent nodes. */
export function readClf(bytes: Uint8Array): { clf: Clf } | { message: string } {
  const xml = readXml(bytes);
  if ('message' in xml) return xml;
  const { root } = xml,
    version = root.attributes['compCLFversion'] ?? root.attributes['version'] ?? '';
  if (root.name !== 'ProcessList') return { message: `it begins with <${root.name}>, not <ProcessList>` };
  if (!/^[23](\.|$)/.test(version)) return { message: `its version is “${version}”; versions 2 and 3 are read` };
  try {
    const nodes = root.children.filter((c) => !['Description', 'InputDescriptor', 'OutputDescriptor', 'Info'].includes(c.name)).map(nodeOf);
    return nodes.length === 0
      ? { message: 'it has no process node' }
      : { clf: { id: root.attributes['id'] ?? '', name: root.attributes['name'] ?? '', nodes } };
  } catch (error) {
    if (error instanceof Wrong) return { message: error.message };
    throw error;
  }
}

const plain = (v: number): string => String(Number(v.toPrecision(9)));
/** Writes nodes as a CLF version 3 file, in 32-bit floats. */
export function writeClf({ id, name, nodes }: Clf): string {
  const rows = (values: ArrayLike<number>, width: number): string => {
      const out: string[] = [];
      for (let i = 0; i < values.length; i += width)
        out.push(`      ${Array.from({ length: width }, (_, k) => plain(values[i + k]!)).join(' ')}`);
      return out.join('\n');
    },
    depth = 'inBitDepth="32f" outBitDepth="32f"';
  const xml = nodes.map((n) => {
    switch (n.type) {
      case 'matrix':
        return `  <Matrix ${depth}>\n    <Array dim="3 4">\n${rows(
          n.rows.flatMap((r, i) => [...r, n.offsets[i]!]),
          4,
        )}\n    </Array>\n  </Matrix>`;
      case 'table': {
        const { size, data, kind } = n.table,
          out = new Float32Array(data.length);
        if (kind === '1d') {
          for (let i = 0; i < size; i++) for (let c = 0; c < 3; c++) out[i * 3 + c] = data[c * size + i]!;
          return `  <LUT1D ${depth}>\n    <Array dim="${size} 3">\n${rows(out, 3)}\n    </Array>\n  </LUT1D>`;
        }
        for (let r = 0, i = 0; r < size; r++)
          for (let g = 0; g < size; g++)
            for (let b = 0; b < size; b++) for (let c = 0; c < 3; c++, i++) out[i] = data[((b * size + g) * size + r) * 3 + c]!;
        return `  <LUT3D interpolation="${n.linear ? 'trilinear' : 'tetrahedral'}" ${depth}>\n    <Array dim="${size} ${size} ${size} 3">\n${rows(out, 3)}\n    </Array>\n  </LUT3D>`;
      }
      case 'range':
        return `  <Range ${depth}${n.clamp ? '' : ' style="noClamp"'}>\n${(['minIn', 'maxIn', 'minOut', 'maxOut'] as const)
          .filter((k) => n[k] !== null)
          .map((k) => `    <${k}Value>${plain(n[k]!)}</${k}Value>`)
          .join('\n')}\n  </Range>`;
      case 'cdl':
        return `  <ASC_CDL ${depth} style="${n.style}">\n    <SOPNode>\n      <Slope>${n.cdl.slope.map(plain).join(' ')}</Slope>\n      <Offset>${n.cdl.offset.map(plain).join(' ')}</Offset>\n      <Power>${n.cdl.power.map(plain).join(' ')}</Power>\n    </SOPNode>\n    <SatNode>\n      <Saturation>${plain(n.cdl.saturation)}</Saturation>\n    </SatNode>\n  </ASC_CDL>`;
      case 'log': {
        const own = ['R', 'G', 'B']
          .map((k, c) => {
            const p = n.params[c]!;
            return `    <LogParams channel="${k}" base="${plain(p.base)}" linSideSlope="${plain(p.linSideSlope)}" linSideOffset="${plain(p.linSideOffset)}" logSideSlope="${plain(p.logSideSlope)}" logSideOffset="${plain(p.logSideOffset)}"${p.linSideBreak === null ? '' : ` linSideBreak="${plain(p.linSideBreak)}"`}${p.linearSlope === null ? '' : ` linearSlope="${plain(p.linearSlope)}"`}/>`;
          })
          .join('\n');
        return `  <Log ${depth} style="${n.style}">${/^(anti)?[lL]og\d/.test(n.style) ? '' : `\n${own}\n  `}</Log>`;
      }
      case 'exponent':
        return `  <Exponent ${depth} style="${n.style}">\n${['R', 'G', 'B'].map((k, c) => `    <ExponentParams channel="${k}" exponent="${plain(n.params[c]!.exponent)}"${n.style.startsWith('mon') ? ` offset="${plain(n.params[c]!.offset)}"` : ''}/>`).join('\n')}\n  </Exponent>`;
    }
  });
  return `<?xml version="1.0" encoding="UTF-8"?>\n<ProcessList id="${escapeXml(id)}" name="${escapeXml(name)}" compCLFversion="3.0">\n${xml.join('\n')}\n</ProcessList>\n`;
}
