import { stepsInWords } from '@dyepot/core/src/look/inWords.ts';
import { Op } from 'sequelize';
import { Frame, Link, Shoot, type LinkTarget } from '../db/models.ts';
import { framesOfLights, lookSheet } from '../services/checking.ts';
import { found, ServiceError } from '../services/errors.ts';
import { thumbOf } from '../services/frames.ts';
import { lookAt } from '../services/looks.ts';
import { laidCard, swatchesOf, swatchFile, type LaidCard } from '../services/swatches.ts';
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
  frames: { id: number; name: string }[];
  /** for each row of pictures: its look (0: none), what it is called, its dye strip, and what was said of each frame in it */
  rows: { look: number; name: string; strip: readonly string[]; said: ('best' | 'out' | null)[] }[];
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
  if (frames.length === 0) throw new ServiceError(409, 'there is no frame to show it on; bring raws in first');
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
      { lookId: 0, revision: null, name: 'Without it', strip: [], said },
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
    frames: card.across,
    rows: card.rows.map(({ lookId, name, strip, said }) => ({ look: lookId, name, strip, said })),
    expiresAt,
  };
}
/** A picture behind a link: of one of its frames under one of its looks (0: none). */
export async function pictureBehindLink(pool: RenderPool, token: string, frameId: number, lookId: number): Promise<string> {
  const { target } = await linkOf(token),
    shown = target.kind === 'look' ? { frames: target.frames, looks: [0, target.lookId] } : await swatchesOf(target.shootId);
  if (!shown.frames.includes(frameId) || !shown.looks.includes(lookId) || !(await Frame.findByPk(frameId, { attributes: ['id'] })))
    throw new ServiceError(404, 'there is no such picture behind this link');
  const revision = lookId === 0 ? null : target.kind === 'look' ? target.revision : (await lookAt(lookId)).revision;
  return thumbOf(pool, frameId, lookId || null, revision, pictureEdge);
}
/** All that a link shows, as a PDF. */
export async function pageBehindLink(pool: RenderPool, token: string): Promise<{ name: string; file: Buffer }> {
  const { target } = await linkOf(token);
  if (target.kind === 'swatches') return swatchFile(pool, target.shootId, 'pdf');
  const { lookId, revision, frames } = target,
    // a sheet for which no frame is named shows others, which are not behind this link
    frameIds = (await Frame.findAll({ where: { id: frames }, attributes: ['id'] })).map((f) => f.id);
  if (frameIds.length === 0) throw new ServiceError(404, 'the frames this link shows are not there any more');
  return lookSheet(pool, lookId, { revision, frameIds, kind: 'pdf' });
}
