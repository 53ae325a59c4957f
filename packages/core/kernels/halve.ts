/** Two 16-bit rows of one plane to one of half the width: the rounded mean of 2 × 2. */
export function halve(row0: usize, row1: usize, dst: usize, width: i32): void {
  for (let i: i32 = 0; i < width; i++) {
    const o = <usize>i * 4;
    const upper = <u32>load<u16>(row0 + o) + <u32>load<u16>(row0 + o, 2);
    const lower = <u32>load<u16>(row1 + o) + <u32>load<u16>(row1 + o, 2);
    store<u16>(dst + <usize>i * 2, <u16>((upper + lower + 2) >> 2));
  }
}
