import { exp2, log2, mix, read, s } from './maths';

/** Three curves read at the places of three lanes: tables of `last` + 2 values, one after another; places are clamped to them. */
// @ts-ignore: decorator
@inline function threeCurves(tables: usize, last: f32, at: v128): v128 {
  const p = f32x4.pmin(s(last), f32x4.pmax(s(0), at)), cell = f32x4.floor(p), t = f32x4.sub(p, cell), i = i32x4.trunc_sat_f32x4_s(cell), length = <usize>(last + 2) << 2;
  const a = tables + (<usize>i32x4.extract_lane(i, 0) << 2), b = tables + length + (<usize>i32x4.extract_lane(i, 1) << 2), c = tables + 2 * length + (<usize>i32x4.extract_lane(i, 2) << 2);
  const low = v128.load32_lane(c, v128.load32_lane(b, v128.load32_zero(a), 1), 2), high = v128.load32_lane(c + 4, v128.load32_lane(b + 4, v128.load32_zero(a + 4), 1), 2);
  return mix(low, high, t);
}
/** Σ column · lane of three lanes. Columns of four numbers. */
// @ts-ignore: decorator
@inline function columns(p: usize, x: v128): v128 {
  return f32x4.add(f32x4.add(f32x4.mul(v128.load(p), v128.shuffle<f32>(x, x, 0, 0, 0, 0)), f32x4.mul(v128.load(p + 16), v128.shuffle<f32>(x, x, 1, 1, 1, 1))), f32x4.mul(v128.load(p + 32), v128.shuffle<f32>(x, x, 2, 2, 2, 2)));
}

/**
 * Densities of a film for all lights of a cube, red fastest, four numbers each.
 * faces: exposures of three layers for colours whose greatest channel is 1 (by which that is, then by the fourth roots of the next
 * and the next but one, `fits` each), four numbers each. p: fits, the least exposure, log₁₀ of white's, the curves' first log
 * exposure and entries per unit, three unused; middle densities[4]; interlayer effects by columns[12].
 */
export function develop(lights: usize, side: i32, faces: usize, p: usize, curves: usize, last: f32, dst: usize): void {
  const fits = <i32>load<f32>(p), top = <f32>(fits - 1), least = v128.load32_splat(p + 4), white = v128.load32_splat(p + 8), from = v128.load32_splat(p + 12), per = v128.load32_splat(p + 16), middle = v128.load(p + 32), row = <usize>fits << 4;
  for (let k = 0; k < side; k++) for (let j = 0; j < side; j++) for (let i = 0; i < side; i++) {
    const r = load<f32>(lights + (<usize>i << 2)), g = load<f32>(lights + (<usize>j << 2)), b = load<f32>(lights + (<usize>k << 2)), most = max(r, max(g, b));
    let exposed = s(0);
    if (most > 0) {
      const face = r == most ? 0 : g == most ? 1 : 2;
      const u = sqrt<f32>(sqrt<f32>((face == 0 ? g : face == 1 ? b : r) / most)) * top, v = sqrt<f32>(sqrt<f32>((face == 0 ? b : face == 1 ? r : g) / most)) * top;
      const cu = min(fits - 2, <i32>u), cv = min(fits - 2, <i32>v), at = faces + (<usize>((face * fits + cu) * fits + cv) << 4), t = s(v - <f32>cv);
      exposed = f32x4.mul(s(most), mix(mix(v128.load(at), v128.load(at + 16), t), mix(v128.load(at + row), v128.load(at + row + 16), t), s(u - <f32>cu)));
    }
    const logH = f32x4.add(white, f32x4.mul(s(0.30102999566), log2(f32x4.pmax(least, exposed)))), d = threeCurves(curves, last, f32x4.mul(f32x4.sub(logH, from), per));
    v128.store(dst, f32x4.pmax(s(0), f32x4.add(d, columns(p + 48, f32x4.sub(d, middle)))));
    dst += 16;
  }
}

