import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { mkdir } from 'node:fs/promises';
import { basename, dirname, join, relative, resolve } from 'node:path';
import { blendLooks } from '@dyepot/core/src/look/blend.ts';
import { differences } from '@dyepot/core/src/look/differences.ts';
import type { Look } from '@dyepot/core/src/look/look.ts';
import { writeLook } from '@dyepot/core/src/look/schema.ts';
import { checkLook } from '@dyepot/core/src/plan/check/check.ts';
import { dyeStrip } from '@dyepot/core/src/plan/dyestrip.ts';
import { apart, coloursOf, sameLook } from '@dyepot/core/src/plan/nearness.ts';
import { writingError } from '@dyepot/server/src/work/files.ts';
import { kernels } from '@dyepot/server/src/work/ownKernels.ts';
import {
  mostParcel,
  openLooks,
  pack,
  parcelFiles,
  sayingOf,
  unpack,
  type ParcelLook,
  type Unpacked,
} from '@dyepot/server/src/work/parcel.ts';
import { lookFrom, parse } from './options.ts';
import { writeOwn } from './writeOwn.ts';

const say = (text: string): boolean => process.stdout.write(`${text}\n`);

/** A look in a file; `none` is not one. */
async function looked(path: string): Promise<Look> {
  const look = await lookFrom(path);
  if (!look) throw new Error('none is not a look that can be taken here');
  return look;
}
/** The looks at a path: a look file, a .dyelook, or a folder as `look unpack` writes it. */
async function looksAt(path: string): Promise<Unpacked[]> {
  if (!existsSync(path)) throw new Error(`${path} is not there`);
  try {
    if (statSync(path).isDirectory()) return openLooks(filesUnder(path));
    if (path.toLowerCase().endsWith('.dyelook')) return await unpack(archiveAt(path));
  } catch (error) {
    throw new Error(`${path}: ${error instanceof Error ? error.message : ''}`);
  }
  const look = await looked(path);
  return [{ look, history: [sayingOf(look)] }];
}
function archiveAt(path: string): Buffer {
  const { size } = statSync(path);
  if (size > mostParcel) throw new Error(`it is ${(size / 1e6).toFixed(0)} MB; at most ${mostParcel / 1e6} are read`);
  return readFileSync(path);
}
function filesUnder(folder: string): Map<string, Buffer> {
  const files = new Map<string, Buffer>();
  for (const e of readdirSync(folder, { withFileTypes: true, recursive: true })) {
    const path = join(e.parentPath, e.name),
      name = relative(folder, path).replaceAll('\\', '/');
    // a version control system keeps its own files beside ours
    if (e.isFile() && !name.split('/').some((part) => part.startsWith('.'))) files.set(name, readFileSync(path));
  }
  return files;
}
const stripped = async ({ look, history }: Unpacked): Promise<ParcelLook> => ({ look, history, strip: dyeStrip(await kernels(), look) });

