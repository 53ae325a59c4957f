/** Places that hang together, by number from 1; 0 where there are none. */
export function piecesOf(wet: Uint8Array, width: number): { piece: Int32Array; count: number } {
  const piece = new Int32Array(wet.length),
    open: number[] = [];
  let count = 0;
  for (let start = 0; start < wet.length; start++) {
    if (!wet[start] || piece[start]) continue;
    count++;
    open.push(start);
    piece[start] = count;
    while (open.length > 0) {
      const i = open.pop()!,
        x = i % width;
      for (const k of [x > 0 ? i - 1 : -1, x < width - 1 ? i + 1 : -1, i - width, i + width]) {
        if (k < 0 || k >= wet.length || !wet[k] || piece[k]) continue;
        piece[k] = count;
        open.push(k);
      }
    }
  }
  return { piece, count };
}
