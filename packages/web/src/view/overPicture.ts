import { lazy } from 'react';

// what lies over a picture at times, each fetched when it is first asked for
export const ClipMarks = lazy(() => import('./ClipMarks.tsx').then((m) => ({ default: m.ClipMarks })));
export const LimitMark = lazy(() => import('./LimitMark.tsx').then((m) => ({ default: m.LimitMark })));
export const Overview = lazy(() => import('./Overview.tsx').then((m) => ({ default: m.Overview })));
export const PlaceMarks = lazy(() => import('./PlaceMarks.tsx').then((m) => ({ default: m.PlaceMarks })));
export const StageTags = lazy(() => import('./StageTags.tsx').then((m) => ({ default: m.StageTags })));
export const WipeBar = lazy(() => import('./WipeBar.tsx').then((m) => ({ default: m.WipeBar })));
export const ZoneMarks = lazy(() => import('./ZoneMarks.tsx').then((m) => ({ default: m.ZoneMarks })));
