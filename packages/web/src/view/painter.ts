import { addReadouts, commonPasses, draftable, lightPlace, type Area, type Plan, type ReadoutKind, type Readouts } from '@dyepot/core';
import type { Frame } from '../types.ts';
import type { Darkroom, Print } from './darkroom.ts';
import { bandsOf, jobsOf, type Piece, type Treatment } from './frameJobs.ts';
import { Gathered } from './gathered.ts';
import type { partJobs } from './partJobs.ts';

/** What a picture is to show. */
export interface Wish extends Treatment {
  frame: Frame;
  piece: Piece;
  /** a coarser piece of the same part, painted while the hand moves */
  draft: Piece | null;
  /** moves that a table can stand for are drafted at full size: this machine is quick enough, or there is no coarser piece */
  fine: boolean;
  readout: ReadoutKind | null;
  /** the part that readouts read, as fractions of the picture */
  limit: Area | null;
}
/** Where pictures are put, and who hears of them. */
export interface Easel {
  /** the bands of a finished picture, from the top; `key` names the piece */
  whole(prints: readonly Print[], piece: Piece, key: string): void;
  /** those of a draft of the piece that lies there; they may be coarser than it. `ms`: since the hand's move */
  draft(prints: readonly Print[], drawn: Piece, ms: number): void;
  /** a part of the piece that lies there, as it will be in the whole that follows */
  part(print: Print, at: Area): void;
  busy(on: boolean): void;
  read(readouts: Readouts): void;
  /** null: what went wrong is over */
  failed(words: string | null): void;
  /** the picture is about to change */
  asked(): void;
}
/** The darkroom's side that a painter needs. */
export type Room = Pick<Darkroom, 'hold' | 'drop' | 'render' | 'stop' | 'rests' | 'together'>;
export interface Painter {
  /** Shows something; null lets all go. */
  show(wish: Wish | null): void;
  close(): void;
}

/** What finds the parts of a picture, fetched when a stroke first asks for one. */
let partly: typeof partJobs | null = null;

/** How long the hand rests before a draft gives way to the whole, in milliseconds. */
const restMs = 20;
/** From how many pixels on a piece is cut into three bands for each worker. */
const largePiece = 4e5;

const keyOf = ({ frame, piece: p }: Wish): string => `${frame.id}/${p.level}/${p.x},${p.y},${p.width},${p.height}`;
const samePlace = (a: Piece | null, b: Piece | null): boolean =>
  a === b ||
  (a !== null && b !== null && a.level === b.level && a.x === b.x && a.y === b.y && a.width === b.width && a.height === b.height);
const sameWish = (a: Wish, b: Wish): boolean =>
  sameTreatment(a, b) &&
  a.frame === b.frame &&
  a.fine === b.fine &&
  a.readout === b.readout &&
  a.limit === b.limit &&
  samePlace(a.piece, b.piece) &&
  samePlace(a.draft, b.draft);
const sameTreatment = (a: Treatment, b: Treatment): boolean =>
  a.look === b.look && a.ground === b.ground && a.steps === b.steps && a.place === b.place && Boolean(a.mask) === Boolean(b.mask);
/** Whether one table can stand for all that differs between two plans and what comes after it. */
export function tableServes(before: Plan, now: Plan): boolean {
  const common = commonPasses(before, now),
    differs = common < Math.max(before.passes.length, now.passes.length);
  if (common < 1 || !differs) return false;
  const count = lightPlace(now.passes, common);
  return count > 0 && draftable(now, count);
}

