import '@fontsource-variable/bricolage-grotesque';
import '@fontsource-variable/instrument-sans';
import { ChakraProvider } from '@chakra-ui/react';
import { StrictMode, lazy, Suspense } from 'react';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { BrowserRouter, Navigate, Route, Routes } from 'react-router';
import './app.css';
import './bench/bench.css';
import './view/view.css';
import './bench/tray.css';
import './shoots/shoots.css';
import './shelf/shelf.css';
import './ground/ground.css';
import './bench/tables.css';
import './bench/fitting/fitting.css';
import { useJobEvents } from './jobs/useJobEvents.ts';
import { Notices } from './kit/notices.tsx';
import { Waiting } from './kit/Waiting.tsx';
import { store } from './store.ts';
import { system } from './theme.ts';

const ShootsScreen = lazy(() => import('./shoots/ShootsScreen.tsx'));
const ShootScreen = lazy(() => import('./shoots/ShootScreen.tsx'));
const BenchScreen = lazy(() => import('./bench/BenchScreen.tsx'));
const GroundScreen = lazy(() => import('./ground/GroundScreen.tsx'));
const ShelfScreen = lazy(() => import('./shelf/ShelfScreen.tsx'));
const DeliveriesScreen = lazy(() => import('./deliveries/DeliveriesScreen.tsx'));

function App(): React.JSX.Element {
  useJobEvents();
  return (
    <Suspense fallback={<Waiting words="Opening…" />}>
      <Routes>
        <Route path="/" element={<Navigate to="/shoots" replace />} />
        <Route path="/shoots" element={<ShootsScreen />} />
        <Route path="/shoots/:id" element={<ShootScreen />} />
        <Route path="/ground" element={<GroundScreen />} />
        <Route path="/bench" element={<BenchScreen />} />
        <Route path="/shelf" element={<ShelfScreen />} />
        <Route path="/deliveries" element={<DeliveriesScreen />} />
        <Route path="*" element={<Navigate to="/shoots" replace />} />
      </Routes>
      <Notices />
    </Suspense>
  );
}

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <Provider store={store}>
      <ChakraProvider value={system}>
        <BrowserRouter>
          <App />
        </BrowserRouter>
      </ChakraProvider>
    </Provider>
  </StrictMode>,
);
