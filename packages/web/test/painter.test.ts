import { emptyLook, newStep, plainGroundwork, type Look } from '@dyepot/core';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Print } from '../src/view/darkroom.ts';
import { openPainter, type Easel, type Painter, type Room, type Wish } from '../src/view/painter.ts';
import type { Job } from '../src/view/renderWorker.ts';
import { trialFrame } from './trialFrame.ts';

const frame = trialFrame(3000, 2000);
const lookWith = (saturation: number, fine = 0): Look => ({
  ...emptyLook('t'),
  scene: [
    { ...newStep('warmth', 'w'), params: { shiftMired: 10 } },
    { ...newStep('localContrast', 'l'), params: { fine } },
  ],
  print: [{ ...newStep('saturation', 's'), params: { change: saturation } }],
});
const piece = { level: 1, x: 0, y: 0, width: 600, height: 400 },
  draft = { level: 2, x: 0, y: 0, width: 300, height: 200 };
const wish = (look: Look, more: Partial<Wish> = {}): Wish => ({
  frame,
  piece,
  draft,
  fine: true,
  readout: null,
  limit: null,
  look,
  ground: null,
  ...more,
});

/** A darkroom that does nothing by itself: the test answers for it. */
class HandRoom implements Room {
  held = new Map<string, { url: string; done: (p: Print, of: string) => void; failed: (words: string) => void }>();
  asked: { slot: string; job: Job; of: string }[] = [];
  stopped: string[] = [];
  under = new Set<string>();
  hold: Room['hold'] = (slot, _worker, _rank, url, done, failed) => void this.held.set(slot, { url, done, failed });
  drop: Room['drop'] = (slot) => void this.held.delete(slot);
  render: Room['render'] = (slot, job, of) => {
    this.asked.push({ slot, job, of });
    this.under.add(slot);
  };
  stop: Room['stop'] = (slot) => {
    this.stopped.push(slot);
    this.under.delete(slot);
  };
  together: Room['together'] = (ask) => ask();
  rests: Room['rests'] = (slot) => !this.under.has(slot);
  /** Answers what was asked last of a slot, or under a word. */
  answer(slot: string, of = this.asked.findLast((a) => a.slot === slot)!.of): void {
    this.under.delete(slot);
    this.held.get(slot)!.done({ width: 600, height: 200, rgba: new Uint8ClampedArray(4) }, of);
  }
}
let room: HandRoom, painter: Painter, said: string[];
const easel: Easel = {
  whole: (prints, p, key) => void said.push(`whole ${prints.length} ${p.level} ${key}`),
  draft: (prints, drawn) => void said.push(`draft ${prints.length} ${drawn.level}`),
  busy: (on) => void said.push(on ? 'busy' : 'rests'),
  read: () => {},
  part: (_, at) => void said.push(`part ${at.x},${at.y}`),
  failed: (words) => void said.push(words === null ? 'well' : words),
  asked: () => void said.push('asked'),
};
const key = '7/1/0,0,600,400';
beforeEach(() => {
  vi.useFakeTimers();
  room = new HandRoom();
  said = [];
  painter = openPainter(room, 'lead', easel, { workers: [0, 1], rank: 1 });
});
const shown = (look: Look): void => {
  painter.show(wish(look));
  for (const slot of ['lead:0', 'lead:1']) room.answer(slot);
  said = [];
  room.asked = [];
};

