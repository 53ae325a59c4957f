import { configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { api } from './api.ts';
import { bench } from './bench/benchSlice.ts';
import { loadBench, saveBench } from './bench/remembered.ts';
import { stock } from './stock/stockSlice.ts';
import { ground, loadGround, saveGround } from './ground/groundSlice.ts';

export const store = configureStore({
  reducer: { bench: bench.reducer, ground: ground.reducer, stock: stock.reducer, [api.reducerPath]: api.reducer },
  middleware: (all) => all({ serializableCheck: false, immutableCheck: false }).concat(api.middleware),
  preloadedState: { bench: loadBench(), ground: loadGround() },
});
export type State = ReturnType<typeof store.getState>;
export type Dispatch = typeof store.dispatch;
export const useAppDispatch = useDispatch.withTypes<Dispatch>();
export const useAppSelector = useSelector.withTypes<State>();

let saved = store.getState();
let timer: ReturnType<typeof setTimeout> | undefined;
const remember = (): void => {
  saveBench(saved.bench);
  saveGround(saved.ground);
};
store.subscribe(() => {
  const now = store.getState();
  if (now.bench === saved.bench && now.ground === saved.ground) return;
  saved = now;
  clearTimeout(timer);
  timer = setTimeout(remember, 150);
});
window.addEventListener('pagehide', remember);