/** Keeps a picture painted: a draft while the hand moves, the whole when it rests. What needs other plates waits until they are held. */
export function openPainter(
  room: Room,
  name: string,
  easel: Easel,
  { workers, rank }: { workers: readonly number[]; rank: number },
): Painter {
  /** what is asked for, under which plan, and by which number; a word of the darkroom is its key and number */
  let shown: { wish: Wish; key: string; stamp: string; plan: Plan } | null = null,
    turn = 0;
  /** what lies on the easel: its piece, and the newest numbers that are there whole and as a draft */
  let laid = '',
    wholeTurn = 0,
    draftTurn = 0;
  /** where parts go that are painted by themselves, by their band */
  const pieces = new Map<number, Area>();
  /** the whole is still to be asked for */
  let waiting = false,
    timer: ReturnType<typeof setTimeout> | undefined,
    movedAt = 0;
  const whole = { urls: [] as string[], slot: (i: number) => `${name}:${i}` },
    coarse = { urls: [] as string[], slot: (i: number) => `${name}-draft:${i}` };
  const shares = ({ piece }: Wish): readonly number[] =>
    piece.width * piece.height > largePiece ? [...workers, ...workers, ...workers] : workers;

  const rests = (): void => {
    if (!waiting && whole.urls.every((_, i) => room.rests(whole.slot(i)))) easel.busy(false);
  };
  const numberOf = (word: string): number =>
    shown && word.startsWith(`${shown.key}#`) ? Number.parseInt(word.slice(shown.key.length + 1), 10) : 0;
  const drafted = (prints: readonly Print[] | null, drawn: Piece, number: number): void => {
    if (!prints) return;
    draftTurn = number;
    easel.draft(prints, drawn, movedAt > 0 ? performance.now() - movedAt : 0);
    movedAt = 0;
  };

  function holdWhole(wish: Wish, urls: string[]): void {
    const share = shares(wish),
      bands = new Gathered<Print>(urls.length),
      drafts = new Gathered<Print>(urls.length),
      parts = new Gathered<Readouts>(urls.length);
    const came = (i: number, print: Print, word: string): void => {
      const number = numberOf(word);
      if (!shown || number === 0) return;
      if (word.endsWith('^')) {
        const at = pieces.get(i);
        if (at && laid === shown.key && number === turn) easel.part(print, at);
        return rests();
      }
      if (word.endsWith('~')) {
        // the whole of this wish, or of a later one, stands
        if (laid === shown.key && number > wholeTurn) drafted(drafts.add(i, print, word, true), shown.wish.piece, number);
        return rests();
      }
      // a draft of a later wish stands
      if (laid === shown.key && number < draftTurn) return rests();
      const prints = bands.add(i, print, word, !shown.wish.draft);
      if (!prints) return;
      wholeTurn = number;
      laid = shown.key;
      rests();
      easel.whole(prints, shown.wish.piece, laid);
    };
    urls.forEach((url, i) =>
      room.hold(
        whole.slot(i),
        share[i]!,
        rank,
        url,
        (print, word) => came(i, print, word),
        (words) => {
          rests();
          easel.failed(words);
        },
        (readouts, word) => {
          const all = parts.add(i, readouts, word, word.endsWith('~') || !shown?.wish.draft);
          if (all && numberOf(word) > 0) easel.read(all.reduce(addReadouts));
        },
      ),
    );
  }
  function holdCoarse(urls: string[]): void {
    const bands = new Gathered<Print>(urls.length),
      parts = new Gathered<Readouts>(urls.length);
    urls.forEach((url, i) =>
      room.hold(
        coarse.slot(i),
        workers[i]!,
        0,
        url,
        (print, word) => {
          const number = numberOf(word),
            drawn = shown?.wish.draft;
          if (drawn && laid === shown?.key && number > wholeTurn) drafted(bands.add(i, print, word, true), drawn, number);
        },
        () => {},
        // readouts follow the hand: those of the draft stand until the whole picture's come
        (readouts, word) => {
          const all = parts.add(i, readouts, word, true);
          if (all) easel.read(all.reduce(addReadouts));
        },
      ),
    );
  }
  /** What a repair changed is drawn first, of a small plate of its own; the whole follows. */
  async function drawMended(before: Wish, wish: Wish, key: string, number: number): Promise<void> {
    if (before.frame.id !== wish.frame.id || before.frame.repairStamp === wish.frame.repairStamp) return;
    if (!samePlace(before.piece, wish.piece) || !sameTreatment(before, wish)) return;
    const { mendedPart } = await import('./mendedPart.ts'),
      part = mendedPart(before.frame, wish.frame, wish.ground, wish.piece),
      slot = `${name}:part`,
      stands = (): boolean => laid === key && shown?.key === key && wholeTurn < number;
    if (!part || !stands()) return;
    const { jobs, urls } = jobsOf({ frame: wish.frame, piece: part, readout: null, limit: null }, wish, 1, true);
    room.hold(
      slot,
      workers[0]!,
      0,
      urls,
      (print) => {
        room.drop(slot);
        if (stands()) easel.part(print, { ...part, x: part.x - wish.piece.x, y: part.y - wish.piece.y });
      },
      () => room.drop(slot),
    );
    room.render(slot, jobs[0]!, `${key}#${number}`);
  }
  /** Holds other plates where those asked for are not the ones held. */
  function exchange(kind: typeof whole, urls: string[], hold: (urls: string[]) => void): void {
    if (urls.join(' ') === kind.urls.join(' ')) return;
    kind.urls.forEach((_, i) => room.drop(kind.slot(i)));
    kind.urls = urls;
    if (urls.length > 0) hold(urls);
  }

  function render(kind: typeof whole, wish: Wish, piece: Piece, word: string, draft: boolean): void {
    const { jobs, urls } = jobsOf({ ...wish, piece }, wish, kind.urls.length);
    if (urls !== kind.urls.join(' ')) return;
    room.together(() => jobs.forEach((job, i) => room.render(kind.slot(i), draft ? { ...job, draft } : job, word)));
  }
  /** Paints the part alone that differs. False where what lies on the easel may differ elsewhere too. */
  function askPart(only: Area, word: string): boolean {
    const { wish, key } = shown!;
    if (waiting || laid !== key || draftTurn > wholeTurn || !whole.urls.every((_, i) => room.rests(whole.slot(i)))) return false;
    if (!partly) {
      void import('./partJobs.ts').then(
        (m) => (partly = m.partJobs),
        () => {},
      );
      return false;
    }
    easel.busy(true);
    pieces.clear();
    for (const { band, at, job } of partly(wish, whole.urls.length, only)) {
      pieces.set(band, at);
      room.render(whole.slot(band), job, `${word}^`);
    }
    rests();
    return true;
  }
  function ask(before: Plan | null, painting: boolean): void {
    const { wish, key, plan } = shown!,
      word = `${key}#${++turn}`,
      wholly = (): void => {
        waiting = false;
        render(whole, wish, wish.piece, word, false);
      };
    if (before && wish.only && askPart(wish.only, word)) return;
    waiting = true;
    clearTimeout(timer);
    easel.busy(true);
    const byTable = before !== null && !wish.mask && laid === key && tableServes(before, plan);
    if (!before || painting || (!wish.draft && !(byTable && wish.fine))) return wholly();
    whole.urls.forEach((_, i) => room.stop(whole.slot(i)));
    movedAt ||= performance.now();
    if (byTable && wish.fine) render(whole, wish, wish.piece, `${word}~`, true);
    else render(coarse, wish, wish.draft!, word, byTable);
    timer = setTimeout(wholly, restMs);
  }

  return {
    show(wish) {
      if (!wish) {
        clearTimeout(timer);
        shown = null;
        exchange(whole, [], () => {});
        exchange(coarse, [], () => {});
        return easel.busy(false);
      }
      // asked at every breath of the page: most often nothing has changed
      if (shown && sameWish(shown.wish, wish)) return;
      const key = keyOf(wish),
        urls = bandsOf(wish.frame, wish.ground, wish.piece, shares(wish).length, wish).map((b) => b.url),
        coarseUrls = wish.draft ? bandsOf(wish.frame, wish.ground, wish.draft, workers.length, { look: wish.look }).map((b) => b.url) : [];
      if (urls.join(' ') !== whole.urls.join(' ')) easel.failed(null);
      if (shown) void drawMended(shown.wish, wish, key, turn + 1).catch(() => {});
      exchange(whole, urls, (fresh) => holdWhole(wish, fresh));
      exchange(coarse, coarseUrls, holdCoarse);
      const stamp = [key, ...urls, ...coarseUrls, wish.readout, ...Object.values(wish.limit ?? {})].join(' '),
        same = shown && sameTreatment(shown.wish, wish);
      if (same && shown?.stamp === stamp) return;
      const before = shown?.key === key ? shown.plan : null,
        painting = Boolean(wish.only ?? shown?.wish.only),
        { plan } = jobsOf(wish, wish, 1);
      if (!same) easel.asked();
      shown = { wish, key, stamp, plan };
      ask(before, painting);
    },
    close() {
      clearTimeout(timer);
      shown = null;
      for (const kind of [whole, coarse]) exchange(kind, [], () => {});
    },
  };
}
