import { createHash } from 'node:crypto';
import sharp from 'sharp';
import { ZipArchive } from 'archiver';
import Joi from 'joi';
import { fromBuffer, type Entry, type ZipFile } from 'yauzl';
import { fileName, freeName, putTogether, takeApart } from '@dyepot/core/src/look/parts.ts';
import type { Look } from '@dyepot/core/src/look/look.ts';
import { validateLook, writeLook } from '@dyepot/core/src/look/schema.ts';
import { PlainError } from '../plainError.ts';

/** A look on its way to others, with the SHA-256 of what it and its earlier revisions say, oldest first, its own last. */
export interface ParcelLook {
  look: Look;
  history: string[];
  /** its dye strip, for the preview */
  strip: readonly string[];
}
/** A look out of a parcel. */
export type Unpacked = Pick<ParcelLook, 'look' | 'history'>;

interface Manifest {
  format: 'dyepot-looks';
  version: 1;
  looks: { folder: string; name: string; history: string[] }[];
  /** SHA-256 of each file but this */
  files: Record<string, string>;
}
/** Bounds of a parcel: its files, one of them, all together unpacked, and the looks in it. */
const mostFiles = 20_000,
  mostBytes = 64e6,
  mostTogether = 512e6,
  mostLooks = 5000;
export const mostParcel = 256e6;

const hex = Joi.string().pattern(/^[0-9a-f]{64}$/);
const folder = Joi.string().pattern(/^[a-z0-9-]{1,70}$/);
const manifestSchema = Joi.object<Manifest>({
  format: Joi.valid('dyepot-looks').required(),
  version: Joi.number().valid(1).required(),
  looks: Joi.array()
    .items(
      Joi.object({
        folder: folder.required(),
        name: Joi.string().max(80).required(),
        history: Joi.array().items(hex).max(10_000).required(),
      }),
    )
    .min(1)
    .max(mostLooks)
    .unique('folder')
    .required(),
  files: Joi.object().pattern(Joi.string().max(200), hex).required(),
});

const sha256 = (data: Uint8Array | string): string => createHash('sha256').update(data).digest('hex');
/** What a look says, as one number: the same for the same document whatever shelf it stands on. */
export const sayingOf = (look: Look): string => sha256(writeLook(look));
const jsonOf = (value: unknown): Buffer => Buffer.from(`${JSON.stringify(value, null, 2)}\n`);

/** The files of some looks, by their names in order: a folder for each, and the manifest first. */
export async function parcelFiles(looks: readonly ParcelLook[]): Promise<Map<string, Buffer>> {
  const files = new Map<string, Buffer>(),
    folders = new Map<string, ParcelLook>();
  const sorted = [...looks].sort((p, q) =>
    p.look.name < q.look.name ? -1 : p.look.name > q.look.name ? 1 : sayingOf(p.look) < sayingOf(q.look) ? -1 : 1,
  );
  for (const l of sorted) folders.set(freeName(fileName(l.look.name), '', folders), l);
  for (const [name, { look, strip }] of folders) {
    // as it is written in a file of its own: keys in one order
    const { look: bare, parts } = takeApart(JSON.parse(writeLook(look)) as Look);
    files.set(`${name}/look.json`, jsonOf(bare));
    for (const [file, part] of parts) files.set(`${name}/${file}`, jsonOf(part));
    if (strip.length > 0) files.set(`${name}/preview.png`, await previewOf(strip));
  }
  const ordered = [...files].sort(([a], [b]) => (a < b ? -1 : 1));
  const manifest: Manifest = {
    format: 'dyepot-looks',
    version: 1,
    looks: [...folders].map(([f, { look, history }]) => ({ folder: f, name: look.name, history })),
    files: Object.fromEntries(ordered.map(([name, data]) => [name, sha256(data)])),
  };
  return new Map([['manifest.json', jsonOf(manifest)], ...ordered]);
}
/** A look's dye strip as a picture. */
async function previewOf(strip: readonly string[]): Promise<Buffer> {
  const [width, height] = [32, 64],
    data = Buffer.alloc(strip.length * width * height * 3);
  for (let y = 0, o = 0; y < height; y++)
    for (const chip of strip)
      for (let x = 0; x < width; x++) for (let c = 0; c < 3; c++) data[o++] = Number.parseInt(chip.slice(1 + c * 2, 3 + c * 2), 16);
  return sharp(data, { raw: { width: strip.length * width, height, channels: 3 } })
    .png({ compressionLevel: 9 })
    .toBuffer();
}

