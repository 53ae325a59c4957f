import { Model, type CreationOptional, type InferAttributes, type InferCreationAttributes, type Sequelize } from 'sequelize';
import { createdAt, id, json, kept, plain, some, text, whole } from './columns.ts';

/** What a person may do: look at everything, or change it too. */
export type Role = 'look' | 'change';
/** Someone with a password of their own. */
export class Person extends Model<InferAttributes<Person>, InferCreationAttributes<Person>> {
  declare id: CreationOptional<number>;
  declare name: string;
  /** the name in small letters: two people cannot differ by capitals alone */
  declare key: string;
  declare role: Role;
  /** Argon2id, as a PHC string */
  declare password: string;
  declare createdAt: CreationOptional<Date>;
}
/** A browser someone has logged in with; of its token only the SHA-256 is kept. */
export class Session extends Model<InferAttributes<Session>, InferCreationAttributes<Session>> {
  declare tokenHash: string;
  declare personId: number;
  declare openedAt: Date;
  declare seenAt: Date;
}
/** What a link shows: one revision of a look on some frames, or a shoot's swatch card. */
export type LinkTarget = { kind: 'look'; lookId: number; revision: number; frames: number[] } | { kind: 'swatches'; shootId: number };
/** A door to one thing, for whoever has its address; of its token only the SHA-256 is kept. */
export class Link extends Model<InferAttributes<Link>, InferCreationAttributes<Link>> {
  declare id: CreationOptional<number>;
  declare tokenHash: string;
  declare target: LinkTarget;
  declare expiresAt: Date;
  declare createdAt: CreationOptional<Date>;
}

/** Binds people and what lets them in to their tables. */
export function bindPeople(sequelize: Sequelize): void {
  Person.init({ id, name: some(text), key: some(text), role: some(text), password: some(text), createdAt }, kept(sequelize, 'people'));
  Session.init(
    { tokenHash: { type: text, primaryKey: true }, personId: some(whole), openedAt: some(createdAt), seenAt: some(createdAt) },
    plain(sequelize, 'sessions'),
  );
  Link.init({ id, tokenHash: some(text), target: some(json), expiresAt: some(createdAt), createdAt }, kept(sequelize, 'links'));
}
