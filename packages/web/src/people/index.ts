export { cameIn, useDoorClosed } from './door.ts';
