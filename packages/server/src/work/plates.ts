import { open } from 'node:fs/promises';
import { levelSize, type Plate } from '@dyepot/core/src/plate/plate.ts';
import { levelToRead } from './files.ts';

/** A rectangle of a plate level on disk, as three planes. */
export async function readPlate(
  folder: string,
  level: number,
  full: { width: number; height: number },
  area: { x: number; y: number; width: number; height: number },
): Promise<Plate> {
  const size = levelSize(full.width, full.height, level),
    data = new Uint16Array(area.width * area.height * 3),
    n = size.width * size.height;
  const file = await open(levelToRead(folder, level), 'r');
  try {
    for (let c = 0; c < 3; c++) {
      if (area.width === size.width) {
        await file.read(
          new Uint8Array(data.buffer, c * area.width * area.height * 2, area.width * area.height * 2),
          0,
          area.width * area.height * 2,
          (c * n + area.y * size.width) * 2,
        );
        continue;
      }
      const rows = new Uint16Array(area.height * size.width);
      await file.read(new Uint8Array(rows.buffer), 0, rows.byteLength, (c * n + area.y * size.width) * 2);
      for (let j = 0; j < area.height; j++)
        data.set(rows.subarray(j * size.width + area.x, j * size.width + area.x + area.width), (c * area.height + j) * area.width);
    }
  } finally {
    await file.close();
  }
  return { width: area.width, height: area.height, data };
}
