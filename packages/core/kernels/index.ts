export { scene } from './scene';
export { matrix } from './matrix';
export { response } from './response';
export { saturation, grade, mono } from './oklab';
export { curve } from './curve';
export { encode } from './encode';
export { level, demosaic, halve } from './demosaic';
