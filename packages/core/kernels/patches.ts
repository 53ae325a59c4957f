// Patches of 7 × 7 places most like others, by PatchMatch (Barnes, Shechtman, Finkelstein and Goldman 2009). Three planes of width ×
// height, one after the other, with room for four more behind the last.

const half: i32 = 3;
/** Squares of what two patches differ by, in sum; given up where it passes `most`. Places outside the picture count for nothing. */
function apart(planes: usize, width: i32, height: i32, ax: i32, ay: i32, b: i32, most: f32): f32 {
  const plane = <usize>(width * height) << 2, bx = b % width, by = b / width, left = max<i32>(-half, -ax), right = min<i32>(half, width - 1 - ax), whole = left == -half && right == half, seven = i32x4(-1, -1, -1, 0);
  let sum: f32 = 0;
  for (let v: i32 = max<i32>(-half, -ay); v <= min<i32>(half, height - 1 - ay); v++) {
    let i = planes + (<usize>((ay + v) * width + ax + left) << 2), k = planes + (<usize>((by + v) * width + bx + left) << 2);
    if (whole) {
      let squares = f32x4.splat(0);
      for (let c = 0; c < 3; c++) {
        const low = f32x4.sub(v128.load(i), v128.load(k)), high = v128.and(seven, f32x4.sub(v128.load(i + 16), v128.load(k + 16)));
        squares = f32x4.add(squares, f32x4.add(f32x4.mul(low, low), f32x4.mul(high, high)));
        i += plane;
        k += plane;
      }
      sum += (f32x4.extract_lane(squares, 0) + f32x4.extract_lane(squares, 1)) + (f32x4.extract_lane(squares, 2) + f32x4.extract_lane(squares, 3));
    } else {
      for (let c = 0; c < 3; c++) {
        for (let u: usize = 0; u <= <usize>(right - left); u++) {
          const d = load<f32>(i + (u << 2)) - load<f32>(k + (u << 2));
          sum += d * d;
        }
        i += plane;
        k += plane;
      }
    }
    if (sum > most) return sum;
  }
  return sum;
}
/** The next of a row of numbers that look random and are the same on every machine, from 0 to below 1 (xorshift, Marsaglia 2003). */
function random(state: usize): f64 {
  let v = load<u32>(state);
  v ^= v << 13;
  v ^= v >>> 17;
  v ^= v << 5;
  store<u32>(state, v);
  return <f64>v / 4294967296.0;
}
/** What each of some places costs that is matched as the field says. */
export function patchCosts(planes: usize, width: i32, height: i32, targets: usize, count: i32, field: usize, cost: usize): void {
  for (let n: i32 = 0; n < count; n++) {
    const i = load<i32>(targets + (<usize>n << 2)), at = <usize>i << 2;
    store<f32>(cost + at, apart(planes, width, height, i % width, i / width, load<i32>(field + at), Infinity));
  }
}
/**
 * One pass over places, forwards or backwards: what serves a neighbour, and what chance finds nearer and nearer from `wander` on, is
 * taken where it is more like. fits: a byte for each place a patch may be taken from; field: where each place's patch lies, −1 for none.
 */
export function patchPass(planes: usize, width: i32, height: i32, fits: usize, targets: usize, count: i32, field: usize, cost: usize, backwards: bool, wander: f64, state: usize): void {
  const way = backwards ? -1 : 1, all = width * height;
  for (let n: i32 = 0; n < count; n++) {
    const i = load<i32>(targets + (<usize>(backwards ? count - 1 - n : n) << 2)), at = <usize>i << 2, x = i % width, y = i / width;
    let own = load<i32>(field + at), least = load<f32>(cost + at);
    // one further than where the neighbour's lies
    for (let beside = 0; beside < 2; beside++) {
      const step = beside == 0 ? way : way * width, from = i - step;
      if (beside == 0 ? x - way < 0 || x - way >= width : from < 0 || from >= all) continue;
      const theirs = load<i32>(field + (<usize>from << 2)), k = theirs + step;
      if (theirs < 0 || k < 0 || k >= all || k == own || !load<u8>(fits + <usize>k)) continue;
      const c = apart(planes, width, height, x, y, k, least);
      if (c < least) { least = c; own = k; }
    }
    const bx = <f64>(own % width), by = <f64>(own / width);
    for (let r = wander; r >= 1; r /= 3) {
      const u = <i32>Math.floor(bx + (random(state) * 2 - 1) * r + 0.5), v = <i32>Math.floor(by + (random(state) * 2 - 1) * r + 0.5);
      if (u < 0 || u >= width || v < 0 || v >= height) continue;
      const k = v * width + u;
      if (k == own || !load<u8>(fits + <usize>k)) continue;
      const c = apart(planes, width, height, x, y, k, least);
      if (c < least) { least = c; own = k; }
    }
    store<i32>(field + at, own);
    store<f32>(cost + at, least);
  }
}
/**
 * What the patches over each of some places say it is, each as much as `says` has it (0 for none). dst: three planes of `count` numbers.
 */
export function patchVote(planes: usize, width: i32, height: i32, targets: usize, count: i32, field: usize, says: usize, dst: usize): void {
  const plane = <usize>(width * height) << 2, room = <usize>count << 2;
  for (let n: i32 = 0; n < count; n++) {
    const i = load<i32>(targets + (<usize>n << 2)), x = i % width, y = i / width;
    let weights: f32 = 0, red: f32 = 0, green: f32 = 0, blue: f32 = 0;
    for (let v = max<i32>(-half, -y); v <= min<i32>(half, height - 1 - y); v++)
      for (let u = max<i32>(-half, -x); u <= min<i32>(half, width - 1 - x); u++) {
        const k = <usize>(i + v * width + u) << 2, w = load<f32>(says + k);
        if (w == 0) continue;
        const from = planes + (<usize>(load<i32>(field + k) - v * width - u) << 2);
        weights += w;
        red += w * load<f32>(from);
        green += w * load<f32>(from + plane);
        blue += w * load<f32>(from + 2 * plane);
      }
    const to = dst + (<usize>n << 2);
    store<f32>(to, red / weights);
    store<f32>(to + room, green / weights);
    store<f32>(to + 2 * room, blue / weights);
  }
}
