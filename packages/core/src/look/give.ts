import type { Mask } from '../mask/mask.ts';
import type { Look, LookStep } from './look.ts';

/** An id like this one that is not taken yet; it is taken then. */
function fresh(id: string, taken: Set<string>): string {
  let next = id;
  for (let k = 2; taken.has(next); k++) next = `${id}-${k}`;
  taken.add(next);
  return next;
}
/**
 * A look with steps of another at the ends of their lanes: in the skeins that hold them, under the masks they use by name.
 * `ids` are ids of steps of `from`; its stock is not given. What is given has ids of its own.
 */
export function giveSteps(from: Look, to: Look, ids: readonly string[]): Look {
  const taken = new Set([to.stock, ...to.scene, ...to.print, ...to.skeins, ...to.masks].map((v) => v.id)),
    renamed = new Map<string, string>(),
    own = (id: string): string => {
      if (!renamed.has(id)) renamed.set(id, fresh(id, taken));
      return renamed.get(id)!;
    };
  const chosen = (lane: readonly LookStep[]): LookStep[] => lane.filter((s) => ids.includes(s.id)),
    steps = [...chosen(from.scene), ...chosen(from.print)],
    skeins = from.skeins.filter((k) => steps.some((s) => s.skein === k.id)),
    namedIn = (mask: Mask | null): string[] => (mask?.parts ?? []).flatMap((p) => (p.kind === 'named' ? [p.mask] : [])),
    masks = new Set([...steps, ...skeins].flatMap((v) => namedIn(v.mask)));
  const placed = (mask: Mask | null): Mask | null =>
      mask && { ...mask, parts: mask.parts.map((p) => (p.kind === 'named' ? { ...p, mask: own(p.mask) } : p)) },
    given = (s: LookStep): LookStep => ({ ...s, id: own(s.id), mask: placed(s.mask), skein: s.skein && own(s.skein) });
  return {
    ...to,
    scene: [...to.scene, ...chosen(from.scene).map(given)],
    print: [...to.print, ...chosen(from.print).map(given)],
    skeins: [...to.skeins, ...skeins.map((k) => ({ ...k, id: own(k.id), mask: placed(k.mask) }))],
    masks: [...to.masks, ...from.masks.filter((m) => masks.has(m.id)).map((m) => ({ ...m, id: own(m.id) }))],
  };
}
