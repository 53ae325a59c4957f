import { readFileSync, writeFileSync, existsSync, mkdirSync } from 'node:fs';
import { dirname } from 'node:path';
import { develop, emptyFilm } from './film.ts';
import type { Point } from './mesh.ts';
import { buildScene } from './scenes/index.ts';
import { trace } from './trace.ts';
import type { Scene } from './scene.ts';
import { prepare } from './prepared.ts';

/** Rendered light: sixteen bands per pixel, row by row; and where chart and card stand, as fractions of the picture. */
export interface Light {
  width: number;
  height: number;
  bands: Float32Array;
  kelvin: number;
  /** corners of the chart (first patch's corner first, then clockwise) and of the grey card */
  chart: { board: [number, number][]; card: [number, number][] } | null;
}

function project(scene: Scene, aspect: number, p: Point): [number, number] {
  const sub = (a: Point, b: Point): Point => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
  const norm = (a: Point): Point => {
    const l = Math.hypot(...a);
    return [a[0] / l, a[1] / l, a[2] / l];
  };
  const cr = (a: Point, b: Point): Point => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
  const d3 = (a: Point, b: Point): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
  const forward = norm(sub(scene.target, scene.eye)),
    right = norm(cr(forward, [0, 1, 0])),
    up = cr(right, forward),
    to = sub(p, scene.eye);
  const k = scene.focalMm / 24 / d3(to, forward);
  return [0.5 + (d3(to, right) * k) / aspect, 0.5 - d3(to, up) * k];
}

/** Renders a scene's light. `kelvin` null means the scene's own. Offline work: about 20 µs a sample on one core. */
export function renderLight(
  name: string,
  width: number,
  height: number,
  samples: number,
  kelvin: number | null,
  seed: number,
  progress?: (share: number) => void,
): Light {
  const built = buildScene(name, kelvin, seed);
  const film = emptyFilm(width, height);
  trace(prepare(built.scene), film, samples, seed, progress);
  const at = (c: Point, ...edges: Point[]): [number, number] =>
    project(
      built.scene,
      width / height,
      edges.reduce<Point>((p, e) => [p[0] + e[0], p[1] + e[1], p[2] + e[2]], c),
    );
  const c = built.chart;
  return {
    width,
    height,
    bands: develop(film, samples),
    kelvin: built.kelvin,
    chart: c && {
      board: [at(c.corner, c.edge2), at(c.corner, c.edge1, c.edge2), at(c.corner, c.edge1), at(c.corner)],
      card: [at(c.cardCorner, c.cardEdge2), at(c.cardCorner, c.cardEdge1, c.cardEdge2), at(c.cardCorner, c.cardEdge1), at(c.cardCorner)],
    },
  };
}

/** Rendered light kept on disk under a name, so that one rendering serves many exposures. */
export function keptLight(
  folder: string,
  name: string,
  width: number,
  height: number,
  samples: number,
  kelvin: number | null,
  seed: number,
  progress?: (share: number) => void,
): Light {
  const file = `${folder}/${name}-${width}x${height}-${samples}-${kelvin ?? 'own'}-${seed}.light`;
  if (existsSync(file)) {
    const bytes = readFileSync(file),
      split = bytes.readUInt32LE(0);
    const head = JSON.parse(bytes.subarray(4, 4 + split).toString()) as Omit<Light, 'bands'>;
    return { ...head, bands: new Float32Array(bytes.buffer.slice(bytes.byteOffset + 4 + split, bytes.byteOffset + bytes.length)) };
  }
  const light = renderLight(name, width, height, samples, kelvin, seed, progress);
  const { bands, ...rest } = light;
  const head = Buffer.from(JSON.stringify(rest).padEnd(Math.ceil(JSON.stringify(rest).length / 4) * 4));
  const size = Buffer.alloc(4);
  size.writeUInt32LE(head.length);
  mkdirSync(dirname(file), { recursive: true });
  writeFileSync(file, Buffer.concat([size, head, Buffer.from(bands.buffer)]));
  return light;
}
