import type { Mesh, Point } from './mesh.ts';
import type { Spectrum } from './spectrum.ts';

/** What a material says of a point: paint weights, gloss at normal incidence, roughness, share let through, bump. */
export interface Surface {
  r: number;
  g: number;
  b: number;
  gloss: number;
  roughness: number;
  through: number;
  metal: number;
  /** how far light creeps past the edge of shade (0 none), most at the red end: skin */
  wrap: number;
  spectrum: Spectrum | null;
  nx: number;
  ny: number;
  nz: number;
  glow: number;
}
export interface Spot {
  x: number;
  y: number;
  z: number;
  u: number;
  v: number;
  triangle: number;
}
export type Material = (spot: Spot, out: Surface) => void;

/** A rectangle, a ball or a far disc that gives light. Radiance is `power × spectrum`. */
export type Lamp =
  | { kind: 'window'; corner: Point; edge1: Point; edge2: Point; power: number; spectrum: Spectrum }
  | { kind: 'ball'; centre: Point; radius: number; power: number; spectrum: Spectrum }
  | { kind: 'far'; towards: Point; spread: number; power: number; spectrum: Spectrum; visible: boolean };

export interface Medium {
  /** extinction per metre at a point, and light scattered towards the viewer (paint weights of `spectrum`) */
  at(
    x: number,
    y: number,
    z: number,
    dx: number,
    dy: number,
    dz: number,
    out: { extinction: number; r: number; g: number; b: number },
  ): void;
  spectrum: Spectrum;
  reach: number;
  steps: number;
}
export interface Scene {
  mesh: Mesh;
  materials: Material[];
  lamps: Lamp[];
  sky: ((dx: number, dy: number, dz: number, out: { r: number; g: number; b: number }) => void) | null;
  skySpectrum: Spectrum;
  medium: Medium | null;
  eye: Point;
  target: Point;
  focalMm: number;
  apertureF: number;
  focusAt: Point;
  /** how strongly the lens opening is enlarged for a softer background; 1 is the true 36 × 24 mm camera */
  bounces: number;
}
