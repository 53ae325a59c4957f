import { emptyLook, sheetOf, stepKind, stepsOf, type Area, type Look, type LookStep, type Mask, type ReadoutKind } from '@dyepot/core';
import { current, nanoid } from '@reduxjs/toolkit';
import type { ViewState } from '../view/layout.ts';
import { enablePatches, isDraft, produceWithPatches, type Patch } from 'immer';

enablePatches();

/** One undoable change of the look: patches there and back, and the gesture it belongs to. */
export interface Edit {
  id: string;
  words: string;
  gesture: string;
  forward: Patch[];
  back: Patch[];
}

/** Where the look on the bench is kept: its draft on the server, and how often that was saved. */
export interface KeptDraft {
  id: number;
  version: number;
}
/** A chain with what can be undone of it. */
export interface Doc {
  look: Look;
  past: Edit[];
  future: Edit[];
  /** the last edit before which the oldest were forgotten; empty when none were */
  floor: string;
}
/** A frame's own steps, as a look that has nothing else; `version` as the server counts it, `kept` what it has of them. */
export interface OwnDoc extends Doc {
  version: number;
  kept: Look;
}
/** How a place is laid over the picture. */
export type ShowPlace = 'off' | 'tint' | 'grey' | 'outline' | 'held';
export interface BrushTool {
  /** half width in shares of the long edge; feather and flow 0–1 */
  size: number;
  feather: number;
  flow: number;
  erase: boolean;
}
/** A place of a step or skein as it is while it is being painted. */
export interface Wet {
  id: string;
  mask: Mask;
  /** what differs from how it was last, as fractions of the picture */
  area: Area;
}
export interface BenchState extends Doc {
  /** what the chain shows: what every frame gets, or what the lead alone does */
  side: 'look' | 'frame';
  /** own steps of frames, by their id */
  owns: Record<number, OwnDoc>;
  /** the part of the place in hand, how it is shown, and the brush */
  part: number;
  showPlace: ShowPlace;
  /** whether something that changes it is held, and the colour it is tinted with */
  placeHeld: boolean;
  placeTint: string;
  brush: BrushTool;
  /** what is being painted: pictures show it, the chain has it when the hand lets go */
  wet: Wet | null;
  shootId: number | null;
  /** the look on the shelf this one is being edited from, and its revision; null for a new one */
  lookId: number | null;
  revision: number | null;
  draft: KeptDraft | null;
  /** names this opening of a look, so that what answers late is known */
  opening: string;
  /** the last edit that is in the revision; what was done since is not */
  base: string;
  selected: string;
  leadId: number | null;
  /** null: Dyepot chooses */
  witnessIds: number[] | null;
  view: ViewState;
  readout: ReadoutKind;
  /** what "before" shows: the frame's groundwork alone, or the frame as decoded */
  before: 'ground' | 'decoded';
}
/** Whether the look differs from its revision: undone to where it was saved, it does not. */
export const isEdited = (s: Pick<BenchState, 'past' | 'floor' | 'base'>): boolean => (s.past[s.past.length - 1]?.id ?? s.floor) !== s.base;

export const freshView: ViewState = {
  zoom: 'fit',
  centre: { x: 0.5, y: 0.5 },
  compare: 'off',
  wipe: 0.5,
  across: false,
  limit: null,
  limiting: false,
  surround: 'mid',
  zones: false,
};
export const freshBench: BenchState = {
  side: 'look',
  owns: {},
  part: 0,
  showPlace: 'off',
  placeHeld: false,
  placeTint: '#e03ca0',
  brush: { size: 0.04, feather: 0.6, flow: 0.8, erase: false },
  wet: null,
  shootId: null,
  lookId: null,
  revision: null,
  draft: null,
  opening: '',
  look: emptyLook('New look'),
  past: [],
  future: [],
  floor: '',
  base: '',
  selected: 'stock',
  leadId: null,
  witnessIds: null,
  view: freshView,
  readout: 'histogram',
  before: 'ground',
};

/** The chain in hand: the look, or the lead's own steps. */
export function docOf<S extends Pick<BenchState, 'side' | 'owns' | 'leadId'> & Doc>(s: S): Doc {
  return (s.side === 'frame' && s.leadId !== null && s.owns[s.leadId]) || s;
}
/** The look as plain data, inside or outside a reducer. */
export const settled = (state: { look: unknown }): Look => (isDraft(state.look) ? current(state.look) : state.look) as Look;

/** Changes the look by a recipe, as one edit that can be undone; edits of one gesture are one. */
export function change(bench: BenchState, words: string, gesture: string, recipe: (look: Look) => void): void {
  const state = docOf(bench),
    [look, forward, back] = produceWithPatches(settled(state), recipe);
  bench.wet = null;
  if (forward.length === 0) return;
  const last = state.past[state.past.length - 1];
  // a gesture that was saved half-way goes on as another edit
  if (last && gesture && last.gesture === gesture && last.id !== (state === bench ? bench.base : ''))
    state.past[state.past.length - 1] = {
      id: last.id,
      words,
      gesture,
      forward: [...last.forward, ...forward],
      back: [...back, ...last.back],
    };
  else state.past.push({ id: nanoid(8), words, gesture, forward, back });
  while (state.past.length > mostEdits) state.floor = state.past.shift()!.id;
  state.future = [];
  state.look = look;
}
/** Edits that can be undone. */
const mostEdits = 400;
export const stepIn = (look: Look, id: string): LookStep | undefined => stepsOf(look).find((s) => s.id === id);
/** What a step is called: its own name, a film's, or its kind's. */
export const nameOf = (step: LookStep): string =>
  step.name || (step.kind === 'film' && sheetOf(step.params)?.name) || stepKind(step.kind)?.name || step.kind;

/** A look laid on the bench: from the shelf, as a draft with what can be undone of it, or new. */
export interface Opened {
  lookId: number | null;
  revision: number | null;
  look: Look;
  draft?: KeptDraft | null;
  past?: Edit[];
  future?: Edit[];
  /** its oldest edits were not kept */
  trimmed?: boolean;
}
