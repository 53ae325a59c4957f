const grey = 0.18;
/** How far up, in display light, the toe reaches: it has faded to 1/e here and is gone at middle grey. */
const toeReach = 0.02;

/**
 * n, gain and κ of y = gain·xⁿ/(1 + κ·xⁿ), which is W·xⁿ/(xⁿ + k) with κ = 1/k: 0.18 stays, the white exposure
 * reaches 1, and the slope at middle grey in log-log is the contrast. With r = 2^(white·n) the slope is
 * n·(1 − 0.18)·r/(r − 1); n follows by Newton's method. At contrast 1 and white log₂(1/0.18) EV it is y = x.
 */
export function neutralCoefficients(contrast: number, whiteEv: number): { n: number; gain: number; kappa: number } {
  const least = Math.log2(1 / grey) / whiteEv;
  let n = contrast / (1 - grey);
  for (let i = 0; i < 40; i++) {
    const u = n * whiteEv * Math.LN2,
      e = Math.exp(-u);
    const value = (n * (1 - grey)) / (1 - e) - contrast;
    const slope = ((1 - grey) * (1 - e - u * e)) / (1 - e) ** 2;
    n = Math.max(1e-3, n - value / slope);
  }
  n = Math.max(n, least);
  const a = grey ** n,
    b = (grey * 2 ** whiteEv) ** n;
  const kappa = Math.max(0, grey * b - a) / ((1 - grey) * a * b);
  return { n, gain: (1 + kappa * b) / b, kappa };
}

/** What the neutral response is made of: slope at middle grey, the EV over it that reaches white, and how black begins (above 0 deep, below lifted). */
export interface Response {
  contrast: number;
  whiteEv: number;
  toe: number;
}
/** The response of a shoot that wears no look. */
export const plainResponse: Response = { contrast: 1.28, whiteEv: 3.4, toe: 0.05 };

/** Display light of scene light under a response; no more than light itself is asked to be 1 or less. */
export function responseOf({ contrast, whiteEv, toe }: Response): (light: number) => number {
  const { n, gain, kappa } = neutralCoefficients(contrast, whiteEv);
  return (light) => {
    const power = light ** n,
      y = (gain * power) / (1 + kappa * power);
    return y * (1 - toe * Math.exp(-y / toeReach));
  };
}
