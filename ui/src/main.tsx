import { QueryClientProvider } from '@tanstack/react-query'
import { StrictMode, Suspense, lazy } from 'react'
import { createRoot } from 'react-dom/client'
import { BrowserRouter, Navigate, Route, Routes } from 'react-router'
import { startBench } from './api/bench'
import { keepPages } from './api/door'
import { startLive } from './api/live'
import { startOutbox } from './api/outbox'
import { queries } from './api/queries'
import { Frame } from './frame/Frame'
import { Logging } from './frame/Logging'
import { RackScreen } from './screens/rack/RackScreen'
import './theme.css'

/** Screens that are not needed at once come after the first, before anybody asks for them: also when the network goes. */
const later = {
  instrument: () => import('./screens/instrument/InstrumentScreen'),
  instruments: () => import('./screens/instruments/InstrumentsScreen'),
  newInstrument: () => import('./screens/new-instrument/NewInstrumentScreen'),
  choices: () => import('./screens/choices/ChoicesScreen'),
  weeks: () => import('./screens/weeks/WeeksScreen'),
  start: () => import('./screens/sitting/StartScreen'),
  sitting: () => import('./screens/sitting/SittingScreen'),
  log: () => import('./screens/log/LogScreen'),
  hours: () => import('./screens/log/HoursScreen'),
  shop: () => import('./screens/shop/ShopScreen'),
  recipes: () => import('./screens/recipes/RecipesScreen'),
}
const BeginScreen = lazy(() => import('./screens/begin/BeginScreen').then((m) => ({ default: m.BeginScreen }))) // once in its life
const PairScreen = lazy(() => import('./screens/pair/PairScreen').then((m) => ({ default: m.PairScreen })))
const InstrumentScreen = lazy(() => later.instrument().then((m) => ({ default: m.InstrumentScreen })))
const InstrumentsScreen = lazy(() => later.instruments().then((m) => ({ default: m.InstrumentsScreen })))
const NewInstrumentScreen = lazy(() => later.newInstrument().then((m) => ({ default: m.NewInstrumentScreen })))
const ChoicesScreen = lazy(() => later.choices().then((m) => ({ default: m.ChoicesScreen })))
const WeeksScreen = lazy(() => later.weeks().then((m) => ({ default: m.WeeksScreen })))
const RecipesScreen = lazy(() => later.recipes().then((m) => ({ default: m.RecipesScreen })))
const StartScreen = lazy(() => later.start().then((m) => ({ default: m.StartScreen })))
const SittingScreen = lazy(() => later.sitting().then((m) => ({ default: m.SittingScreen })))
const LogScreen = lazy(() => later.log().then((m) => ({ default: m.LogScreen })))
const HoursScreen = lazy(() => later.hours().then((m) => ({ default: m.HoursScreen })))
const ShopScreen = lazy(() => later.shop().then((m) => ({ default: m.ShopScreen })))
window.addEventListener('load', () => Object.values(later).forEach((fetch) => void fetch()))

void startOutbox()
startLive()
startBench()
if (import.meta.env.PROD) window.addEventListener('load', keepPages)

const root = document.getElementById('root')
if (root)
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <BrowserRouter>
          <Logging>
            <Routes>
              <Route
                path="begin"
                element={
                  <Suspense fallback={null}>
                    <BeginScreen />
                  </Suspense>
                }
              />
              <Route
                path="pair"
                element={
                  <Suspense fallback={null}>
                    <PairScreen />
                  </Suspense>
                }
              />
              <Route element={<Frame />}>
                <Route index element={<Navigate to="/rack" replace />} />
                <Route path="rack" element={<RackScreen />} />
                <Route path="instruments" element={<InstrumentsScreen />} />
                <Route path="instruments/new" element={<NewInstrumentScreen />} />
                <Route path="instruments/:id" element={<InstrumentScreen />} />
                <Route path="instruments/:id/choices" element={<ChoicesScreen />} />
                <Route path="weeks" element={<WeeksScreen />} />
                <Route path="sitting" element={<StartScreen />} />
                <Route path="sittings/:id" element={<SittingScreen />} />
                <Route path="log" element={<LogScreen />} />
                <Route path="hours" element={<HoursScreen />} />
                <Route path="shop" element={<ShopScreen />} />
                <Route path="recipes" element={<RecipesScreen />} />
                <Route path="recipes/:id" element={<RecipesScreen />} />
                <Route path="*" element={<Lost />} />
              </Route>
            </Routes>
          </Logging>
        </BrowserRouter>
      </QueryClientProvider>
    </StrictMode>,
  )

function Lost() {
  return (
    <div className="panel m-4 max-w-xl p-6">
      <h1 className="name mb-2 text-2xl">Nothing hangs here</h1>
      <p className="text-ink-2">This address leads nowhere. The rack is behind the first entry of the band.</p>
    </div>
  )
}
