import { Op, type Transaction } from 'sequelize';
import { together } from '../db/database.ts';
import { Person, Session, type Role } from '../db/models.ts';
import { found, ServiceError } from '../services/errors.ts';
import { isPassword, keepPassword } from './passwords.ts';

/** A person, as the others see them. */
export interface PersonView {
  id: number;
  name: string;
  role: Role;
  /** when they were last seen; null: never */
  seenAt: Date | null;
}
const mostPeople = 500;
/** What tells people apart by their names: capitals, ways to write a letter and spaces round it do not. */
export const keyOf = (name: string): string => name.normalize('NFKC').trim().toLocaleLowerCase('en');
const personOf = async (id: number): Promise<Person> => found(await Person.findByPk(id), 'this person');

export const anybody = async (): Promise<boolean> => (await Person.count()) > 0;
export async function listPeople(): Promise<PersonView[]> {
  const people = await Person.findAll({ order: [['key', 'ASC']] }),
    sessions = await Session.findAll();
  return people.map(({ id, name, role }) => ({
    id,
    name,
    role,
    seenAt: sessions.filter((s) => s.personId === id).reduce<Date | null>((last, s) => (!last || s.seenAt > last ? s.seenAt : last), null),
  }));
}
/** The person who has this name and password, or null. */
export async function whoHas(name: string, password: string): Promise<Person | null> {
  const person = await Person.findOne({ where: { key: keyOf(name) } });
  return (await isPassword(person?.password ?? null, password)) ? person : null;
}
/** Adds a person. Throws ServiceError where the name is taken or the password could be guessed. */
export async function addPerson({ name, role, password }: { name: string; role: Role; password: string }): Promise<PersonView> {
  const kept = await keepPassword(password, name);
  const person = await together(async (transaction) => {
    if (await Person.findOne({ where: { key: keyOf(name) }, transaction }))
      throw new ServiceError(409, `there is someone called “${name}” already`);
    if ((await Person.count({ transaction })) >= mostPeople) throw new ServiceError(409, `there can be ${mostPeople} people here`);
    return Person.create({ name, key: keyOf(name), role, password: kept }, { transaction });
  });
  return { id: person.id, name, role, seenAt: null };
}
/** Somebody who may change things is left, whatever is done. */
async function keepOneWhoMay(id: number, transaction: Transaction): Promise<void> {
  if ((await Person.count({ where: { role: 'change', id: { [Op.ne]: id } }, transaction })) === 0)
    throw new ServiceError(409, 'nobody who may change anything would be left');
}
export async function setRole(id: number, role: Role): Promise<void> {
  await together(async (transaction) => {
    const person = found(await Person.findByPk(id, { transaction }), 'this person');
    if (role === 'look') await keepOneWhoMay(id, transaction);
    await person.update({ role }, { transaction });
  });
}
/** Takes a person off; their sessions go with them. */
export async function removePerson(id: number): Promise<void> {
  await together(async (transaction) => {
    const person = found(await Person.findByPk(id, { transaction }), 'this person');
    await keepOneWhoMay(id, transaction);
    await person.destroy({ transaction });
  });
}
/** Gives a person another password, and ends their sessions but the one that asks. */
export async function setPassword(id: number, password: string, asking: string | null): Promise<void> {
  const person = await personOf(id),
    kept = await keepPassword(password, person.name);
  await together(async (transaction) => {
    await person.update({ password: kept }, { transaction });
    await Session.destroy({ where: { personId: id, tokenHash: { [Op.ne]: asking ?? '' } }, transaction });
  });
}
/** Changes one's own password, which needs the old one. */
export async function changeOwnPassword(id: number, old: string, next: string, asking: string): Promise<void> {
  if (!(await isPassword((await personOf(id)).password, old))) throw new ServiceError(403, 'the old password is another');
  await setPassword(id, next, asking);
}
/** The person called so. */
export const personNamed = async (name: string): Promise<Person> =>
  found(await Person.findOne({ where: { key: keyOf(name) } }), `a person called “${name}”`);