describe('a picture that is kept painted', () => {
  it('is asked for whole at first, in bands, and is there when all of them are', () => {
    painter.show(wish(lookWith(10)));
    expect(room.asked.map((a) => [a.slot, a.job.draft])).toEqual([
      ['lead:0', undefined],
      ['lead:1', undefined],
    ]);
    room.answer('lead:0');
    expect(said).toEqual(['well', 'asked', 'busy']);
    room.answer('lead:1');
    expect(said.slice(3)).toEqual(['rests', `whole 2 1 ${key}`]);
  });
  it('is not asked for again while nothing has changed', () => {
    const look = lookWith(10);
    shown(look);
    painter.show(wish(look));
    painter.show(wish(look, { piece: { ...piece } }));
    expect([room.asked, said]).toEqual([[], []]);
  });
  it('follows a hand on a point step by a table of the size it has, and is whole when the hand rests', () => {
    shown(lookWith(10));
    painter.show(wish(lookWith(11)));
    expect(room.asked.map((a) => [a.slot, a.job.draft, a.of.endsWith('~')])).toEqual([
      ['lead:0', true, true],
      ['lead:1', true, true],
    ]);
    for (const slot of ['lead:0', 'lead:1']) room.answer(slot);
    expect(said).toEqual(['asked', 'busy', 'draft 2 1']);
    vi.advanceTimersByTime(25);
    expect(room.asked.slice(2).map((a) => a.job.draft)).toEqual([undefined, undefined]);
    for (const slot of ['lead:0', 'lead:1']) room.answer(slot);
    expect(said.slice(3)).toEqual(['rests', `whole 2 1 ${key}`]);
  });
  it('on a slow machine the table draws the coarser piece', () => {
    shown(lookWith(10));
    painter.show(wish(lookWith(11), { fine: false }));
    expect(room.asked.map((a) => [a.slot, a.job.draft])).toEqual([
      ['lead-draft:0', true],
      ['lead-draft:1', true],
    ]);
  });
  it('a part of the picture, which has no coarser piece, is drafted by table or else drawn whole at once', () => {
    painter.show(wish(lookWith(10), { draft: null }));
    for (const slot of ['lead:0', 'lead:1']) room.answer(slot);
    room.asked = [];
    painter.show(wish(lookWith(11), { draft: null }));
    painter.show(wish(lookWith(11, 30), { draft: null }));
    expect(room.asked.map((a) => a.job.draft)).toEqual([true, true, undefined, undefined]);
  });
  it('follows a hand on a step that reads the whole picture by a coarser draft', () => {
    shown(lookWith(10));
    painter.show(wish(lookWith(10, 30)));
    expect(room.asked.map((a) => a.slot)).toEqual(['lead-draft:0', 'lead-draft:1']);
    for (const slot of ['lead-draft:0', 'lead-draft:1']) room.answer(slot);
    expect(said.at(-1)).toBe('draft 2 2');
  });
  it('a whole that comes after a later draft does not take its place', () => {
    shown(lookWith(10));
    painter.show(wish(lookWith(11)));
    vi.advanceTimersByTime(25);
    const early = room.asked.at(-1)!.of;
    painter.show(wish(lookWith(12)));
    for (const slot of ['lead:0', 'lead:1']) room.answer(slot);
    said = [];
    for (const slot of ['lead:0', 'lead:1']) room.answer(slot, early);
    expect(said.filter((s) => s.startsWith('whole'))).toEqual([]);
  });
  it('a draft that comes after its whole is dropped', () => {
    shown(lookWith(10));
    painter.show(wish(lookWith(11)));
    const early = room.asked.at(-1)!.of;
    vi.advanceTimersByTime(25);
    for (const slot of ['lead:0', 'lead:1']) room.answer(slot);
    said = [];
    for (const slot of ['lead:0', 'lead:1']) room.answer(slot, early);
    expect(said.filter((s) => s.startsWith('draft'))).toEqual([]);
  });
  it('another place or frame is asked for whole, and what comes of the one before is dropped', () => {
    shown(lookWith(10));
    const other = { ...piece, x: 600 };
    painter.show(wish(lookWith(10), { piece: other }));
    const of = room.asked.at(-1)!.of;
    room.answer('lead:0', `${key}#1`);
    expect(of.startsWith('7/1/600,0,600,400#')).toBe(true);
    expect(said.filter((s) => s.startsWith('whole'))).toEqual([]);
    expect(room.held.get('lead:0')!.url).toContain('x=600');
  });
  it('holds other plates when the groundwork needs them, and says what went wrong until it is mended', () => {
    shown(lookWith(10));
    const before = room.held.get('lead:0')!.url;
    painter.show(wish(lookWith(10), { ground: { ...plainGroundwork, geometry: { ...plainGroundwork.geometry, straighten: 3 } } }));
    expect(room.held.get('lead:0')!.url).not.toBe(before);
    room.held.get('lead:0')!.failed('the frame could not be loaded');
    expect(said.at(-1)).toBe('the frame could not be loaded');
    painter.show(wish(lookWith(10)));
    expect(said.slice(said.lastIndexOf('the frame could not be loaded'))).toContain('well');
  });
  it('paints what a stroke reaches by itself, in the bands it touches, and all of it when the hand lets go', async () => {
    shown(lookWith(9));
    // what finds the parts is fetched for the first stroke, whose first picture is a whole one
    painter.show(wish(lookWith(10), { only: { x: 0, y: 0, width: 1, height: 1 } }));
    expect(room.asked.map((a) => a.job.apart)).toEqual([undefined, undefined]);
    for (const slot of ['lead:0', 'lead:1']) room.answer(slot);
    await vi.dynamicImportSettled();
    room.asked = [];
    said = [];
    painter.show(wish(lookWith(11), { only: { x: 0.02, y: 0.02, width: 0.01, height: 0.01 } }));
    expect(room.asked.map((a) => [a.slot, a.job.apart, a.of.endsWith('^')])).toEqual([['lead:0', true, true]]);
    room.answer('lead:0');
    expect(said).toEqual(['asked', 'busy', 'part 30,20', 'rests']);
    // nothing coarser comes between
    painter.show(wish(lookWith(12)));
    expect(room.asked.slice(1).map((a) => [a.slot, a.job.draft, a.job.apart])).toEqual([
      ['lead:0', undefined, undefined],
      ['lead:1', undefined, undefined],
    ]);
  });
  it('paints all of it where a stroke begins before the picture is there', () => {
    painter.show(wish(lookWith(10)));
    room.asked = [];
    painter.show(wish(lookWith(11), { only: { x: 0.02, y: 0.02, width: 0.01, height: 0.01 } }));
    expect(room.asked.map((a) => [a.slot, a.job.apart])).toEqual([
      ['lead:0', undefined],
      ['lead:1', undefined],
    ]);
  });
  it('lets everything go when nothing is to be shown', () => {
    shown(lookWith(10));
    painter.show(wish(lookWith(11)));
    painter.show(null);
    vi.advanceTimersByTime(100);
    expect([room.held.size, said.at(-1), room.asked.filter((a) => !a.of.endsWith('~'))]).toEqual([0, 'rests', []]);
  });
});
