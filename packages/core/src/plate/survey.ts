import { apply3, type Matrix3, type Vector3 } from '../colour/matrix.ts';
import { rec2020ToOklab } from '../colour/oklab.ts';
import { plateOffset, plateScale, type Plate } from './plate.ts';

/** A small, fixed picture of the frame for what is judged of the whole: linear Rec.2020, interleaved, before any look. */
export interface Survey {
  width: number;
  height: number;
  rgb: number[];
}
const longEdge = 48;

/** Makes the survey from a small plate level by box means and the frame's scene numbers (see `sceneParameters`). */
export function makeSurvey(plate: Plate, scene: readonly number[]): Survey {
  const scale = longEdge / Math.max(plate.width, plate.height),
    width = Math.max(1, Math.round(plate.width * scale)),
    height = Math.max(1, Math.round(plate.height * scale));
  const matrix = scene.slice(5, 14) as unknown as Matrix3,
    n = plate.width * plate.height,
    rgb: number[] = [];
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const x0 = Math.floor((x * plate.width) / width),
        x1 = Math.max(x0 + 1, Math.floor(((x + 1) * plate.width) / width)),
        y0 = Math.floor((y * plate.height) / height),
        y1 = Math.max(y0 + 1, Math.floor(((y + 1) * plate.height) / height));
      const sum = [0, 0, 0];
      for (let j = y0; j < y1; j++)
        for (let i = x0; i < x1; i++) for (let c = 0; c < 3; c++) sum[c]! += plate.data[c * n + j * plate.width + i]!;
      const balanced = sum.map((v, c) => ((v / ((x1 - x0) * (y1 - y0)) - plateOffset) / plateScale) * scene[2 + c]!) as unknown as Vector3;
      rgb.push(...apply3(matrix, balanced).map((v) => Math.round(v * 1e5) / 1e5));
    }
  }
  return { width, height, rgb };
}

/** A signature of the light: mean and spread of OKLab over the survey. */
export function lightSignature(survey: Survey): number[] {
  const mean = [0, 0, 0],
    square = [0, 0, 0],
    n = survey.rgb.length / 3;
  for (let i = 0; i < n; i++) {
    const lab = rec2020ToOklab([survey.rgb[i * 3]!, survey.rgb[i * 3 + 1]!, survey.rgb[i * 3 + 2]!]);
    lab.forEach((v, k) => {
      mean[k]! += v / n;
      square[k]! += (v * v) / n;
    });
  }
  return [mean[0]!, mean[1]! * 4, mean[2]! * 4, ...square.map((v, k) => Math.sqrt(Math.max(0, v - mean[k]! ** 2)) * (k === 0 ? 1 : 4))];
}

/** Picks up to `count` frames most unlike the lead and each other (farthest-point choice over light signatures). */
export function mostDifferent<T extends { signature: number[] }>(lead: T, others: readonly T[], count: number): T[] {
  const distance = (a: T, b: T): number => Math.hypot(...a.signature.map((v, i) => v - b.signature[i]!));
  const chosen: T[] = [];
  while (chosen.length < Math.min(count, others.length)) {
    const left = others.filter((o) => !chosen.includes(o));
    chosen.push(
      left.reduce((best, o) => {
        const near = (c: T): number => Math.min(...[lead, ...chosen].map((x) => distance(x, c)));
        return near(o) > near(best) ? o : best;
      }),
    );
  }
  return chosen;
}
