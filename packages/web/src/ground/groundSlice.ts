import { plainGroundwork, type Groundwork, type GroundworkPart, type ReadoutKind } from '@dyepot/core';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { castDraft } from 'immer';
import { freshView } from '../bench/benchSlice.ts';
import type { ViewState } from '../view/layout.ts';

/** What the Ground shows controls of: a part of the groundwork, or the repairs of the plate. */
export type Part = GroundworkPart | 'repair';
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
/** What the server keeps of a frame beside its groundwork. */
export interface History {
  past: Change[];
  future: Change[];
  snapshots: Snapshot[];
  /** places read all the time, as fractions of the picture; at most eight */
  probes: { x: number; y: number }[];
}
export interface Doc extends History {
  ground: Groundwork;
  /** what the server is known to hold, as text, and how often that was changed; more there means it was changed elsewhere */
  known: string;
  version: number;
  /** what was sent and is not answered yet, as text */
  sent: string;
  /** what the server remembers of the frame has been fetched */
  loaded: boolean;
  /** counts what is to be kept */
  touched: number;
}
const opened = (ground: Groundwork, version: number): Doc => ({
  ground,
  past: [],
  future: [],
  snapshots: [],
  probes: [],
  known: JSON.stringify(ground),
  version,
  sent: '',
  loaded: false,
  touched: 0,
});

