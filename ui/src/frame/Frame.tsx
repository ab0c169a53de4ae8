import { Moon, Sun } from 'lucide-react'
import { Suspense, useEffect, useRef } from 'react'
import { ErrorBoundary } from 'react-error-boundary'
import { NavLink, Navigate, Outlet, useLocation } from 'react-router'
import { Problem } from '../api/client'
import { useDoor } from '../api/door'
import { useOutside } from '../api/outside'
import { useReference } from '../api/queries'
import { Connection } from './Connection'
import { Keys } from './Keys'
import { InstrumentsIcon, Mark, RackIcon, ShopIcon, WeeksIcon } from './icons'
import { Button } from '../parts/Button'
import { lazily } from '../parts/lazily'
import { Tray } from '../parts/what-if/Tray'
import { setTheme, useTheme } from './theme'
import { Timers } from './Timers'
import { Who } from './Who'
import { Toasts } from './Toasts'

const Tell = lazily(() => import('./Tell').then((m) => m.Tell))

const entries = [
  { to: '/rack', word: 'Rack', Icon: RackIcon },
  { to: '/instruments', word: 'Instruments', Icon: InstrumentsIcon },
  { to: '/weeks', word: 'Weeks', Icon: WeeksIcon },
  { to: '/shop', word: 'Shop', Icon: ShopIcon },
]

/** Frame is the band with the navigation, and the screen beside it. */
export function Frame() {
  const { error } = useReference()
  const outside = useOutside()
  useDoor()
  const whole = useLocation().pathname.startsWith('/sittings/') // a sitting has the screen for itself
  if (outside) return <Navigate to="/pair" replace />
  if (error instanceof Problem && error.notBegun) return <Navigate to="/begin" replace />
  return (
    <div className="flex min-h-dvh flex-col md:flex-row">
      <a
        href="#screen"
        className="sr-only focus:not-sr-only focus:fixed focus:top-2 focus:left-2 focus:z-50 focus:bg-raised focus:p-3"
      >
        Skip to the screen
      </a>
      {!whole && <Band />}
      <Screen />
      <Toasts />
      <Keys />
      <Tell />
    </div>
  )
}

/** Screen is what the address names. A screen that breaks takes nothing else with it. */
function Screen() {
  const { pathname } = useLocation()
  const main = useRef<HTMLElement>(null)
  const shown = useRef(pathname)
  useEffect(() => {
    if (shown.current === pathname) return
    shown.current = pathname
    main.current?.focus() // a new screen begins at its head
    window.scrollTo(0, 0)
  }, [pathname])
  return (
    <main ref={main} id="screen" tabIndex={-1} className="min-w-0 flex-1 pb-20 outline-none md:pb-0">
      <Connection />
      <Timers />
      <ErrorBoundary resetKeys={[pathname]} FallbackComponent={Broken}>
        <Suspense
          fallback={
            <p className="p-6 text-ink-2" aria-busy="true">
              One moment…
            </p>
          }
        >
          <Outlet />
        </Suspense>
      </ErrorBoundary>
      <Tray />
    </main>
  )
}

function Broken({ error, resetErrorBoundary }: { error: unknown; resetErrorBoundary: () => void }) {
  return (
    <div className="panel m-4 max-w-xl p-6" role="alert">
      <h1 className="name mb-2 text-2xl">This screen has broken</h1>
      <p className="mb-4 text-ink-2">
        What you logged and typed is kept. The other screens go on working. {error instanceof Error && error.message}
      </p>
      <Button onClick={resetErrorBoundary}>Show it again</Button>
    </div>
  )
}

function Band() {
  return (
    <nav
      aria-label="Screens"
      className="fixed inset-x-0 bottom-0 z-30 flex bg-band text-band-text md:sticky md:top-0 md:h-dvh md:w-[84px] md:shrink-0 md:flex-col"
    >
      <div className="hidden h-[72px] place-items-center md:grid">
        <Mark className="size-11" />
      </div>
      {entries.map(({ to, word, Icon }) => (
        <NavLink
          key={to}
          to={to}
          className={({ isActive }) =>
            `flex min-h-14 flex-1 flex-col items-center justify-center gap-1 text-[13px] hover:bg-band-on md:min-h-[62px] md:flex-none md:border-l-4 ${isActive ? 'bg-band-on font-semibold md:border-drying-fill' : 'md:border-transparent'}`
          }
        >
          <Icon className="size-6" />
          {word}
        </NavLink>
      ))}
      <div className="flex items-center md:mt-auto md:flex-col md:pb-3">
        <Who />
        <ThemeSwitch />
      </div>
    </nav>
  )
}

function ThemeSwitch() {
  const now = useTheme()
  const other = now === 'day' ? 'night' : 'day'
  const Icon = now === 'day' ? Moon : Sun
  return (
    <button
      className="grid min-h-14 min-w-14 place-items-center hover:bg-band-on md:w-full"
      aria-label={`Change to the ${other} theme`}
      onClick={() => setTheme(other)}
    >
      <Icon className="size-5" />
    </button>
  )
}