/** `dyepot look pack LOOK… --out FILE.dyelook [--replace]` */
async function packing(args: string[]): Promise<number> {
  const { values, flags, positionals } = parse(args, ['out'], ['replace']),
    out = values['out'];
  if (positionals.length === 0 || out === undefined) throw new Error('look pack needs looks and --out FILE.dyelook');
  const looks = (await Promise.all(positionals.map(looksAt))).flat();
  await writeOwn(resolve(out), await pack(await Promise.all(looks.map(stripped))), asked(flags));
  say(`${looks.length} ${looks.length === 1 ? 'look' : 'looks'} in ${out}`);
  return 0;
}
/** What a person made is written over only when that is asked for. */
const asked = (flags: Record<string, boolean>) => (): Promise<boolean> => Promise.resolve(flags['replace'] === true);
/** `dyepot look unpack FILE.dyelook --out DIR [--replace]`: files that are there already stay unless they are to be replaced. */
async function unpacking(args: string[]): Promise<number> {
  const { values, flags, positionals } = parse(args, ['out'], ['replace']),
    [path, ...more] = positionals,
    out = values['out'];
  if (path === undefined || more.length > 0 || out === undefined) throw new Error('look unpack needs one file and --out DIR');
  const folder = resolve(out),
    looks = await looksAt(path),
    files = await parcelFiles(await Promise.all(looks.map(stripped)));
  const other = [...files].find(([name, data]) => existsSync(join(folder, name)) && !readFileSync(join(folder, name)).equals(data));
  if (other && !flags['replace'])
    throw new Error(`${join(out, other[0])} is there already and says something else; --replace writes over it`);
  for (const [name, data] of files) {
    const file = join(folder, name);
    try {
      await mkdir(dirname(file), { recursive: true });
    } catch (error) {
      throw writingError(error, file);
    }
    await writeOwn(file, data, () => Promise.resolve(true));
  }
  for (const { look } of looks) say(look.name);
  return 0;
}
/** `dyepot look check LOOK`: the exit status is 1 where something is weak. */
async function checking(args: string[]): Promise<number> {
  const { flags, positionals } = parse(args, []),
    [path, ...more] = positionals;
  if (path === undefined || more.length > 0) throw new Error('look check needs one look');
  const look = await looked(path),
    findings = checkLook(await kernels(), look);
  if (flags['json']) say(JSON.stringify({ name: look.name, findings }, null, 2));
  else if (findings.length === 0) say(`${look.name}: nothing weak was found`);
  else for (const f of findings) say(`${f.weight === 'weak' ? 'weak ' : '     '} ${f.words}`);
  return findings.some((f) => f.weight === 'weak') ? 1 : 0;
}
/** `dyepot look diff A B` */
async function telling(args: string[]): Promise<number> {
  const { flags, positionals } = parse(args, []);
  if (positionals.length !== 2) throw new Error('look diff needs two looks');
  const [a, b] = (await Promise.all(positionals.map(looked))) as [Look, Look],
    said = differences(a, b),
    k = await kernels(),
    distance = apart(coloursOf(k, a), coloursOf(k, b));
  if (flags['json']) say(JSON.stringify({ differences: said, ciede2000: distance }, null, 2));
  else {
    for (const s of said) say(s);
    say(said.length === 0 ? 'they are the same' : `mean CIEDE2000 of the compared colours ${distance.toFixed(2)}`);
  }
  return 0;
}
/** `dyepot look blend A B --by 0.4 --out C.json` */
async function blending(args: string[]): Promise<number> {
  const { values, flags, positionals } = parse(args, ['by', 'out'], ['replace']),
    by = Number(values['by'] ?? 0.5);
  if (positionals.length !== 2 || values['out'] === undefined) throw new Error('look blend needs two looks and --out FILE.json');
  if (!(by >= 0 && by <= 1)) throw new Error(`--by takes a share from 0 to 1, not “${values['by']}”`);
  const [a, b] = (await Promise.all(positionals.map(looked))) as [Look, Look],
    { look, said } = blendLooks(a, b, by),
    out = resolve(values['out']);
  await writeOwn(out, Buffer.from(writeLook(look)), asked(flags));
  for (const s of said) say(s);
  return 0;
}
/** `dyepot look near LOOK DIR` */
async function nearing(args: string[]): Promise<number> {
  const { flags, positionals } = parse(args, []),
    [path, dir, ...more] = positionals;
  if (path === undefined || dir === undefined || more.length > 0) throw new Error('look near needs a look and a folder of looks');
  if (!existsSync(dir) || !statSync(dir).isDirectory()) throw new Error(`${dir} is not a folder`);
  const k = await kernels(),
    own = coloursOf(k, await looked(path));
  const found: { file: string; name: string; ciede2000: number; same: boolean }[] = [];
  for (const name of readdirSync(dir).sort()) {
    const file = join(dir, name);
    if (!/\.(json|dyelook)$/i.test(name)) continue;
    for (const { look } of await looksAt(file).catch(() => [])) {
      const distance = apart(own, coloursOf(k, look));
      if (resolve(file) !== resolve(path))
        found.push({ file: basename(file), name: look.name, ciede2000: distance, same: distance < sameLook });
    }
  }
  found.sort((p, q) => p.ciede2000 - q.ciede2000);
  if (flags['json']) say(JSON.stringify(found, null, 2));
  else for (const f of found) say(`${f.ciede2000.toFixed(2).padStart(6)}  ${f.name}${f.same ? '  (the same look)' : ''}  ${f.file}`);
  return 0;
}
const acts: Record<string, (args: string[]) => Promise<number>> = {
  pack: packing,
  unpack: unpacking,
  check: checking,
  diff: telling,
  blend: blending,
  near: nearing,
};
/** `dyepot look`: looks packed, unpacked, checked, compared and blended. */
export async function look([name, ...args]: string[]): Promise<number> {
  if (name === undefined || !Object.hasOwn(acts, name)) throw new Error(`look takes ${Object.keys(acts).join(', ')}`);
  return acts[name]!(args);
}
