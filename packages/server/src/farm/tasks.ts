import { createHash, randomBytes } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { deserialize, serialize } from 'node:v8';
import { engineVersion } from '@dyepot/core/src/plan/plan.ts';
import { dataPath } from '../places.ts';
import { PlainError } from '../plainError.ts';
import { writeWhole } from '../work/files.ts';
import type { Sent } from '../work/pool.ts';

/** What workers on other machines do: the long tasks of jobs. All else is for whoever waits before a screen. */
export const farmed = ['importRaw', 'deliver'] as const;
export type FarmedName = (typeof farmed)[number];

/** A task as it waits in Redis. */
export interface Parcel {
  name: FarmedName;
  /** the name of the file it is about */
  about: string;
  /** the data folder as the server sees it; a worker may see it elsewhere */
  data: string;
  /** the task itself (structured clone, base64) */
  task: string;
}
/** What comes back: an answer, or the sentence that ended it. */
export type Outcome = { sent: string };

/** Values with typed arrays in them, as text. */
export const pack = (value: unknown): string => serialize(value).toString('base64');
export const unpack = (text: string): unknown => deserialize(Buffer.from(text, 'base64'));
export const openOutcome = (outcome: Outcome): Sent => unpack(outcome.sent) as Sent;

/** The same task of the same item is the same job, so that what a killed server had under way is met again; any other is another. */
export const jobIdOf = (parcel: Parcel): string => createHash('sha256').update(`${parcel.name} ${parcel.task}`).digest('hex').slice(0, 32);

/** A task with every path under one folder as it is under another. */
export function moved<T>(value: T, from: string, to: string): T {
  if (from === to) return value;
  if (typeof value === 'string') return (value === from || value.startsWith(`${from}/`) ? to + value.slice(from.length) : value) as T;
  if (Array.isArray(value)) return value.map((v) => moved<unknown>(v, from, to)) as T;
  if (value === null || typeof value !== 'object' || Object.getPrototypeOf(value) !== Object.prototype) return value;
  return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, moved<unknown>(v, from, to)])) as T;
}

const nameFile = (data: string): string => join(data, 'queue-name');
/** The name of a data folder's queue: workers of another folder or another engine take nothing from it. */
const queueName = (id: string): string => `dyepot-${id}-engine-${engineVersion}`;
/** The queue of the server's own data folder, named when it first has one. */
export async function ownQueue(): Promise<string> {
  const file = nameFile(dataPath());
  if (!existsSync(file)) await writeWhole(file, Buffer.from(randomBytes(8).toString('hex')));
  return queueName(readFileSync(file, 'utf8').trim());
}
/** The queue of a shared data folder. Throws PlainError where no server with a queue has opened that folder yet. */
export function queueIn(data: string): string {
  const file = nameFile(data);
  if (!existsSync(file)) throw new PlainError(`${data} is not the data folder of a server that was started with --queue`);
  return queueName(readFileSync(file, 'utf8').trim());
}
/** Where a worker is told to stop what it does. */
export const stopChannel = (queue: string): string => `${queue}:stop`;
