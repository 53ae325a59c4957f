import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sqlite3 from 'sqlite3';
import { dataPath } from '../places.ts';
import { PlainError } from '../plainError.ts';
import { writingError } from '../work/files.ts';

interface Holder {
  process: number;
  address: string | null;
}
/** A data folder that this process alone works on. */
export interface DataLock {
  /** Notes where the server answers, for whoever comes second. */
  note(address: string): void;
  release(): Promise<void>;
}

/**
 * Takes the data folder for this process: a write lock that SQLite holds through the operating system, so that it ends with the
 * process however that ends. Throws PlainError when another process has it.
 */
export async function lockDataFolder(): Promise<DataLock> {
  const folder = dataPath(),
    holderFile = join(folder, 'running.json');
  const database = await new Promise<sqlite3.Database>((resolve, reject) => {
    const d = new sqlite3.Database(join(folder, 'running.lock'), (error) =>
      error ? reject(writingError(error, folder) as Error) : resolve(d),
    );
  });
  const ask = (sql: string): Promise<void> =>
    new Promise((resolve, reject) => database.exec(sql, (error) => (error ? reject(error) : resolve())));
  database.configure('busyTimeout', 200);
  try {
    await ask('PRAGMA journal_mode = MEMORY; BEGIN IMMEDIATE;');
  } catch (error) {
    await new Promise((resolve) => database.close(resolve));
    if (!/SQLITE_BUSY/.test(String(error))) throw writingError(error, folder);
    let holder: Holder | null = null;
    try {
      holder = JSON.parse(readFileSync(holderFile, 'utf8')) as Holder;
    } catch {
      /* it has not said where it is */
    }
    const where = holder ? `${holder.address ? `, at ${holder.address}` : ''} (process ${holder.process})` : '';
    throw new PlainError(`Dyepot already runs on ${folder}${where}; stop that first, or name another folder by DYEPOT_DATA`);
  }
  const note = (address: string | null): void => {
    try {
      writeFileSync(holderFile, JSON.stringify({ process: process.pid, address } satisfies Holder));
    } catch {
      /* a full disk: the lock holds without the note */
    }
  };
  note(null);
  return {
    note,
    release: () => new Promise((resolve) => database.close(() => resolve())),
  };
}
