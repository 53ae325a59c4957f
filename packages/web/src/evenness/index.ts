export { EvenMark, EvenMarksOf, useEvenMarks, useMarks, type EvenMarks } from './evenMarks.tsx';
