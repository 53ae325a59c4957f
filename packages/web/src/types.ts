import type { CameraProfile, FileLens, Groundwork, Look, NoiseModel, Rendition } from '@dyepot/core';

/** What the server says of a frame. */
export interface Frame {
  id: number;
  shootId: number;
  name: string;
  path: string;
  hash: string;
  width: number;
  height: number;
  light: string;
  kelvin: number;
  tintDuv: number;
  profile: CameraProfile;
  camera: string;
  lens: string;
  mosaic: string;
  exif: { iso: number; shutterSeconds: number; aperture: number; focalMm: number; takenAt: string | null };
  missing: boolean;
  fileLens: FileLens | null;
  lightSource: number;
  neutral: readonly [number, number, number];
  noise: NoiseModel;
  groundwork: Groundwork | null;
  groundStamp: string;
  output: { width: number; height: number };
}
export interface ShootCard {
  id: number;
  name: string;
  lookId: number | null;
  lookRevision: number | null;
  createdAt: string;
  frameCount: number;
  lights: string[];
  cover: number[];
}
export interface Shoot {
  id: number;
  name: string;
  rendition: Rendition;
  leadFrameId: number | null;
  frames: Frame[];
  deliveries: number;
  look: { id: number; name: string; revision: number; strip: string[] } | null;
  witnessIds: number[];
}
export interface ShelfLook {
  id: number;
  name: string;
  family: string;
  revision: number;
  strip: string[];
  document: Look;
}
export interface FileSettings {
  format: 'jpeg' | 'tiff' | 'png';
  depth: 8 | 16;
  space: 'srgb' | 'p3';
  size: number | null;
  quality: number;
}
export interface Job {
  id: number;
  kind: 'import' | 'delivery';
  shootId: number;
  state: 'waiting' | 'running' | 'done' | 'cancelled';
  folder: string | null;
  lookName: string | null;
  lookRevision: number | null;
  settings: FileSettings | null;
  engineVersion: number;
  total: number;
  done: number;
  failed: number;
  secondsLeft: number | null;
  createdAt: string;
  finishedAt: string | null;
  items: {
    id: number;
    frameId: number | null;
    name: string;
    state: 'waiting' | 'running' | 'done' | 'failed';
    message: string | null;
    output: string | null;
  }[];
}
