import { existsSync, statSync } from 'node:fs';
import { readdir, readFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { watch as follow, type FSWatcher } from 'chokidar';
import { LookRecord, Setting } from '../db/models.ts';
import { typedPath } from '../places.ts';
import { PlainError } from '../plainError.ts';
import { sayingOf, unpack, type Unpacked } from '../work/parcel.ts';
import { writeWhole } from '../work/files.ts';
import { ServiceError } from './errors.ts';
import { followNews } from './news.ts';
import { parcelOf, sayingsOf, takeArrived } from './parcels.ts';

/** A folder of looks as pages see it. */
export interface LookFolderView {
  folder: string | null;
  /** what keeps it, or a file in it, from being taken in */
  troubles: string[];
}
export interface LookFolder {
  begin(): Promise<void>;
  view(): LookFolderView;
  /** Keeps the shelf and a folder the same from now on; null: no more. */
  set(folder: string | null): Promise<LookFolderView>;
  close(): void;
}
const name = 'look-folder';
/** A file is whole when its size has not changed for so long; what changes together is looked at together. In milliseconds. */
const settledMs = 800,
  gatherMs = 300;
const isParcel = (file: string): boolean => /\.dyelook$/i.test(file) && !basename(file).startsWith('.');

/** A look's file name: its name without what no file name can hold. */
const fileNameOf = (look: string): string =>
  look
    .replace(/[^\p{L}\p{N} ,.()+-]/gu, '-')
    .replace(/^[. ]+|[. ]+$/g, '')
    .slice(0, 80) || 'look';

/**
 * Keeps the shelf and a folder of .dyelook files the same, so that a studio's machines have the same looks: what arrives there
 * comes onto the shelf (as a look of its own, or as the next revision of the one it goes on from), and what is saved here is
 * put there. Nothing is written over that says anything else: of two who went on from one look, both are kept.
 */
export function openLookFolder(): LookFolder {
  let folder: string | null = null,
    watcher: FSWatcher | null = null,
    timer: NodeJS.Timeout | undefined,
    turn: Promise<void> = Promise.resolve(),
    closing = false;
  const troubles = new Map<string, string>(),
    /** what files said when they were last read, by path and time */
    known = new Map<string, { stamp: string; sayings: string[] }>(),
    /** what looks of the shelf say and have said, by look and revision: only what was saved since is looked at */
    said = new Map<string, Awaited<ReturnType<typeof sayingsOf>>>();

  const stampOf = (file: string): string | null => {
    const s = statSync(file, { throwIfNoEntry: false });
    return s?.isFile() ? `${s.size} ${s.mtimeMs}` : null;
  };
  /** What the files of the folder say now; what is new of it comes onto the shelf. */
  async function takeIn(at: string): Promise<void> {
    const files = (await readdir(at)).filter(isParcel).map((f) => join(at, f)),
      arrived: Unpacked[] = [];
    for (const gone of [...known.keys()].filter((f) => !files.includes(f))) known.delete(gone);
    for (const file of files) {
      const stamp = stampOf(file);
      if (stamp === null || known.get(file)?.stamp === stamp) continue;
      try {
        const looks = await unpack(await readFile(file));
        known.set(file, { stamp, sayings: looks.map((l) => sayingOf(l.look)) });
        arrived.push(...looks);
        troubles.delete(file);
      } catch (error) {
        troubles.set(file, `${basename(file)}: ${error instanceof Error ? error.message : String(error)}`);
        known.set(file, { stamp, sayings: [] });
      }
    }
    // what was put there from here is nothing new
    const own = new Set([...said.values()].flatMap((s) => s?.all ?? [])),
      fresh = arrived.filter((l) => !own.has(sayingOf(l.look)));
    if (fresh.length > 0) await takeArrived(fresh);
  }
  /** Puts into the folder what the shelf has and it has not. */
  async function putOut(at: string): Promise<void> {
    const there = new Set([...known.values()].flatMap((f) => f.sayings)),
      records = await LookRecord.findAll({ attributes: ['id', 'name', 'revision'], order: [['id', 'ASC']] }),
      keys = new Set(records.map((r) => `${r.id} ${r.revision}`));
    for (const gone of [...said.keys()].filter((k) => !keys.has(k))) said.delete(gone);
    for (const { id, name: look, revision } of records) {
      const key = `${id} ${revision}`;
      if (!said.has(key)) said.set(key, await sayingsOf(id));
      const own = said.get(key);
      if (!own || there.has(own.now)) continue;
      const { data } = await parcelOf([id]);
      for (let k = 1; ; k++) {
        const file = join(at, `${fileNameOf(look)}${k === 1 ? '' : ` ${k}`}.dyelook`),
          before = known.get(file);
        // it has changed since it was read: first it is read again
        if (before && before.stamp !== stampOf(file)) {
          gather();
          break;
        }
        // only what this look went on from gives way to it
        const mayReplace = before ? before.sayings.length === 1 && own.all.includes(before.sayings[0]!) : !existsSync(file);
        if (!mayReplace) continue;
        await writeWhole(file, data);
        known.set(file, { stamp: stampOf(file) ?? '', sayings: [own.now] });
        there.add(own.now);
        break;
      }
    }
  }
  const gather = (): void => {
    if (closing || folder === null) return;
    timer ??= setTimeout(() => {
      timer = undefined;
      turn = turn
        .then(async () => {
          const at = folder;
          if (closing || at === null) return;
          if (!existsSync(at)) throw new PlainError(`${at} is not there; it is looked at again when it is`);
          await takeIn(at);
          await putOut(at);
          troubles.delete('');
        })
        .catch((error: unknown) => void (closing || troubles.set('', error instanceof Error ? error.message : String(error))));
    }, gatherMs);
  };
  const leave = followNews((news) => {
    if (news.kind === 'looks') gather();
  });
  function start(at: string): void {
    watcher = follow(at, {
      depth: 0,
      ignored: (path, stats) => stats?.isFile() === true && !isParcel(path),
      awaitWriteFinish: { stabilityThreshold: settledMs, pollInterval: 100 },
    });
    watcher.on('all', gather);
    watcher.on('ready', gather);
    watcher.on('error', (error) => troubles.set('', error instanceof Error ? error.message : String(error)));
  }
  const view = (): LookFolderView => ({ folder, troubles: [...troubles.values()] });
  const end = (): void => {
    clearTimeout(timer);
    timer = undefined;
    void watcher?.close();
    watcher = null;
    troubles.clear();
    known.clear();
    said.clear();
  };
  return {
    view,
    async begin() {
      const kept = (await Setting.findByPk(name))?.value;
      if (typeof kept !== 'string' || kept === '') return;
      folder = kept;
      start(kept);
    },
    async set(typed) {
      const at = typed === null ? null : typedPath(typed);
      if (at !== null && !statSync(at, { throwIfNoEntry: false })?.isDirectory())
        throw new ServiceError(400, `${at} is not a folder on this machine`);
      await Setting.upsert({ name, value: at ?? '' });
      end();
      folder = at;
      if (at !== null) start(at);
      return view();
    },
    close() {
      closing = true;
      leave();
      end();
    },
  };
}
