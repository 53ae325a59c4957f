export { mendFrame } from './mendFrame.ts';
