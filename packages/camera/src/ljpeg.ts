/**
 * Lossless JPEG (ITU-T T.81 annex H, process 14), predictor 1, two interleaved components as DNG raws use it.
 * @param samples rows × width counts, width even
 */
export function encodeLosslessJpeg(samples: Uint16Array, width: number, height: number, stride: number, bits: number): Uint8Array {
  const differences = new Int32Array(width * height);
  const counts = new Float64Array(17);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const v = samples[y * stride + x]!;
      const p = x >= 2 ? samples[y * stride + x - 2]! : y > 0 ? samples[(y - 1) * stride + x]! : 1 << (bits - 1);
      const d = ((v - p + 32768) & 65535) - 32768;
      differences[y * width + x] = d;
      counts[32 - Math.clz32(Math.abs(d))]!++;
    }
  }
  const { lengths, order } = codeLengths(counts);
  const codes = new Int32Array(17),
    sizes = new Int32Array(17);
  let code = 0,
    k = 0;
  for (let length = 1; length <= 16; length++) {
    for (let i = 0; i < lengths[length]!; i++, k++) {
      codes[order[k]!] = code++;
      sizes[order[k]!] = length;
    }
    code <<= 1;
  }
  const out = new Uint8Array(width * height * 4 + 256);
  let at = 0;
  const put = (...b: number[]): void => {
    for (const v of b) out[at++] = v;
  };
  put(0xff, 0xd8, 0xff, 0xc3, 0, 14, bits, height >> 8, height & 255, (width / 2) >> 8, (width / 2) & 255, 2, 0, 0x11, 0, 1, 0x11, 0);
  put(0xff, 0xc4, 0, 19 + order.length, 0, ...Array.from({ length: 16 }, (_, i) => lengths[i + 1]!), ...order);
  put(0xff, 0xda, 0, 10, 2, 0, 0, 1, 0, 1, 0, 0);
  let hold = 0,
    held = 0;
  const bit = (value: number, n: number): void => {
    for (let i = n - 1; i >= 0; i--) {
      hold = (hold << 1) | ((value >> i) & 1);
      if (++held === 8) {
        out[at++] = hold;
        if (hold === 255) out[at++] = 0;
        hold = 0;
        held = 0;
      }
    }
  };
  for (let i = 0; i < differences.length; i++) {
    const d = differences[i]!,
      n = 32 - Math.clz32(Math.abs(d));
    bit(codes[n]!, sizes[n]!);
    if (n > 0 && n < 16) bit(d < 0 ? d + (1 << n) - 1 : d, n);
  }
  if (held > 0) bit(127, 8 - held);
  put(0xff, 0xd9);
  return out.slice(0, at);
}

/** Huffman code lengths (at most 16, no all-ones code) for the categories that occur: T.81 annex K.2. */
function codeLengths(counts: Float64Array): { lengths: number[]; order: number[] } {
  const used = [...counts.keys()].filter((i) => counts[i]! > 0);
  type Node = { weight: number; leaves: number[] };
  let nodes: Node[] = [...used.map((i) => ({ weight: counts[i]! + 1, leaves: [i] })), { weight: 0.5, leaves: [17] }];
  const depth = new Int32Array(18);
  while (nodes.length > 1) {
    nodes.sort((a, b) => b.weight - a.weight);
    const a = nodes.pop()!,
      b = nodes.pop()!;
    for (const leaf of [...a.leaves, ...b.leaves]) depth[leaf]!++;
    nodes = [...nodes, { weight: a.weight + b.weight, leaves: [...a.leaves, ...b.leaves] }];
  }
  const lengths = new Array<number>(18).fill(0);
  const sorted = used.sort((a, b) => depth[a]! - depth[b]! || a - b);
  for (const i of sorted) lengths[Math.min(16, depth[i]!)]!++;
  return { lengths, order: sorted };
}
