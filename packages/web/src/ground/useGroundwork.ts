import {
  detailActs,
  quietsColour,
  quietsLuma,
  returnsSoftness,
  sharpens,
  guideLevel,
  partIsPlain,
  plateLevels,
  type FileLens,
  type Groundwork,
  type GroundworkPart,
  type Plate,
} from '@dyepot/core';
import { useEffect, useState } from 'react';
import type { Frame } from '../types.ts';

/** The small plate that light is measured on. */
export function useSmallPlate(frame: Frame): Plate | null {
  const [plate, setPlate] = useState<{ id: number; plate: Plate } | null>(null);
  useEffect(() => {
    let wanted = true;
    const level = guideLevel(frame.width, frame.height, plateLevels);
    fetch(`/api/frames/${frame.id}/plate/${level}?v=${frame.hash.slice(0, 8)}${frame.repairStamp}`)
      .then(async (r) => {
        if (!r.ok) return;
        const read = {
          width: Number(r.headers.get('X-Width')),
          height: Number(r.headers.get('X-Height')),
          data: new Uint16Array(await r.arrayBuffer()),
        };
        if (wanted) setPlate({ id: frame.id, plate: read });
      })
      .catch(() => {});
    return () => {
      wanted = false;
    };
  }, [frame.id, frame.hash, frame.repairStamp, frame.width, frame.height]);
  return plate?.id === frame.id ? plate.plate : null;
}

const ev = (v: number): string => `${v < 0 ? '−' : '+'}${Math.abs(v).toFixed(2)} EV`;
/** What a part of groundwork says, in a few words. */
export function summary(g: Groundwork, part: GroundworkPart, asShot: { kelvin: number }, file: FileLens | null): string {
  if (part === 'light')
    return g.balance.kind === 'asShot'
      ? `As shot, ${Math.round(asShot.kelvin / 10) * 10} K`
      : g.balance.kind === 'own' || g.balance.kind === 'camera'
        ? `${Math.round(g.balance.kelvin)} K`
        : g.balance.kind[0]!.toUpperCase() + g.balance.kind.slice(1);
  if (part === 'colours') return g.colours ? `by ${g.colours.from}` : 'As the file says';
  if (part === 'exposure') return g.exposureEv === 0 ? 'As exposed' : ev(g.exposureEv);
  if (part === 'zones') {
    const moved = g.zones.ev.filter((v) => v !== 0).length;
    return moved === 0 ? 'All alike' : `${moved} moved`;
  }
  if (part === 'ends') return partIsPlain(g, 'ends') ? 'Open' : `white ${g.ends.whiteEv.toFixed(1)} EV`;
  if (part === 'lens') {
    const { profile, distortion, redSize, blueSize, cornerEv, purpleFringe, greenFringe, fromFile } = g.lens;
    return (
      [
        profile ? 'profile' : '',
        [distortion, redSize, blueSize, cornerEv].some((v) => v !== 0) ? 'by hand' : '',
        purpleFringe + greenFringe > 0 ? 'defringed' : '',
        fromFile ? '' : 'file’s off',
      ]
        .filter(Boolean)
        .join(', ') || (file ? 'As the file says' : 'As it came')
    );
  }
  if (part === 'detail')
    return detailActs(g.detail)
      ? [
          quietsLuma(g.detail) || quietsColour(g.detail) ? 'noise' : '',
          returnsSoftness(g.detail) ? 'softness' : '',
          sharpens(g.detail) ? (g.detail.sharpness.gain > 0 ? 'sharpened' : 'softened') : '',
        ]
          .filter(Boolean)
          .join(', ')
      : 'As decoded';
  const { crop, straighten, quarterTurns } = g.geometry,
    words: string[] = [];
  if (crop.width < 1 || crop.height < 1) words.push('cropped');
  if (straighten !== 0) words.push(`${straighten.toFixed(1)}°`);
  if (g.geometry.vertical !== 0 || g.geometry.horizontal !== 0) words.push('righted');
  if (quarterTurns !== 0) words.push(`${quarterTurns * 90}° turn`);
  return words.join(', ') || 'Whole frame';
}
