import { createInterface } from 'node:readline/promises';
import { Writable } from 'node:stream';
import { text } from 'node:stream/consumers';
import { openDatabase } from '@dyepot/server/src/db/database.ts';
import * as people from '@dyepot/server/src/people/people.ts';
import { oneOf, parse } from './options.ts';

/** A password: typed twice without being shown, or the first line of what is piped in. */
async function askPassword(): Promise<string> {
  if (!process.stdin.isTTY) return (await text(process.stdin)).split(/\r?\n/)[0]!;
  const unseen = createInterface({ input: process.stdin, output: new Writable({ write: (_c, _e, done) => done() }), terminal: true });
  const ask = async (words: string): Promise<string> => {
    process.stderr.write(words);
    const typed = await unseen.question('');
    process.stderr.write('\n');
    return typed;
  };
  const [once, again] = [await ask('Password: '), await ask('Once more: ')];
  unseen.close();
  if (once !== again) throw new Error('the two are not the same');
  return once;
}

/** `dyepot people …`: who may log in where Dyepot is met from other machines. */
export async function managePeople(args: string[]): Promise<number> {
  const [what, ...rest] = args,
    { values, flags, positionals } = parse(rest, ['role'], ['json']),
    name = positionals[0]?.trim();
  if (what !== 'list' && (!name || positionals.length !== 1)) throw new Error(`people ${what ?? ''} takes one name`);
  if (name && [...name].length > 80) throw new Error('a name has at most 80 letters');
  const database = await openDatabase();
  try {
    if (what === 'list') {
      const all = await people.listPeople();
      if (flags['json']) console.log(JSON.stringify(all));
      else for (const p of all) console.log(`${p.name}  may ${p.role}${p.seenAt ? `, last seen ${p.seenAt.toISOString()}` : ''}`);
    } else if (what === 'add') {
      const role = oneOf(values['role'] ?? 'change', 'role', ['look', 'change'] as const);
      await people.addPerson({ name: name!, role, password: await askPassword() });
      console.log(`${name} may log in, and ${role === 'look' ? 'look' : 'look and change'}`);
    } else if (what === 'password') {
      await people.setPassword((await people.personNamed(name!)).id, await askPassword(), null);
      console.log(`${name} has a new password, and is logged out everywhere`);
    } else if (what === 'role') {
      await people.setRole((await people.personNamed(name!)).id, oneOf(values['role'] ?? '', 'role', ['look', 'change'] as const));
    } else if (what === 'remove') await people.removePerson((await people.personNamed(name!)).id);
    else throw new Error(`people takes list, add, password, role or remove, not “${what ?? ''}”`);
  } finally {
    await database.close();
  }
  return 0;
}
