import type {
  CameraProfile,
  FileLens,
  Groundwork,
  GroundworkPart,
  Credit,
  Look,
  NoiseModel,
  Optics,
  OwnSteps,
  Proposed,
  Rendition,
  Repair,
  StockSheet,
} from '@dyepot/core';

/** What the server says of a frame. */
export interface Frame {
  id: number;
  shootId: number;
  name: string;
  path: string;
  /** the raw is Dyepot's own copy of an upload */
  own: boolean;
  hash: string;
  width: number;
  height: number;
  light: string;
  /** 0 none, 1–5, −1 rejected */
  rating: number;
  mark: string;
  /** a look of its own; null where it wears the shoot's */
  look: { id: number; revision: number } | null;
  kelvin: number;
  tintDuv: number;
  profile: CameraProfile;
  camera: string;
  lens: string;
  mosaic: string;
  /** what kind of finished picture it is; null where it is a raw */
  finished: string | null;
  exif: { iso: number; shutterSeconds: number; aperture: number; focalMm: number; takenAt: string | null };
  missing: boolean;
  /** why the raw may not be whole */
  doubt: string | null;
  fileLens: FileLens | null;
  lightSource: number;
  neutral: readonly [number, number, number];
  noise: NoiseModel;
  optics: Optics;
  groundwork: Groundwork | null;
  /** why the groundwork kept cannot be read */
  groundTrouble: string | null;
  groundVersion: number;
  groundStamp: string;
  /** steps of its own, on top of the look it wears; why those kept cannot be read; how often they were changed */
  steps: OwnSteps | null;
  stepsTrouble: string | null;
  stepsVersion: number;
  /** repairs of its plate, and how many there are: a shoot's list says only that; why those kept cannot be read; how often they were changed, and a short name of what they are */
  repairs: readonly Repair[];
  repairCount: number;
  repairTrouble: string | null;
  repairVersion: number;
  repairStamp: string;
  output: { width: number; height: number };
}
/** Steps that bring a frame near a finished picture; how far apart they are before and after, in hundredths of OKLab. */
export interface Towards {
  steps: Proposed[];
  before: number;
  after: number;
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
  look: { id: number; name: string; revision: number; newest: number; strip: string[]; broken: string | null } | null;
  witnessIds: number[];
}
/** A look as a card shows it. */
export interface LookCard {
  id: number;
  name: string;
  family: string;
  revision: number;
  strip: string[];
  notes: string;
  tags: string[];
  favourite: boolean;
  savedAt: string | null;
  broken: string | null;
}
/** A look at one revision, with its document. */
export interface ShelfLook {
  id: number;
  name: string;
  family: string;
  revision: number;
  newest: number;
  strip: string[];
  document: Look;
}
export interface Revision {
  revision: number;
  createdAt: string;
  strip: string[];
}
/** Work in progress on the bench, as the server keeps it. */
export interface Draft {
  id: number;
  lookId: number | null;
  revision: number | null;
  version: number;
  look: Look;
  past: object[];
  future: object[];
  changedAt: string;
}
export interface DraftCard {
  id: number;
  lookId: number | null;
  revision: number | null;
  name: string;
  steps: number;
  strip: string[];
  changedAt: string;
  broken: string | null;
}
export interface FileSettings {
  format: 'jpeg' | 'tiff' | 'png' | 'webp' | 'avif';
  depth: 8 | 16;
  space: 'srgb' | 'p3' | 'oprgb' | 'rec2020' | 'linear';
  size: number | null;
  sizeBy?: 'long' | 'short' | 'megapixels' | 'box';
  box?: readonly [number, number];
  quality: number;
  sharpen?: 'none' | 'screen' | 'matte' | 'glossy';
  taken?: boolean;
  credit?: Credit | null;
  namesLook?: boolean;
}
export interface Job {
  id: number;
  kind: 'import' | 'delivery';
  shootId: number;
  state: 'waiting' | 'running' | 'paused' | 'done' | 'cancelled' | 'failed';
  message: string | null;
  folder: string | null;
  lookName: string | null;
  lookRevision: number | null;
  settings: FileSettings | null;
  pattern: string;
  preset: string | null;
  also: { name?: string; folder: string; file: FileSettings }[];
  engineVersion: number;
  olderEngine: boolean;
  total: number;
  done: number;
  failed: number;
  secondsLeft: number | null;
  createdAt: string;
  finishedAt: string | null;
  failures: { id: number; name: string; message: string }[];
  /** frames finished last, the newest last, while it is not over */
  recent: { frameId: number; name: string }[];
}
/** A step of a job: what changed of it. */
export type JobNews = Pick<
  Job,
  'id' | 'kind' | 'shootId' | 'state' | 'message' | 'total' | 'done' | 'failed' | 'secondsLeft' | 'finishedAt'
> & {
  failure?: Job['failures'][number];
  finished?: Job['recent'][number];
};
/** How far comparing the frames of a shoot is. */
export interface EvennessNews {
  shootId: number;
  done: number;
  total: number;
  message: string | null;
}
export type TrashKind = 'shoot' | 'frame' | 'look' | 'draft' | 'preset' | 'stock';
/** A film stock as its card shows it; those that come with Dyepot have no number. */
export interface StockCard {
  id: number | null;
  name: string;
  revision: number;
  sheet: StockSheet | null;
  broken: string | null;
}
export interface ShelfStock {
  id: number;
  revision: number;
  newest: number;
  sheet: StockSheet;
}
export interface DraftedSheet {
  version: number;
  sheet: StockSheet;
  past: object[];
  future: object[];
  use: object;
}
export interface TrashItem {
  kind: TrashKind;
  id: number;
  name: string;
  words: string;
  takenOutAt: string;
  goesAt: string;
}
/** What an order asks before anything is delivered. */
export interface OrderQuestion {
  question: 'conflict' | 'doubtful' | 'room';
  message: string;
  names: string[];
  count: number;
}
export interface Settings {
  uploadLimitBytes: number;
  letterKeys: boolean;
}
/** What is set, and who asks: `away` where other machines are answered and people log in. */
export interface HouseFacts extends Settings {
  away: boolean;
  person: { id: number; name: string; role: 'look' | 'change' } | null;
}
/** What the server says of a place that should be neutral. */
export interface Balanced {
  kelvin: number;
  tintDuv: number;
  multipliers?: [number, number, number];
  camera?: [number, number, number];
}

/** The lens database named, and lenses found in it. */
export interface LensSource {
  folder: string | null;
  lenses: number;
  files: number;
  problems: string[];
}
export interface LensFound {
  key: string;
  maker: string;
  model: string;
  crop: number;
  focalMin: number;
  focalMax: number;
  has: string[];
  inRange: boolean;
}
/** Parts of groundwork under a name, for a camera (null: any) and a range of ISO. */
export interface GroundworkPreset {
  id: number;
  name: string;
  camera: string | null;
  isoFrom: number;
  isoTo: number;
  parts: GroundworkPart[];
  groundwork: Groundwork;
  automatic: boolean;
}

/** The folders in a folder of this machine. */
export interface Browsed {
  folder: string;
  above: string | null;
  folders: string[];
  raws: number;
  finished: number;
  more: number;
}
/** A draft as it is sent to be kept. */
export type DraftWish = Pick<Draft, 'lookId' | 'revision' | 'look' | 'past' | 'future'>;
