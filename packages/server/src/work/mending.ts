import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import type { Area, Size } from '@dyepot/core/src/plate/area.ts';
import { boxOf } from '@dyepot/core/src/repair/cover.ts';
import { dustEdge, dustPicture, specksIn, type Speck } from '@dyepot/core/src/repair/dust.ts';
import { layInto, mend, readsOf, repairPlate, type Piece } from '@dyepot/core/src/repair/mend.ts';
import { mending, type Repair, type RepairKind, type Shape } from '@dyepot/core/src/repair/repairs.ts';
import { findSource, soughtIn, soughtRadius } from '@dyepot/core/src/repair/source.ts';
import { halvePlate, levelSize, plateLevels, type Plate } from '@dyepot/core/src/plate/plate.ts';
import { makeFolder, writeWhole } from './files.ts';
import { kernels } from './ownKernels.ts';
import { readPlate } from './plates.ts';
import { beat } from './pulse.ts';

/** A repair that is done, kept on disk beside the plates: its box at full size, whole pixels of every smaller level. */
export interface Patch {
  file: string;
  box: Area;
}
const meets = (a: Area, b: Area | null): boolean =>
  b !== null && a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;

/** Where the repairs of a plate are kept, in their order; each is named by what it is and by those before it that it reads. */
export function patchesOf(folder: string, full: Size, repairs: readonly Repair[]): Patch[] {
  const laid: { box: Area; key: string; file: string }[] = [];
  for (const repair of repairs) {
    const reads = readsOf(repair, full);
    if (!reads) continue;
    const { kind, shape, source } = repair,
      { box } = reads,
      before = laid.filter((l) => meets(l.box, reads.near) || meets(l.box, reads.far)).map((l) => l.key),
      key = createHash('sha256')
        .update(JSON.stringify([mending, full.width, full.height, kind, shape, source, before]))
        .digest('hex')
        .slice(0, 24);
    laid.push({ box, key, file: join(folder, `mend-${key}.u16`) });
  }
  return laid.map(({ box, file }) => ({ box, file }));
}

/** Patches used lately, as far as they take so many bytes together. */
const lately = new Map<string, Plate>(),
  mostBytes = 48e6;
let keptBytes = 0;
/** A patch at a level. */
async function patchAt({ file, box }: Patch, level: number): Promise<Piece> {
  const key = `${file} ${level}`;
  let plate = lately.get(key);
  if (!plate) {
    const bytes = await readFile(file);
    plate = {
      width: box.width,
      height: box.height,
      data: new Uint16Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length)),
    };
    if (plate.data.length !== box.width * box.height * 3) throw new Error(`${file} is not whole`);
    for (let l = 0; l < level; l++) plate = halvePlate(await kernels(), plate);
    lately.set(key, plate);
    keptBytes += plate.data.byteLength;
    for (const [old, p] of lately) {
      if (keptBytes <= mostBytes) break;
      lately.delete(old);
      keptBytes -= p.data.byteLength;
    }
  }
  return { x: box.x >> level, y: box.y >> level, ...plate };
}
/** A rectangle of a plate level on disk, with the repairs done that lie in it. */
export async function readMended(folder: string, level: number, full: Size, area: Area, patches: readonly Patch[]): Promise<Plate> {
  const plate = await readPlate(folder, level, full, area),
    piece: Piece = { ...area, data: plate.data };
  for (const patch of patches) {
    const { x, y, width, height } = patch.box;
    if (meets({ x: x >> level, y: y >> level, width: (width >> level) + 1, height: (height >> level) + 1 }, area))
      layInto(piece, await patchAt(patch, level));
  }
  return plate;
}
/** Does repairs on a whole plate: those kept beside the plates are laid in, else all are done anew; the bytes are the same. Changes the plate. */
export async function mendWhole(plate: Plate, repairs: readonly Repair[], folder: string | null): Promise<void> {
  const patches = folder ? patchesOf(folder, plate, repairs) : [];
  if (patches.length === 0 || !patches.every((p) => existsSync(p.file))) {
    repairPlate(await kernels(), plate, repairs, beat);
    return;
  }
  const whole: Piece = { x: 0, y: 0, ...plate };
  for (const patch of patches) {
    layInto(whole, await patchAt(patch, 0));
    beat();
  }
}
/** Does those repairs of a plate that are not kept on disk yet. The full level has to be there. */
export async function mendFrame({ folder, full, repairs }: { folder: string; full: Size; repairs: readonly Repair[] }): Promise<void> {
  makeFolder(folder);
  const some = repairs.filter((r) => readsOf(r, full) !== null),
    patches = patchesOf(folder, full, some);
  for (const [i, repair] of some.entries()) {
    const { file } = patches[i]!;
    if (existsSync(file)) continue;
    const reads = readsOf(repair, full)!,
      piece = async (a: Area): Promise<Piece> => ({ ...a, data: (await readMended(folder, 0, full, a, patches.slice(0, i))).data }),
      done = mend(await kernels(), repair, full, await piece(reads.near), reads.far && (await piece(reads.far)), beat);
    beat();
    if (done) await writeWhole(file, new Uint8Array(done.data.buffer));
  }
}

/** Where something could be taken from that covers a shape; `nth` counts from 0. */
export async function seekSource(t: {
  folder: string;
  full: Size;
  shape: Shape;
  kind: RepairKind;
  nth: number;
  patches: readonly Patch[];
}): Promise<{ dx: number; dy: number } | null> {
  const box = boxOf(t.shape, t.full);
  if (!box) return null;
  const thick = 'radius' in t.shape ? t.shape.radius * Math.max(t.full.width, t.full.height) : Math.min(box.width, box.height) / 2;
  let level = 0;
  while (level < plateLevels - 2 && thick / 2 ** (level + 1) >= soughtRadius * 0.75) level++;
  const size = levelSize(t.full.width, t.full.height, level),
    area = soughtIn(t.shape, size);
  if (!area) return null;
  const plate = await readMended(t.folder, level, t.full, area, t.patches);
  return findSource({ ...area, data: plate.data }, size, t.shape, t.kind, t.nth);
}

/** The level dust is looked for at. */
function dustLevel({ width, height }: Size): number {
  let level = 0;
  while (level < plateLevels - 1 && Math.max(width, height) >> level > dustEdge) level++;
  return level;
}
/** Specks of dust in a frame whose plates are on disk; places of the plate as it lies. */
export async function seekDust(t: { folder: string; full: Size; least: number }): Promise<Speck[]> {
  const level = dustLevel(t.full),
    plate = await readPlate(t.folder, level, t.full, { x: 0, y: 0, ...levelSize(t.full.width, t.full.height, level) });
  beat();
  return specksIn(plate, t.least);
}
/** How many codes of grey an EV darker or lighter than what lies round it is drawn as. */
const codesPerEv = 420;
/** A frame as it lies, made to show dust, with its repairs done: a grey PNG. */
export async function drawDust(t: { folder: string; full: Size; patches: readonly Patch[] }): Promise<Uint8Array> {
  const level = dustLevel(t.full),
    size = levelSize(t.full.width, t.full.height, level),
    plate = await readMended(t.folder, level, t.full, { x: 0, y: 0, ...size }, t.patches);
  beat();
  const grey = Uint8ClampedArray.from(dustPicture(plate), (ev) => 128 + codesPerEv * ev);
  return sharp(grey, { raw: { ...size, channels: 1 } })
    .png({ compressionLevel: 3 })
    .toBuffer();
}
