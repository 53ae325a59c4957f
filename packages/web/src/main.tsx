import '@fontsource-variable/bricolage-grotesque';
import '@fontsource-variable/instrument-sans';
import { ChakraProvider } from '@chakra-ui/react';
import { lazy, StrictMode, Suspense, useEffect } from 'react';
import { createRoot } from 'react-dom/client';
import { ErrorBoundary } from 'react-error-boundary';
import { Provider } from 'react-redux';
import { BrowserRouter, Navigate, Route, Routes, useLocation } from 'react-router';
import './app.css';
import './bench/bench.css';
import './view/view.css';
import './bench/tray.css';
import './where/where.css';
import './shoots/shoots.css';
import './shelf/shelf.css';
import './ground/ground.css';
import './bench/tables.css';
import './kit/drawing.css';
import './steps/fitting.css';
import './house/house.css';
import './stock/stock.css';
import { api, useSettingsQuery } from './api.ts';
import { keepDrafts } from './bench/keepDraft.ts';
import { keepOwnSteps } from './bench/keepOwn.ts';
import { cameIn, useDoorClosed } from './people/index.ts';
import { AwaySign } from './house/AwaySign.tsx';
import { Broken } from './house/Broken.tsx';
import { lazyPage } from './house/lazyPage.ts';
import { useNews } from './house/useNews.ts';
import { Notices } from './kit/notices.tsx';
import { watchHand } from './kit/handAtRest.ts';
import { setLetterKeys } from './kit/useShortcut.ts';
import { WaitingPage } from './kit/Waiting.tsx';
import { keepNothing } from './saving/index.ts';
import { store } from './store.ts';
import { system } from './theme.ts';
import { loadFilm } from './view/withFilm.ts';

const pages = {
  shoots: () => import('./shoots/ShootsScreen.tsx'),
  shoot: () => import('./shoots/ShootScreen.tsx'),
  evenness: () => import('./evenness/EvennessScreen.tsx'),
  swatches: () => import('./swatches/SwatchScreen.tsx'),
  compare: () => import('./compare/CompareScreen.tsx'),
  bench: () => import('./bench/BenchScreen.tsx'),
  ground: () => import('./ground/GroundScreen.tsx'),
  stock: () => import('./stock/StockScreen.tsx'),
  shelf: () => import('./shelf/ShelfScreen.tsx'),
  deliveries: () => import('./deliveries/DeliveriesScreen.tsx'),
  trash: () => import('./trash/TrashScreen.tsx'),
  people: () => import('./people/PeopleScreen.tsx'),
  link: () => import('./people/LinkScreen.tsx'),
  nowhere: () => import('./house/NowhereScreen.tsx'),
};
const ShootsScreen = lazyPage(pages.shoots);
const ShootScreen = lazyPage(pages.shoot);
const EvennessScreen = lazyPage(pages.evenness);
const SwatchScreen = lazyPage(pages.swatches);
const CompareScreen = lazyPage(pages.compare);
const BenchScreen = lazyPage(pages.bench);
const GroundScreen = lazyPage(pages.ground);
const StockScreen = lazyPage(pages.stock);
const ShelfScreen = lazyPage(pages.shelf);
const DeliveriesScreen = lazyPage(pages.deliveries);
const TrashScreen = lazyPage(pages.trash);
const PeopleScreen = lazyPage(pages.people);
const LinkScreen = lazyPage(pages.link);
const LogIn = lazy(() => import('./people/LogIn.tsx'));
const NowhereScreen = lazyPage(pages.nowhere);
watchHand();
/** When the first page has settled the others are fetched too: they then open at once, and while the server is away. */
const settledMs = 4000;
const behindLink = window.location.pathname.startsWith('/link/');
setTimeout(() => {
  if (behindLink) return;
  for (const load of Object.values(pages)) load().catch(() => {});
  loadFilm().catch(() => {});
  import('./legacy.ts').then((m) => m.bringOldWorkIn(store)).catch(() => {});
}, settledMs);

/** Whoever has a link sees what it shows, and asks the server for nothing else. */
function App(): React.JSX.Element {
  const { pathname } = useLocation();
  if (!behindLink) return <House pathname={pathname} />;
  return (
    <ErrorBoundary FallbackComponent={Broken}>
      <Suspense fallback={<WaitingPage page="Opening" words="Opening…" />}>
        <Routes>
          <Route path="/link/:token" element={<LinkScreen />} />
        </Routes>
      </Suspense>
    </ErrorBoundary>
  );
}
function House({ pathname }: { pathname: string }): React.JSX.Element {
  const closed = useDoorClosed(),
    { data: settings } = useSettingsQuery();
  useNews(closed);
  useEffect(() => {
    setLetterKeys(settings?.letterKeys ?? true);
    keepNothing(settings?.person?.role === 'look');
    if (settings?.person) cameIn();
  }, [settings]);
  return (
    <>
      <a className="skip-link" href="#main">
        Skip to the work
      </a>
      <ErrorBoundary FallbackComponent={Broken} resetKeys={[pathname]}>
        <Suspense fallback={<WaitingPage page="Opening" words="Opening…" />}>
          <Routes>
            <Route path="/" element={<Navigate to="/shoots" replace />} />
            <Route path="/shoots" element={<ShootsScreen />} />
            <Route path="/shoots/:id" element={<ShootScreen />} />
            <Route path="/shoots/:id/swatches" element={<SwatchScreen />} />
            <Route path="/shoots/:id/compare" element={<CompareScreen />} />
            <Route path="/shoots/:id/evenness" element={<EvennessScreen />} />
            <Route path="/ground" element={<GroundScreen />} />
            <Route path="/bench" element={<BenchScreen />} />
            <Route path="/stock" element={<StockScreen />} />
            <Route path="/shelf" element={<ShelfScreen />} />
            <Route path="/deliveries" element={<DeliveriesScreen />} />
            <Route path="/trash" element={<TrashScreen />} />
            <Route path="/people" element={<PeopleScreen />} />
            <Route path="*" element={<NowhereScreen />} />
          </Routes>
        </Suspense>
      </ErrorBoundary>
      <section id="menus" aria-label="Menus" />
      {closed && (
        <Suspense>
          <LogIn />
        </Suspense>
      )}
      <AwaySign />
      <Notices />
    </>
  );
}

// what the page will ask for first is asked for before it is drawn
const asked = /^\/shoots\/(\d{1,15})$/.exec(window.location.pathname)?.[1];
if (asked) void store.dispatch(api.endpoints.shoot.initiate(Number(asked)));
if (window.location.pathname === '/shelf') void store.dispatch(api.endpoints.looks.initiate());

keepDrafts(store);
keepOwnSteps(store);

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