/** What parabolas through three neighbours weigh each of them with, at −½…½ from the middle one. */
// @ts-ignore: decorator
@inline function parabola(t: f32, which: i32): f32 { return which == 0 ? 1 - t * t : 0.5 * t * (t + <f32>which); }
/**
 * Densities of three dyes to the logarithms of what comes through them, in place: a grid read by parabolas along each axis.
 * p: the grid's first densities[4], nodes per unit of density[4]; grid: side³ nodes of four numbers, the first dye's running fastest.
 */
export function throughDyes(src: usize, n: i32, grid: usize, side: i32, p: usize): void {
  const from = v128.load(p), per = v128.load(p + 16), last = s(<f32>(side - 2)), row = <usize>side << 4, plane = row * <usize>side;
  for (let q = 0; q < n; q++) {
    const at = f32x4.mul(f32x4.sub(v128.load(src), from), per), cell = f32x4.pmin(last, f32x4.pmax(s(1), f32x4.nearest(at))), t = f32x4.sub(at, cell);
    const x = f32x4.extract_lane(t, 0), y = f32x4.extract_lane(t, 1), z = f32x4.extract_lane(t, 2), low = s(parabola(x, -1)), own = s(parabola(x, 0)), high = s(parabola(x, 1));
    const first = grid + (<usize>f32x4.extract_lane(cell, 2) - 1) * plane + (<usize>f32x4.extract_lane(cell, 1) - 1) * row + ((<usize>f32x4.extract_lane(cell, 0) - 1) << 4);
    let sum = s(0);
    for (let c = -1; c <= 1; c++) {
      const deep = parabola(z, c), layer = first + <usize>(c + 1) * plane;
      for (let b = -1; b <= 1; b++) {
        const o = layer + <usize>(b + 1) * row, along = f32x4.add(f32x4.add(f32x4.mul(low, v128.load(o)), f32x4.mul(own, v128.load(o + 16))), f32x4.mul(high, v128.load(o + 32)));
        sum = f32x4.add(sum, f32x4.mul(s(deep * parabola(y, b)), along));
      }
    }
    v128.store(src, sum);
    src += 16;
  }
}
/** Log exposures of a print to its densities, in place. p: the curves' first log exposure and entries per unit. */
export function printed(src: usize, n: i32, curves: usize, last: f32, p: usize): void {
  const from = v128.load32_splat(p), per = v128.load32_splat(p + 4);
  for (let q = 0; q < n; q++, src += 16) v128.store(src, threeCurves(curves, last, f32x4.mul(f32x4.sub(v128.load(src), from), per)));
}
/** Logarithms of X, Y, Z to roots of linear red, green, blue: three numbers each, and one number more after the last. p: the matrix by columns[12]. */
export function pictured(src: usize, n: i32, p: usize, dst: usize): void {
  for (let q = 0; q < n; q++, src += 16, dst += 12) v128.store(dst, f32x4.sqrt(f32x4.pmax(s(0), columns(p, exp2(f32x4.mul(s(3.3219280949), v128.load(src)))))));
}

/** Where light stands along the axes of a stock's cube. p: number of intervals, then the places of light 32·(i / intervals)⁴, the last repeated. */
export function filmPlaces(r: usize, g: usize, b: usize, n: i32, p: usize): void {
  const last = load<f32>(p), table = p + 4;
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    v128.store(r + i, read(table, last, fourthRoot(v128.load(r + i))));
    v128.store(g + i, read(table, last, fourthRoot(v128.load(g + i))));
    v128.store(b + i, read(table, last, fourthRoot(v128.load(b + i))));
  }
}
// @ts-ignore: decorator
@inline function fourthRoot(light: v128): v128 { return f32x4.sqrt(f32x4.sqrt(f32x4.mul(f32x4.pmax(s(0), light), s(0.03125)))); }
