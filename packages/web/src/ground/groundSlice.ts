import { completed, plainGroundwork, type Groundwork, type GroundworkPart, type ReadoutKind } from '@dyepot/core';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { castDraft } from 'immer';
import { freshView } from '../bench/benchSlice.ts';
import type { ViewState } from '../view/layout.ts';

export type Part = GroundworkPart;
/** One readable change, and what stood before it. */
export interface Change {
  words: string;
  gesture: string;
  before: Groundwork;
}
export interface Snapshot {
  name: string;
  ground: Groundwork;
}
interface Doc {
  ground: Groundwork;
  past: Change[];
  future: Change[];
  snapshots: Snapshot[];
  /** what the server is known to hold, as text; another there means it was changed elsewhere */ known: string;
  /** and held before, which a page not yet fetched anew may still say */ older?: string;
  /** places read all the time, as fractions of the picture; at most eight */ probes?: { x: number; y: number }[];
}

export interface GroundState {
  shootId: number | null;
  frameId: number | null;
  /** what was done here, frame by frame; the server keeps the groundwork itself too */
  docs: Record<number, Doc>;
  part: Part;
  view: ViewState;
  readout: ReadoutKind;
  clipping: { black: boolean; white: boolean };
  /** side of the picker's square, in the picture's own pixels */
  pickSize: number;
  guides: 'none' | 'thirds' | 'diagonals' | 'golden';
  copied: Groundwork | null;
  /** what "before" shows: nothing done, groundwork without the look, or a snapshot by its place */
  before: 'plain' | 'ground' | number;
}

const key = 'dyepot-ground-1';
const fresh: GroundState = {
  shootId: null,
  frameId: null,
  docs: {},
  part: 'light',
  view: freshView,
  readout: 'histogram',
  clipping: { black: false, white: false },
  pickSize: 24,
  guides: 'thirds',
  copied: null,
  before: 'plain',
};

/** Groundwork as it was left on this machine. */
export function loadGround(): GroundState {
  try {
    const kept = JSON.parse(localStorage.getItem(key) ?? 'null') as Partial<GroundState> | null;
    // what was kept before a part existed is completed
    if (kept?.docs)
      for (const doc of Object.values(kept.docs)) {
        doc.ground = completed(doc.ground);
        for (const c of [...doc.past, ...doc.future]) c.before = completed(c.before);
        for (const shot of doc.snapshots) shot.ground = completed(shot.ground);
      }
    if (kept?.copied) kept.copied = completed(kept.copied);
    return kept
      ? { ...fresh, ...kept, view: { ...freshView, ...kept.view, compare: 'off', zoom: 'fit', limit: null, limiting: false } }
      : fresh;
  } catch {
    return fresh;
  }
}
export function saveGround(state: GroundState): void {
  try {
    localStorage.setItem(
      key,
      JSON.stringify({
        ...state,
        docs: Object.fromEntries(
          Object.entries(state.docs)
            .slice(-60)
            .map(([id, d]) => [id, { ...d, past: d.past.slice(-60), future: d.future.slice(-60) }]),
        ),
      }),
    );
  } catch {
    /* storage may be full or refused; the server still has the groundwork */
  }
}

function change(doc: Doc, words: string, gesture: string, ground: Groundwork): void {
  if (JSON.stringify(ground) === JSON.stringify(doc.ground)) return;
  const last = doc.past[doc.past.length - 1];
  if (last && gesture && last.gesture === gesture) last.words = words;
  else doc.past.push({ words, gesture, before: doc.ground });
  if (doc.past.length > 300) doc.past.shift();
  doc.future = [];
  doc.ground = ground;
}

export const ground = createSlice({
  name: 'ground',
  initialState: fresh,
  reducers: {
    frameOpened: (s, { payload: p }: PayloadAction<{ shootId: number; frameId: number; ground: Groundwork | null }>) => {
      if (s.frameId !== p.frameId) {
        s.view.zoom = 'fit';
        s.view.compare = 'off';
        s.view.limit = null;
        s.before = 'plain';
      }
      s.shootId = p.shootId;
      s.frameId = p.frameId;
      const told = p.ground ?? plainGroundwork,
        doc = s.docs[p.frameId];
      const known = JSON.stringify(told);
      if (!doc) s.docs[p.frameId] = castDraft({ ground: told, past: [], future: [], snapshots: [], known } as Doc);
      else if (doc.known !== known && doc.older !== known) {
        // changed elsewhere since: that stands, and can be undone here
        if (JSON.stringify(doc.ground) !== known) change(doc as Doc, 'Changed elsewhere', '', told);
        doc.known = known;
      }
    },
    changed: (
      s,
      {
        payload: p,
      }: PayloadAction<{
        frameId: number;
        words: string;
        gesture: string;
        ground: Groundwork;
        /** what the server holds, for a frame not opened yet */ from?: Groundwork | null;
      }>,
    ) => {
      const doc = (s.docs[p.frameId] ??= castDraft({
        ground: p.from ?? plainGroundwork,
        past: [],
        future: [],
        snapshots: [],
        known: JSON.stringify(p.from ?? plainGroundwork),
      } as Doc));
      change(doc as Doc, p.words, p.gesture, p.ground);
    },
    kept: (s, { payload: p }: PayloadAction<{ frameId: number; known: string }>) => {
      const doc = s.docs[p.frameId];
      if (doc) {
        doc.older = doc.known;
        doc.known = p.known;
      }
    },
    undone: (s) => {
      const doc = s.docs[s.frameId ?? -1],
        last = doc?.past.pop();
      if (!doc || !last) return;
      doc.future.push({ words: last.words, gesture: '', before: doc.ground });
      doc.ground = last.before;
    },
    redone: (s) => {
      const doc = s.docs[s.frameId ?? -1],
        next = doc?.future.pop();
      if (!doc || !next) return;
      doc.past.push({ words: next.words, gesture: '', before: doc.ground });
      doc.ground = next.before;
    },
    snapshotTaken: (s, { payload: name }: PayloadAction<string>) => {
      const doc = s.docs[s.frameId ?? -1];
      doc?.snapshots.push({ name, ground: doc.ground });
    },
    snapshotRemoved: (s, { payload: i }: PayloadAction<number>) => {
      s.docs[s.frameId ?? -1]?.snapshots.splice(i, 1);
      s.before = 'plain';
    },
    probePinned: (s, { payload: at }: PayloadAction<{ x: number; y: number }>) => {
      const doc = s.docs[s.frameId ?? -1];
      if (doc && (doc.probes?.length ?? 0) < 8) doc.probes = [...(doc.probes ?? []), at];
    },
    probeRemoved: (s, { payload: i }: PayloadAction<number>) => {
      s.docs[s.frameId ?? -1]?.probes?.splice(i, 1);
    },
    partChosen: (s, { payload }: PayloadAction<Part>) => {
      s.part = payload;
    },
    viewSet: (s, { payload }: PayloadAction<Partial<ViewState>>) => {
      Object.assign(s.view, payload);
    },
    set: (
      s,
      { payload }: PayloadAction<Partial<Pick<GroundState, 'readout' | 'clipping' | 'pickSize' | 'guides' | 'copied' | 'before'>>>,
    ) => {
      Object.assign(s, payload);
    },
  },
});
export const groundAct = ground.actions;
