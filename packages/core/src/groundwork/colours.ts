import type { Vector3 } from '../colour/matrix.ts';
import type { PointwisePass } from '../render/pass.ts';

/** A matrix, or a root polynomial of the second degree. */
export type CorrectionKind = 'matrix' | 'rootPolynomial';
/**
 * What puts a camera's colours right, on linear Rec.2020 after the balance: three rows of r, g, b, √rg, √gb, √br (Finlayson, Mackiewicz,
 * Hurlbert 2015); for a matrix the roots have no share. Each row sums to 1, so that greys stay. `from`: the picture whose chart says so;
 * `before` and `after`: mean CIEDE2000 of that chart's patches to their published values.
 */
export interface ColourCorrection {
  kind: CorrectionKind;
  rows: readonly number[];
  from: string;
  before: number;
  after: number;
}

/** What the rows of a correction are for: r, g, b, √rg, √gb, √br. */
export function termsOf([r, g, b]: Vector3): number[] {
  const [x, y, z] = [r, g, b].map((v) => Math.sqrt(Math.max(0, v))) as [number, number, number];
  return [r, g, b, x * y, y * z, z * x];
}
/** What a correction makes of one colour. */
export function corrected(rows: readonly number[], colour: Vector3): Vector3 {
  const terms = termsOf(colour);
  return [0, 6, 12].map((o) => terms.reduce((sum, t, i) => sum + rows[o + i]! * t, 0)) as unknown as Vector3;
}
/** The pass of a correction; none where there is none. */
export function correctionPasses(correction: ColourCorrection | null): PointwisePass[] {
  if (!correction) return [];
  const { kind, rows } = correction;
  return kind === 'matrix'
    ? [{ kernel: 'matrix', parameters: [0, 6, 12].flatMap((o) => rows.slice(o, o + 3)) }]
    : [{ kernel: 'rootPolynomial', parameters: [...rows] }];
}
