import { configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { api } from './api.ts';
import { bench, loadBench, saveBench } from './bench/benchSlice.ts';

export const store = configureStore({
  reducer: { bench: bench.reducer, [api.reducerPath]: api.reducer },
  middleware: (all) => all().concat(api.middleware),
  preloadedState: { bench: loadBench() },
});
export type State = ReturnType<typeof store.getState>;
export type Dispatch = typeof store.dispatch;
export const useAppDispatch = useDispatch.withTypes<Dispatch>();
export const useAppSelector = useSelector.withTypes<State>();

let saved = store.getState().bench;
let timer: ReturnType<typeof setTimeout> | undefined;
const keep = (): void => { saveBench(saved); };
store.subscribe(() => {
  const { bench: now } = store.getState();
  if (now === saved) return;
  saved = now;
  clearTimeout(timer);
  timer = setTimeout(keep, 150);
});
window.addEventListener('pagehide', keep);
