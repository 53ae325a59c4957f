import { laneOf, type Look, type LookStep, type OwnSteps, type Skein } from '@dyepot/core';
import { change, docOf, settled, stepIn, type BenchState, type OwnDoc } from './benchState.ts';
import { carrierOf, dropEmptySkeins } from './ownChain.ts';

const keptOf = ({ kept }: OwnDoc): Look => settled({ look: kept });
/** What the server has of a frame's own steps, where nothing newer is in hand. What another window made is one edit more, so that what was here before can be had again. */
export function openOwn(s: BenchState, { frameId, steps, version }: { frameId: number; steps: OwnSteps | null; version: number }): void {
  const there = s.owns[frameId],
    look = carrierOf(steps);
  if (!there) {
    s.owns[frameId] = { look, past: [], future: [], floor: '', version, kept: look };
    return;
  }
  if (there.version >= version || settled(there) !== keptOf(there)) return;
  const { side, leadId } = s;
  s.side = 'frame';
  s.leadId = frameId;
  change(s, 'Changed elsewhere', '', (l) => {
    Object.assign(l, { scene: look.scene, print: look.print, skeins: look.skeins, masks: look.masks, worn: look.worn });
  });
  s.side = side;
  s.leadId = leadId;
  there.version = version;
  there.kept = settled(there);
}
/** A step of the lead's own goes into the look, where every frame gets it. */
export function giveToLook(s: BenchState, id: string): void {
  const from = docOf(s).look,
    step = stepIn(from, id),
    lane = laneOf(from, id);
  if (s.side !== 'frame' || !step || (lane !== 'scene' && lane !== 'print')) return;
  const copy = JSON.parse(JSON.stringify(step)) as LookStep,
    skein = from.skeins.find((k) => k.id === step.skein),
    held = skein && (JSON.parse(JSON.stringify(skein)) as Skein);
  change(s, 'Take into the look', '', (l) => {
    l[lane] = l[lane].filter((x) => x.id !== id);
    dropEmptySkeins(l);
  });
  s.side = 'look';
  change(s, 'Taken from a frame', '', (l) => {
    // what it was held by goes along: its place is its skein's too
    if (held && !l.skeins.some((k) => k.id === held.id)) l.skeins.push(held);
    l[lane].push(copy);
    dropEmptySkeins(l);
  });
  s.selected = id;
}
