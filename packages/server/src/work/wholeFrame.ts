import sharp from 'sharp';
import { createHash } from 'node:crypto';
import { rm, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import type { Look } from '@dyepot/core/src/look/look.ts';
import type { RawFacts } from '@dyepot/core/src/plate/mosaic.ts';
import { halvePlate, type Plate } from '@dyepot/core/src/plate/plate.ts';
import { drawingOf, drawPlate, guideDrawing, needsGuide, originOf, wholeFor } from '@dyepot/core/src/plan/draw.ts';
import { partIsPlain, type Groundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import type { Plan } from '@dyepot/core/src/render/pass.ts';
import type { Repair } from '@dyepot/core/src/repair/repairs.ts';
import type { LookSaid } from '@dyepot/core/src/formats/xmp.ts';
import { plan, placePlan } from '@dyepot/core/src/plan/plan.ts';
import type { OwnSteps } from '@dyepot/core/src/look/worn.ts';
import { developPlanes, renderForms, type Origin } from '@dyepot/core/src/render/render.ts';
import { encodeFile, renderDepth, writtenSize, type FileSettings } from './encodeFile.ts';
import { makeFolder, writeWhole, writingError } from './files.ts';
import { decodeHashed, drawn, seedOf } from './frameAsDrawn.ts';
import { mendWhole } from './mending.ts';
import { kernels } from './ownKernels.ts';
import { beat } from './pulse.ts';
import { giveBack } from './sparePlate.ts';

type WholeFrame = Pick<DeliverTask, 'path' | 'hash' | 'look' | 'groundwork' | 'own' | 'repairs' | 'plates'>;
/** Decodes a raw and draws it at full size under its groundwork. The plate as decoded is let go when this returns: two at once are too many. */
async function drawnWhole(
  { path, hash: known, look, groundwork, own, repairs, plates }: WholeFrame,
  space: FileSettings['space'],
  place: string | null = null,
): Promise<{ plate: Plate; plan: Plan; origin: Origin; facts: RawFacts }> {
  const k = await kernels(),
    { facts, plate: decoded, hash } = await decodeHashed(path, groundwork !== null && !partIsPlain(groundwork, 'detail'), known),
    frame = drawn(decoded, facts);
  const basis = { profile: facts.profile, seed: seedOf(hash), groundwork, picture: frame, steps: own },
    p = place === null ? plan(look, basis, space) : placePlan(look, basis, space, place);
  if (!p) throw new Error(`the step “${place}” is not there or acts everywhere: it has no place of its own`);
  const guided = guideDrawing(groundwork, frame);
  beat();
  if (repairs) await mendWhole(decoded, repairs, plates && join(plates, hash));
  let small = decoded;
  if (needsGuide(p)) for (let i = 0; i < guided.level; i++) small = halvePlate(k, small);
  const about = wholeFor(k, p, { ...guided, source: { x: 0, y: 0, width: small.width, height: small.height } }, small),
    // what is held is all of the plate, of which a crop or a straightened picture needs a part
    drawing = { ...drawingOf(groundwork, frame, 0, null), source: { x: 0, y: 0, width: decoded.width, height: decoded.height } };
  return { plate: drawPlate(k, drawing, decoded), plan: p, origin: originOf(drawing, about), facts };
}
type DrawnWhole = Awaited<ReturnType<typeof drawnWhole>>;
type Pixels = Uint8Array | Uint16Array;
interface Kind {
  space: FileSettings['space'];
  depth: 8 | 16;
}
/** A drawn frame as interleaved RGB of some spaces and depths; it is developed once. */
async function rendered({ plate, plan: p, origin }: DrawnWhole, kinds: readonly Kind[]): Promise<Pixels[]> {
  const forms = kinds.map(({ space, depth }) => ({ space, form: depth === 8 ? ('rgb8' as const) : ('rgb16' as const) })),
    made = renderForms(await kernels(), p, plate, origin, forms);
  return made.map((bytes, k) => (kinds[k]!.depth === 8 ? bytes : new Uint16Array(bytes.buffer)));
}

export interface DeliverTask {
  path: string;
  hash: string | null;
  look: Look | null;
  groundwork: Groundwork | null;
  /** the frame's own steps */
  own: OwnSteps | null;
  repairs: readonly Repair[] | null;
  /** the folder of plates, where repairs may be kept */
  plates: string | null;
  /** the files to be made of it, and where each waits for its name when it is finished */
  files: readonly { settings: FileSettings; waiting: string }[];
  /** what files say of its look, where their settings ask for that */
  lookSaid?: LookSaid | null;
}
export interface Delivered {
  width: number;
  height: number;
  bytes: number;
  sha256: string;
  /** where it waits for its name */
  waiting: string;
}

/** Renders a raw file at full size, and writes the finished files where they wait for their names: all from one decoded and drawn raw. */
export async function deliver(t: DeliverTask): Promise<{ files: Delivered[]; doubt: string | null }> {
  const whole = await drawnWhole(t, t.files[0]!.settings.space),
    { width, height } = whole.plate,
    kindOf = (s: FileSettings): Kind => ({ space: s.space, depth: renderDepth(s, width, height) }),
    keyOf = (s: FileSettings): string => Object.values(kindOf(s)).join(' '),
    kinds = new Map(t.files.map((f) => [keyOf(f.settings), kindOf(f.settings)])),
    pictures = await rendered(whole, [...kinds.values()]),
    made = new Map([...kinds.keys()].map((key, k) => [key, pictures[k]!])),
    files: Delivered[] = [];
  giveBack(whole.plate);
  for (const { settings, waiting } of t.files) {
    const rest = t.files.slice(files.length).map((f) => f.settings),
      key = keyOf(settings);
    const pixels = made.get(key)!,
      later = rest.slice(1).some((s) => keyOf(s) === key);
    // the largest thing in memory: let go after the last file that needs it
    if (!later) made.delete(key);
    beat();
    const file = await encodeFile(pixels, width, height, settings, whole.facts, t.lookSaid ?? null, later);
    beat();
    makeFolder(dirname(waiting));
    try {
      await writeFile(waiting, file);
    } catch (error) {
      await rm(waiting, { force: true }).catch(() => {});
      throw writingError(error, waiting);
    }
    files.push({
      ...writtenSize(width, height, settings),
      bytes: file.length,
      sha256: createHash('sha256').update(file).digest('hex'),
      waiting,
    });
  }
  return { files, doubt: whole.facts.doubt ?? null };
}

export interface PlaceTask extends WholeFrame {
  /** the step or skein whose place is drawn */
  place: string;
  waiting: string;
}
/** Draws where a step acts on a frame, at full size, as a grey picture (PNG, 8 bits, the share itself). */
export async function drawPlace(t: PlaceTask): Promise<{ width: number; height: number; share: number }> {
  const { plate, plan: p, origin } = await drawnWhole(t, 'srgb', t.place),
    k = await kernels(),
    n = plate.width * plate.height,
    planes = developPlanes(k, p, plate, p.passes.length, origin),
    grey = Uint8Array.from({ length: n }, (_, i) => Math.round(255 * planes[i]!));
  await writeWhole(
    t.waiting,
    await sharp(grey, { raw: { width: plate.width, height: plate.height, channels: 1 } })
      .withExif({ IFD0: { Software: 'Dyepot' } })
      .png()
      .toBuffer(),
  );
  return { width: plate.width, height: plate.height, share: grey.reduce((sum, v) => sum + v, 0) / 255 / n };
}
