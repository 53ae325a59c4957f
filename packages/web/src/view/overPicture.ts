import { lazy, type ComponentType } from 'react';

const loads = {
  ClipMarks: () => import('./ClipMarks.tsx'),
  LimitMark: () => import('./LimitMark.tsx'),
  Overview: () => import('./Overview.tsx'),
  PlaceMarks: () => import('./PlaceMarks.tsx'),
  StageTags: () => import('./StageTags.tsx'),
  WipeBar: () => import('./WipeBar.tsx'),
  ZoneMarks: () => import('./ZoneMarks.tsx'),
};
const later = <P extends object>(load: () => Promise<ComponentType<P>>): React.LazyExoticComponent<ComponentType<P>> =>
  lazy(async () => ({ default: await load() }));

// what lies over a picture at times, each fetched when the page has settled, or when it is first asked for
export const ClipMarks = later(() => loads.ClipMarks().then((m) => m.ClipMarks));
export const LimitMark = later(() => loads.LimitMark().then((m) => m.LimitMark));
export const Overview = later(() => loads.Overview().then((m) => m.Overview));
export const PlaceMarks = later(() => loads.PlaceMarks().then((m) => m.PlaceMarks));
export const StageTags = later(() => loads.StageTags().then((m) => m.StageTags));
export const WipeBar = later(() => loads.WipeBar().then((m) => m.WipeBar));
export const ZoneMarks = later(() => loads.ZoneMarks().then((m) => m.ZoneMarks));
// none is waited for later
const settledMs = 4000;
setTimeout(() => {
  for (const load of Object.values(loads)) load().catch(() => {});
}, settledMs);