/** Times in an archive are all alike, so that the same looks give the same bytes. */
const date = new Date(Date.UTC(1980, 0, 1));
/** One file of some looks: the same looks give the same bytes. */
export async function pack(looks: readonly ParcelLook[]): Promise<Buffer> {
  const zip = new ZipArchive({ zlib: { level: 9 } }),
    chunks: Buffer[] = [];
  zip.on('data', (chunk: Buffer) => chunks.push(chunk));
  const ended = new Promise<void>((resolve, reject) => {
    zip.once('end', resolve);
    zip.once('error', reject);
  });
  for (const [name, data] of await parcelFiles(looks)) zip.append(data, { name, date, mode: 0o644 });
  await zip.finalize();
  await ended;
  return Buffer.concat(chunks);
}

/** Reads a .dyelook: its looks, checked. Throws PlainError with what is wrong and where; memory stays within the bounds above. */
export async function unpack(archive: Buffer): Promise<Unpacked[]> {
  return sealedLooks(await filesIn(archive));
}
/**
 * The looks of a folder, which people and version control systems may have changed since it was written: each as it is now, after
 * what the manifest says of its history, where there is one. Files that belong to no look are passed over.
 */
export function openLooks(files: ReadonlyMap<string, Buffer>): Unpacked[] {
  const known = files.has('manifest.json') ? manifestOf(files.get('manifest.json')).looks : [],
    folders = [...files.keys()].flatMap((name) => (name.endsWith('/look.json') ? [name.slice(0, -'/look.json'.length)] : [])).sort();
  if (folders.length === 0) throw new PlainError('there is no look in it: a look lies in a folder of its own, as look.json');
  if (folders.length > mostLooks) throw new PlainError(`it holds ${folders.length} looks; at most ${mostLooks} are read`);
  return folders.map((f) => {
    const look = lookIn(files, f),
      history = known.find((l) => l.folder === f)?.history ?? [];
    return { look, history: [...new Set([...history, sayingOf(look)])] };
  });
}
/** The looks of files that came out of an archive: nothing of it may be other than its manifest says. */
function sealedLooks(files: ReadonlyMap<string, Buffer>): Unpacked[] {
  const manifest = manifestOf(files.get('manifest.json'));
  for (const [name, wanted] of Object.entries(manifest.files)) {
    const data = files.get(name);
    if (!data) throw new PlainError(`${name} is named in the manifest and is not there`);
    if (sha256(data) !== wanted)
      throw new PlainError(`${name} is not what the manifest says (SHA-256 differs): it was changed or damaged on its way`);
  }
  const stray = [...files.keys()].find((name) => name !== 'manifest.json' && !Object.hasOwn(manifest.files, name));
  if (stray !== undefined) throw new PlainError(`${stray} is not named in the manifest`);
  return manifest.looks.map(({ folder: f, history }) => ({ look: lookIn(files, f), history }));
}
function manifestOf(data: Buffer | undefined): Manifest {
  if (!data) throw new PlainError('there is no manifest.json in it: this is not a file of looks');
  const value = parsed(data, 'manifest.json'),
    { version } = (value ?? {}) as { version?: unknown };
  if (typeof version === 'number' && version > 1) throw new PlainError(`it is of version ${version}; this Dyepot reads version 1`);
  const read = manifestSchema.validate(value, { convert: false });
  if (read.error) throw new PlainError(`manifest.json: ${read.error.message}`);
  return read.value;
}
function lookIn(files: ReadonlyMap<string, Buffer>, name: string): Look {
  const own = (file: string): unknown => {
    const data = files.get(`${name}/${file}`);
    if (!data) throw new PlainError(`${name}/look.json names ${file.slice(0, 80)}, which is not there`);
    return parsed(data, `${name}/${file}`);
  };
  const bare = own('look.json');
  if (typeof bare !== 'object' || bare === null) throw new PlainError(`${name}/look.json is not a look`);
  const read = validateLook(putTogether(bare, own));
  if ('message' in read) throw new PlainError(`${name}/look.json: ${read.message}`);
  return read.look;
}
function parsed(data: Buffer, name: string): unknown {
  try {
    return JSON.parse(data.toString('utf8'));
  } catch {
    throw new PlainError(`${name} is not JSON`);
  }
}
const safeName = /^(manifest\.json|[a-z0-9-]{1,70}\/[a-z0-9-]{1,70}(\.[a-z]{1,10}){1,2})$/;
/** An archive's files; folders in it are passed over. */
async function filesIn(archive: Buffer): Promise<Map<string, Buffer>> {
  const zip = await new Promise<ZipFile>((resolve, reject) =>
    fromBuffer(archive, { lazyEntries: true, strictFileNames: true, validateEntrySizes: false }, (error, z) =>
      error ? reject(new PlainError(`it is not an archive that can be read: ${error.message}`)) : resolve(z),
    ),
  );
  if (zip.entryCount > mostFiles) throw new PlainError(`it holds ${zip.entryCount} files; at most ${mostFiles} are read`);
  const files = new Map<string, Buffer>();
  let together = 0;
  return new Promise((resolve, reject) => {
    const fail = (error: unknown): void => {
      zip.close();
      reject(
        error instanceof PlainError
          ? error
          : new PlainError(`it cannot be read: ${error instanceof Error ? error.message : 'it is damaged'}`),
      );
    };
    zip.on('error', fail);
    zip.on('end', () => resolve(files));
    zip.on('entry', (entry: Entry) => {
      const wrong = refusal(entry, files);
      together += entry.uncompressedSize;
      if (wrong !== null) return fail(new PlainError(wrong));
      if (together > mostTogether) return fail(new PlainError(`unpacked it would be over ${mostTogether / 1e6} MB`));
      if (entry.fileName.endsWith('/')) return zip.readEntry();
      contentOf(zip, entry).then((data) => {
        files.set(entry.fileName, data);
        zip.readEntry();
      }, fail);
    });
    zip.readEntry();
  });
}
/** Why a file of an archive is not read; null where it is. */
function refusal(entry: Entry, files: ReadonlyMap<string, Buffer>): string | null {
  const name = JSON.stringify(entry.fileName.slice(0, 120)),
    sort = (entry.externalFileAttributes >>> 28) & 0xf;
  if (sort === 0xa) return `${name} is a link; a file of looks has none`;
  if ((entry.generalPurposeBitFlag & 1) !== 0) return `${name} is locked by a password`;
  if (entry.fileName.endsWith('/')) return /^[a-z0-9-]{1,70}\/$/.test(entry.fileName) ? null : `${name} is not a name a file of looks has`;
  if (!safeName.test(entry.fileName)) return `${name} is not a name a file of looks has`;
  if (files.has(entry.fileName)) return `${name} is there twice`;
  if (entry.uncompressedSize > mostBytes)
    return `${name} would be ${(entry.uncompressedSize / 1e6).toFixed(0)} MB; at most ${mostBytes / 1e6} are read`;
  return null;
}
/** A file's bytes; more than it says it has are not taken. */
const contentOf = (zip: ZipFile, entry: Entry): Promise<Buffer> =>
  new Promise((resolve, reject) =>
    zip.openReadStream(entry, (error, stream) => {
      if (error) return reject(error);
      const chunks: Buffer[] = [];
      let bytes = 0;
      stream.on('data', (chunk: Buffer) => {
        bytes += chunk.length;
        chunks.push(chunk);
        if (bytes <= entry.uncompressedSize) return;
        stream.destroy();
        reject(new PlainError(`${JSON.stringify(entry.fileName)} is larger than the archive says: it is damaged or made to do harm`));
      });
      stream.on('error', reject);
      // an end without an end: of no effect where it was read through
      stream.on('close', () => reject(new PlainError(`${JSON.stringify(entry.fileName)} breaks off`)));
      stream.on('end', () =>
        bytes === entry.uncompressedSize
          ? resolve(Buffer.concat(chunks))
          : reject(new PlainError(`${JSON.stringify(entry.fileName)} is shorter than the archive says`)),
      );
    }),
  );
