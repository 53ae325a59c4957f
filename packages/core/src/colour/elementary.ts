/*
 * Exponential and logarithm from additions, multiplications and divisions alone, which IEEE 754 fixes to the last bit: the same
 * numbers on every machine and in every browser, where Math.exp and Math.log may differ.
 */
const ln2High = 0.69314718036912381649,
  ln2Low = 1.90821492927058770002e-10,
  perLn2 = 1.442695040888963387;

/** Powers of two from 2⁻¹⁰²² to 2¹⁰²³, by doubling. */
const powers = ((): Float64Array => {
  const p = new Float64Array(2046);
  p[1022] = 1;
  for (let i = 1023; i < 2046; i++) p[i] = p[i - 1]! * 2;
  for (let i = 1021; i >= 0; i--) p[i] = p[i + 1]! / 2;
  return p;
})();

/** 1/n! and 1/n. */
const series = Float64Array.from({ length: 14 }, (_, n) => Array.from({ length: n }, (_, i) => i + 1).reduce((a, b) => a / b, 1)),
  inverse = Float64Array.from({ length: 24 }, (_, n) => 1 / n);

/** eˣ, within 2 units in the last place for −700 ≤ x ≤ 700 (clamped): Cody and Waite's reduction and a Taylor series of degree 13. */
export function exp(x: number): number {
  const v = Math.min(700, Math.max(-700, x)),
    k = Math.round(v * perLn2),
    r = v - k * ln2High - k * ln2Low;
  let sum = series[13]!;
  for (let n = 12; n >= 0; n--) sum = sum * r + series[n]!;
  return sum * powers[k + 1022]!;
}

const parts = new DataView(new ArrayBuffer(8));
/** Natural logarithm of x > 0 (a normal number), within 2 units in the last place: 2 artanh of (m − 1)/(m + 1), with x = m · 2ᵏ and m about 1. */
export function log(x: number): number {
  parts.setFloat64(0, x);
  const high = parts.getUint32(0);
  let k = (high >>> 20) - 1023;
  parts.setUint32(0, (high & 0xfffff) | 0x3ff00000);
  let m = parts.getFloat64(0);
  if (m > 1.4142135623730951) {
    m /= 2;
    k++;
  }
  const t = (m - 1) / (m + 1),
    z = t * t;
  let sum = 0;
  for (let n = 23; n > 0; n -= 2) sum = sum * z + inverse[n]!;
  return k * ln2High + (k * ln2Low + 2 * t * sum);
}
const ln10 = 2.302585092994045684;
export const exp10 = (x: number): number => exp(x * ln10);
export const log10 = (x: number): number => log(x) / ln10;
