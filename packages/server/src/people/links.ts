import { stepsInWords } from '@dyepot/core/src/look/inWords.ts';
import { Op } from 'sequelize';
import { Frame, Link, Shoot, type LinkTarget } from '../db/models.ts';
import { framesOfLights, lookSheet } from '../services/checking.ts';
import { found, ServiceError } from '../services/errors.ts';
import { thumbOf } from '../services/frames.ts';
import { lookAt } from '../services/looks.ts';
import { laidCard, swatchFile, type LaidCard } from '../services/swatches.ts';
import type { RenderPool } from '../work/pool.ts';
import { hashOf, newToken } from './tokens.ts';

const day = 86_400_000;
const mostLinks = 500;
/** The long edge of the pictures behind a link, in pixels: to be judged on a screen, not used. */
const pictureEdge = 1080;

/** A link, as those see it who may make one. Its address is told once, when it is made. */
export interface LinkView {
  id: number;
  kind: LinkTarget['kind'];
  /** what it shows, in words */
  shows: string;
  expiresAt: Date;
  createdAt: Date;
}
/** What is behind a link, without the pictures. */
export interface LinkShown {
  kind: LinkTarget['kind'];
  name: string;
  said: string;
  notes: string;
  steps: { name: string; words: string }[];
  frames: string[];
  /** for each row of pictures: what it is called, its dye strip, and what was said of each frame in it */
  rows: { name: string; strip: readonly string[]; said: ('best' | 'out' | null)[] }[];
  expiresAt: Date;
}

async function showsOf(target: LinkTarget): Promise<string> {
  if (target.kind === 'swatches') return `Swatch card of ${(await Shoot.findByPk(target.shootId, { paranoid: false }))?.name ?? 'a shoot'}`;
  const look = await lookAt(target.lookId, target.revision).catch(() => null);
  return look ? `${look.name}, revision ${look.revision}` : 'a look that is gone';
}
const viewOf = async ({ id, target, expiresAt, createdAt }: Link): Promise<LinkView> => ({
  id,
  kind: target.kind,
  shows: await showsOf(target),
  expiresAt,
  createdAt,
});
export async function listLinks(): Promise<LinkView[]> {
  await Link.destroy({ where: { expiresAt: { [Op.lt]: new Date() } } });
  return Promise.all((await Link.findAll({ order: [['id', 'DESC']] })).map(viewOf));
}

/** What a link to a look is asked to show; the frames are one of each light of the newest shoot where none is named. */
export type LinkWish = { kind: 'look'; lookId: number; frames?: number[] } | { kind: 'swatches'; shootId: number };
async function targetOf(wish: LinkWish): Promise<LinkTarget> {
  if (wish.kind === 'swatches') {
    await laidCard(wish.shootId);
    return wish;
  }
  const look = await lookAt(wish.lookId),
    newest = await Shoot.findOne({ order: [['id', 'DESC']] }),
    frames = wish.frames ?? (newest ? (await framesOfLights(newest)).map((f) => f.id) : []);
  if ((await Frame.count({ where: { id: frames } })) < new Set(frames).size)
    throw new ServiceError(404, 'one of these frames is not there');
  return { kind: 'look', lookId: wish.lookId, revision: look.revision, frames };
}
/** Makes a link that lasts so many days. Its token is told here and never again. */
export async function makeLink(wish: LinkWish, days: number): Promise<LinkView & { token: string }> {
  const target = await targetOf(wish);
  if ((await Link.count()) >= mostLinks) throw new ServiceError(409, `there can be ${mostLinks} links; take some back first`);
  const { token, tokenHash } = newToken(128);
  return { ...(await viewOf(await Link.create({ tokenHash, target, expiresAt: new Date(Date.now() + days * day) }))), token };
}
/** Takes a link back: it opens nothing from now on. */
export async function takeBackLink(id: number): Promise<void> {
  await found(await Link.findByPk(id), 'this link').destroy();
}

const closed = (): ServiceError => new ServiceError(404, 'this link is not open (any more); ask whoever gave it to you for another');
async function linkOf(token: string): Promise<Link> {
  const link = /^[\w-]{22}$/.test(token) ? await Link.findOne({ where: { tokenHash: hashOf(token) } }) : null;
  if (!link || link.expiresAt < new Date()) throw closed();
  return link;
}
/** A look on its frames as a card of two rows: without it, and under it. */
async function lookAsCard({ lookId, revision, frames }: Extract<LinkTarget, { kind: 'look' }>): Promise<LaidCard> {
  const look = await lookAt(lookId, revision),
    there = await Frame.findAll({ where: { id: frames }, attributes: ['id', 'name'] }),
    said = there.map(() => null);
  return {
    title: look.name,
    across: there.map(({ id, name }) => ({ id, name })),
    rows: [
      { lookId: null, revision: null, name: 'Without it', strip: [], said },
      { lookId, revision, name: look.name, strip: look.strip, said },
    ],
  };
}
const cardBehind = (target: LinkTarget): Promise<LaidCard> => (target.kind === 'look' ? lookAsCard(target) : laidCard(target.shootId));

/** What a link shows. Throws ServiceError (404) where it is not open. */
export async function behindLink(token: string): Promise<LinkShown> {
  const { target, expiresAt } = await linkOf(token),
    card = await cardBehind(target),
    look = target.kind === 'look' ? await lookAt(target.lookId, target.revision) : null;
  return {
    kind: target.kind,
    name: card.title,
    said: look ? [look.family, `revision ${look.revision}`, ...look.document.tags].filter(Boolean).join(' · ') : 'Swatch card',
    notes: look?.document.notes ?? '',
    steps: look ? stepsInWords(look.document) : [],
    frames: card.across.map((f) => f.name),
    rows: card.rows.map(({ name, strip, said }) => ({ name, strip, said })),
    expiresAt,
  };
}
/** A picture behind a link: of a frame (counted from the left) in a row (from the top). */
export async function pictureBehindLink(pool: RenderPool, token: string, row: number, column: number): Promise<string> {
  const card = await cardBehind((await linkOf(token)).target),
    [look, frame] = [card.rows[row], card.across[column]];
  if (!look || !frame) throw new ServiceError(404, 'there is no such picture behind this link');
  return thumbOf(pool, frame.id, look.lookId, look.revision, pictureEdge);
}
/** All that a link shows, as a PDF. */
export async function pageBehindLink(pool: RenderPool, token: string): Promise<{ name: string; file: Buffer }> {
  const { target } = await linkOf(token);
  return target.kind === 'swatches'
    ? swatchFile(pool, target.shootId, 'pdf')
    : lookSheet(pool, target.lookId, { revision: target.revision, frameIds: target.frames, kind: 'pdf' });
}
