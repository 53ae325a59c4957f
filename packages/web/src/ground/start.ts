export { startNames } from './startWords.ts';
export { useLazyStartQuery } from './startApi.ts';
