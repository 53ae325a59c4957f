import type { Kernels } from '@dyepot/core/src/kernels/kernels.ts';
import { plateOffset, type Plate } from '@dyepot/core/src/plate/plate.ts';
import { mend, pieceOf, readsOf, repairPlate } from '@dyepot/core/src/repair/mend.ts';
import { straightFrom, type Repair } from '@dyepot/core/src/repair/repairs.ts';

const [width, height] = [6000, 4000];
const heal = (id: string, x: number, y: number, radius: number): Repair => ({
  id,
  kind: 'heal',
  on: true,
  shape: { kind: 'spot', x, y, radius: radius / width, feather: 0.4 },
  source: straightFrom(0.02, 0),
});
/** Milliseconds of repairs on 24 MP, warm: the least of several. */
export function repairTimes(kernels: Kernels): { name: string; ms: number; barMs: number }[] {
  const data = new Uint16Array(width * height * 3);
  for (let i = 0; i < data.length; i++) data[i] = plateOffset + 3000 + (Math.imul(i, 2654435761) >>> 22) + ((i % width) >> 3);
  const plate: Plate = { width, height, data },
    fill: Repair = {
      id: 'fill',
      kind: 'fill',
      on: true,
      shape: {
        kind: 'outline',
        points: [
          [0.4, 0.4, 0],
          [0.45, 0.4, 0],
          [0.45, 0.475, 0],
          [0.4, 0.475, 0],
        ],
      },
      source: null,
    };
  const least = (times: number, work: () => void): number =>
    Math.min(
      ...Array.from({ length: times }, () => {
        const since = performance.now();
        work();
        return performance.now() - since;
      }),
    );
  const one = (r: Repair) => (): void => {
    const reads = readsOf(r, plate)!;
    mend(kernels, r, plate, pieceOf(plate, reads.near), reads.far && pieceOf(plate, reads.far));
  };
  const many = Array.from({ length: 500 }, (_, i) =>
    heal(String(i), ((i * 37) % 500) / 540 + 0.02, ((i * 91) % 500) / 540 + 0.02, 6 + (i % 15)),
  );
  return [
    { name: 'heal a spot of 200 pixels', ms: least(15, one(heal('a', 0.5, 0.5, 100))), barMs: 30 },
    { name: '500 heals of a 24 MP plate', ms: least(4, () => repairPlate(kernels, plate, many)), barMs: 400 },
    { name: 'fill 300 × 300 pixels', ms: least(4, one(fill)), barMs: 1500 },
  ];
}
