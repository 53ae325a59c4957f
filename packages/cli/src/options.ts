import { existsSync, readFileSync, statSync } from 'node:fs';
import { basename, extname, join } from 'node:path';
import { parseArgs } from 'node:util';
import type { Groundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import { readGroundwork } from '@dyepot/core/src/groundwork/schema.ts';
import { storeTable } from '@dyepot/core/src/colour/table.ts';
import type { Look } from '@dyepot/core/src/look/look.ts';
import { tableLook } from '@dyepot/core/src/look/tableLook.ts';
import { readLook, validateOwnSteps } from '@dyepot/core/src/look/schema.ts';
import type { Repair } from '@dyepot/core/src/repair/repairs.ts';
import { validateRepairs } from '@dyepot/core/src/repair/schema.ts';
import type { OwnSteps } from '@dyepot/core/src/look/worn.ts';
import { forLook, readTableFile, tableExtensions, type TableFile } from '@dyepot/server/src/work/tableFile.ts';

/** Parses options, all of them text but the flags named; throws Error in plain words. */
export function parse(
  args: string[],
  texts: string[],
  flags: string[] = ['json'],
): { values: Record<string, string | undefined>; flags: Record<string, boolean>; positionals: string[] } {
  const negative = args.map((a) => (/^-\d|^-\./.test(a) ? ` ${a}` : a));
  const { values, positionals } = parseArgs({
    args: negative,
    allowPositionals: true,
    options: Object.fromEntries([
      ...texts.map((t) => [t, { type: 'string' as const }]),
      ...flags.map((f) => [f, { type: 'boolean' as const }]),
    ]),
  });
  return { values: values as Record<string, string | undefined>, flags: values as Record<string, boolean>, positionals };
}

/** A whole number in a range, or Error. */
export function whole(text: string, name: string, min: number, max: number): number {
  const n = Number(text);
  if (!Number.isInteger(n) || n < min || n > max) throw new Error(`--${name} takes a whole number from ${min} to ${max}, not “${text}”`);
  return n;
}

/** One of some words, or Error. */
export function oneOf<T extends string>(text: string, name: string, words: readonly T[]): T {
  if (!(words as readonly string[]).includes(text)) throw new Error(`--${name} takes ${words.join(' or ')}, not “${text}”`);
  return text as T;
}

/** A file's text; Error in plain words. */
export function textOf(path: string): string {
  try {
    return readFileSync(path, 'utf8');
  } catch {
    throw new Error(`${path} cannot be read`);
  }
}

/** Whether a path names a lookup table. */
export const isTable = (path: string): boolean => tableExtensions.includes(extname(path).toLowerCase());
function bytesOf(path: string): Uint8Array {
  try {
    return readFileSync(path);
  } catch {
    throw new Error(`${path} cannot be read`);
  }
}
/** Reads a table file. */
export const tableFrom = (path: string): Promise<TableFile> => readTableFile(bytesOf(path), path);

/** Reads a look file, or a lookup table as a look; `none` is null. */
export async function lookFrom(path: string): Promise<Look | null> {
  if (path === 'none') return null;
  if (isTable(path)) {
    const { table, corrections } = await tableFrom(path);
    return tableLook(basename(path, extname(path)), storeTable(forLook(table).table), corrections[0]?.cdl ?? null);
  }
  const read = readLook(textOf(path));
  if ('message' in read) throw new Error(`${path}: ${read.message}`);
  return read.look;
}

/** Reads a groundwork file. */
export function groundworkFrom(path: string): Groundwork {
  const read = readGroundwork(textOf(path));
  if ('message' in read) throw new Error(`${path}: ${read.message}`);
  return read.groundwork;
}

/** The groundwork of a frame: one document for all, or each frame's own in a folder, as NAME.groundwork.json; null where the folder has none for it. */
export function groundworkIn(path: string, file: string): Groundwork | null {
  if (!statSync(path, { throwIfNoEntry: false })?.isDirectory()) return groundworkFrom(path);
  const own = join(path, `${basename(file, extname(file))}.groundwork.json`);
  return existsSync(own) ? groundworkFrom(own) : null;
}

/** A file's JSON; Error in plain words. */
function jsonOf(path: string): unknown {
  try {
    return JSON.parse(textOf(path));
  } catch (error) {
    if (error instanceof SyntaxError) throw new Error(`${path}: this is not JSON`);
    throw error;
  }
}
/** A frame's repairs: one document for all, or each frame's own in a folder, as NAME.repairs.json; null where the folder has none for it. */
export function repairsIn(path: string, file: string): readonly Repair[] | null {
  if (!statSync(path, { throwIfNoEntry: false })?.isDirectory()) return repairsFrom(path);
  const own = join(path, `${basename(file, extname(file))}.repairs.json`);
  return existsSync(own) ? repairsFrom(own) : null;
}
/** A frame's repairs from a file. */
function repairsFrom(path: string): readonly Repair[] {
  const read = validateRepairs(jsonOf(path));
  if ('message' in read) throw new Error(`${path}: ${read.message}`);
  return read.repairs.repairs;
}

/** A frame's own steps from a file. */
export function ownStepsFrom(path: string): OwnSteps {
  const read = validateOwnSteps(jsonOf(path));
  if ('message' in read) throw new Error(`${path}: ${read.message}`);
  return read.own;
}
