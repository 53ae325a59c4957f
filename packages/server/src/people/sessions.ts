import { Op } from 'sequelize';
import { Person, Session, type Role } from '../db/models.ts';
import { hashOf, newToken } from './tokens.ts';

/** How long a session lasts unused, and at most, in milliseconds: OWASP ASVS 4.0, 3.3.2 (30 minutes, 12 hours). */
const unusedMs = Number(process.env['DYEPOT_UNUSED_MS']) || 30 * 60_000,
  atMostMs = 12 * 3_600_000;
/** when it was last used is written down this often */
const noteMs = Math.min(60_000, unusedMs / 4);

/** Who asks. */
export interface Asking {
  tokenHash: string;
  id: number;
  name: string;
  role: Role;
}
const past = (ms: number): Date => new Date(Date.now() - ms);

/** Opens a session; its token goes to the browser and is kept nowhere here. */
export async function openSession(personId: number): Promise<string> {
  const { token, tokenHash } = newToken(256),
    now = new Date();
  await Session.destroy({ where: { [Op.or]: [{ seenAt: { [Op.lt]: past(unusedMs) } }, { openedAt: { [Op.lt]: past(atMostMs) } }] } });
  await Session.create({ tokenHash, personId, openedAt: now, seenAt: now });
  return token;
}
/** Who has a token, while its session lasts. `using`: it goes on lasting. */
export async function whoAsks(token: string | undefined, using: boolean): Promise<Asking | null> {
  if (!token) return null;
  const session = await Session.findByPk(hashOf(token));
  if (!session || session.seenAt < past(unusedMs) || session.openedAt < past(atMostMs)) return null;
  const person = await Person.findByPk(session.personId);
  if (!person) return null;
  if (using && session.seenAt < past(noteMs)) await session.update({ seenAt: new Date() });
  return { tokenHash: session.tokenHash, id: person.id, name: person.name, role: person.role };
}
export const endSession = async (tokenHash: string): Promise<void> => void (await Session.destroy({ where: { tokenHash } }));
