export { marks } from './choosing.ts';
export { useSaying } from './useSaying.ts';
