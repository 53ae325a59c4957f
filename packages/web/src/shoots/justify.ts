/** One row of a contact sheet: pictures of equal height that fill the width. */
export interface Row<T> {
  height: number;
  items: { item: T; width: number }[];
}

/** Breaks pictures into rows of about the wanted height that fill the width exactly; the last row is left as it falls. */
export function justify<T>(items: readonly T[], aspect: (item: T) => number, width: number, wanted: number, gap: number): Row<T>[] {
  const rows: Row<T>[] = [];
  let row: T[] = [],
    sum = 0;
  const close = (last: boolean): void => {
    const room = width - gap * (row.length - 1),
      height = last ? Math.min(wanted, room / sum) : room / sum;
    rows.push({ height, items: row.map((item) => ({ item, width: aspect(item) * height })) });
    row = [];
    sum = 0;
  };
  for (const item of items) {
    const a = aspect(item);
    // a row is closed before this picture when that leaves its height nearer to what is wanted
    if (row.length > 0) {
      const without = (width - gap * (row.length - 1)) / sum,
        withIt = (width - gap * row.length) / (sum + a);
      if (withIt < wanted && Math.abs(without - wanted) < Math.abs(withIt - wanted)) close(false);
    }
    row.push(item);
    sum += a;
  }
  if (row.length > 0) close((width - gap * (row.length - 1)) / sum > wanted * 1.15);
  return rows;
}
