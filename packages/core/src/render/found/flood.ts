/**
 * How high a flood from the top edge has to rise to reach each place, over the heights given: the least, over all ways there, of
 * the highest place on the way (priority flood: Barnes, Lehman, Mulla 2014).
 */
export function floodFromTop(heights: Float32Array, width: number, height: number): Float32Array {
  const levels = 1024,
    most = heights.reduce((a, b) => Math.max(a, b), 1e-9),
    out = new Float32Array(heights.length).fill(Infinity),
    // places waiting, by level
    waiting: number[][] = Array.from({ length: levels + 1 }, () => []),
    push = (i: number, level: number): void => {
      if (level >= out[i]!) return;
      out[i] = level;
      waiting[Math.min(levels, Math.floor((level / most) * levels))]!.push(i);
    };
  for (let x = 0; x < width; x++) push(x, heights[x]!);
  for (let l = 0; l <= levels; l++)
    for (let k = 0; k < waiting[l]!.length; k++) {
      const i = waiting[l]![k]!,
        level = out[i]!,
        x = i % width;
      if (x > 0) push(i - 1, Math.max(level, heights[i - 1]!));
      if (x < width - 1) push(i + 1, Math.max(level, heights[i + 1]!));
      if (i >= width) push(i - width, Math.max(level, heights[i - width]!));
      if (i < width * (height - 1)) push(i + width, Math.max(level, heights[i + width]!));
    }
  return out;
}
