const finishKinds = [
  'apart',
  'toning',
  'fade',
  'wash',
  'glow',
  'halation',
  'lowSun',
  'leak',
  'vignette',
  'grain',
  'border',
  'overprint',
] as const;
/** Kinds that finish a picture. */
export type FinishKind = (typeof finishKinds)[number];
export const isFinish = (kind: string): kind is FinishKind => (finishKinds as readonly string[]).includes(kind);