export interface GroundState {
  shootId: number | null;
  frameId: number | null;
  /** what was done here, frame by frame; the server keeps it */
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

const key = 'dyepot-ground-2',
  copiedKey = 'dyepot-copied-groundwork';
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

type Remembered = Pick<GroundState, 'shootId' | 'frameId' | 'part' | 'readout' | 'clipping' | 'pickSize' | 'guides'> & {
  surround: ViewState['surround'];
};
/** How the Ground looked when it was left on this machine; what was done is the server's to keep. */
export function loadGround(): GroundState {
  try {
    const { surround, ...kept } = (JSON.parse(localStorage.getItem(key) ?? '{}') ?? {}) as Partial<Remembered>,
      copied = JSON.parse(sessionStorage.getItem(copiedKey) ?? 'null') as Groundwork | null;
    return {
      ...fresh,
      ...kept,
      copied: copied?.version === plainGroundwork.version ? copied : null,
      view: { ...freshView, surround: surround ?? 'mid' },
    };
  } catch {
    return fresh;
  }
}
export function saveGround(s: GroundState): void {
  const { shootId, frameId, part, readout, clipping, pickSize, guides } = s,
    kept: Remembered = { shootId, frameId, part, readout, clipping, pickSize, guides, surround: s.view.surround };
  try {
    localStorage.setItem(key, JSON.stringify(kept));
    if (s.copied) sessionStorage.setItem(copiedKey, JSON.stringify(s.copied));
  } catch {
    /* storage may be refused; only how it looked is forgotten then */
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
  doc.touched++;
}

export const ground = createSlice({
  name: 'ground',
  initialState: fresh,
  reducers: {
    frameOpened: (s, { payload: p }: PayloadAction<{ shootId: number; frameId: number }>) => {
      if (s.frameId !== p.frameId) {
        s.view.zoom = 'fit';
        s.view.compare = 'off';
        s.view.limit = null;
        s.before = 'plain';
      }
      s.shootId = p.shootId;
      s.frameId = p.frameId;
    },
    /** what the server holds of a frame: at its opening, or since another window changed it */
    serverSaid: (s, { payload: p }: PayloadAction<{ frameId: number; ground: Groundwork | null; version: number }>) => {
      const told = p.ground ?? plainGroundwork,
        doc = s.docs[p.frameId] as Doc | undefined,
        text = JSON.stringify(told);
      if (!doc) {
        s.docs[p.frameId] = castDraft(opened(told, p.version));
        return;
      }
      if (p.version <= doc.version) return;
      // changed elsewhere since: that stands, and can be undone here
      if (text !== doc.sent && text !== JSON.stringify(doc.ground)) change(doc, 'Changed elsewhere', '', told);
      doc.known = text;
      doc.version = p.version;
    },
    /** another window was first: what is here stays on top, and theirs is one undo away */
    overtaken: (s, { payload: p }: PayloadAction<{ frameId: number; ground: Groundwork | null; version: number }>) => {
      const doc = s.docs[p.frameId] as Doc | undefined,
        theirs = p.ground ?? plainGroundwork;
      if (!doc) return;
      doc.past.push({ words: 'Over what another window did', gesture: '', before: theirs });
      doc.known = JSON.stringify(theirs);
      doc.version = p.version;
    },
    historyLoaded: (s, { payload: p }: PayloadAction<{ frameId: number; history: Partial<History> | null }>) => {
      const doc = s.docs[p.frameId] as Doc | undefined;
      if (!doc || doc.loaded) return;
      const { past = [], future = [], snapshots = [], probes = [] } = p.history ?? {};
      if (doc.past.length === 0) doc.future = future;
      doc.past = [...past, ...doc.past];
      doc.snapshots = [...snapshots, ...doc.snapshots];
      doc.probes = [...probes, ...doc.probes].slice(0, 8);
      doc.loaded = true;
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
        /** what the server holds, for a frame not opened yet */ from?: { ground: Groundwork | null; version: number };
      }>,
    ) => {
      const doc = (s.docs[p.frameId] ??= castDraft(opened(p.from?.ground ?? plainGroundwork, p.from?.version ?? 0)));
      change(doc as Doc, p.words, p.gesture, p.ground);
    },
    sent: (s, { payload: p }: PayloadAction<{ frameId: number; text: string }>) => {
      const doc = s.docs[p.frameId];
      if (doc) doc.sent = p.text;
    },
    kept: (s, { payload: p }: PayloadAction<{ frameId: number; known: string; version: number }>) => {
      const doc = s.docs[p.frameId];
      if (!doc || p.version < doc.version) return;
      doc.known = p.known;
      doc.version = p.version;
    },
    undone: (s) => {
      const doc = s.docs[s.frameId ?? -1],
        last = doc?.past.pop();
      if (!doc || !last) return;
      doc.future.push({ words: last.words, gesture: '', before: doc.ground });
      doc.ground = last.before;
      doc.touched++;
    },
    redone: (s) => {
      const doc = s.docs[s.frameId ?? -1],
        next = doc?.future.pop();
      if (!doc || !next) return;
      doc.past.push({ words: next.words, gesture: '', before: doc.ground });
      doc.ground = next.before;
      doc.touched++;
    },
    snapshotTaken: (s, { payload: name }: PayloadAction<string>) => {
      const doc = s.docs[s.frameId ?? -1];
      if (!doc) return;
      doc.snapshots.push({ name, ground: doc.ground });
      doc.touched++;
    },
    snapshotRemoved: (s, { payload: i }: PayloadAction<number>) => {
      const doc = s.docs[s.frameId ?? -1];
      if (!doc) return;
      doc.snapshots.splice(i, 1);
      doc.touched++;
      s.before = 'plain';
    },
    snapshotPutBack: (s, { payload: p }: PayloadAction<{ frameId: number; at: number; snapshot: Snapshot }>) => {
      const doc = s.docs[p.frameId];
      if (!doc) return;
      doc.snapshots.splice(p.at, 0, castDraft(p.snapshot));
      doc.touched++;
    },
    probePinned: (s, { payload: at }: PayloadAction<{ x: number; y: number }>) => {
      const doc = s.docs[s.frameId ?? -1];
      if (!doc || doc.probes.length >= 8) return;
      doc.probes.push(at);
      doc.touched++;
    },
    probeRemoved: (s, { payload: i }: PayloadAction<number>) => {
      const doc = s.docs[s.frameId ?? -1];
      if (!doc) return;
      doc.probes.splice(i, 1);
      doc.touched++;
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
