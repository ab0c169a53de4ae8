import { Suspense, createElement, lazy, type ComponentType, type ReactNode } from 'react'
import { ErrorBoundary, type FallbackProps } from 'react-error-boundary'
import { Button } from './Button'

const moment = () => <p className="text-ink-2">One moment…</p>

/**
 * lazily is a component that comes after the first screen, before anybody asks for it: also when the server goes.
 * Where it has not come by then, that is said in its place, and nothing else goes with it.
 */
export function lazily<P extends object>(
  load: () => Promise<ComponentType<P>>,
  until: (props: P) => ReactNode = moment,
): ComponentType<P> {
  const later = () => lazy(async () => ({ default: await load() })) as unknown as ComponentType<P>
  let Later = later()
  const again = () => {
    Later = later()
  }
  soon(() => void load().catch(() => undefined))
  return function Lazily(props: P) {
    return (
      <ErrorBoundary FallbackComponent={Missing} onReset={again}>
        <Suspense fallback={until(props)}>{createElement(Later, props)}</Suspense>
      </ErrorBoundary>
    )
  }
}

function soon(fetch: () => void) {
  if (document.readyState === 'complete') window.setTimeout(fetch)
  else window.addEventListener('load', fetch)
}

function Missing({ resetErrorBoundary }: FallbackProps) {
  return (
    <p role="alert" className="flex flex-wrap items-center gap-x-3">
      This part of the page could not be fetched.
      <Button look="bare" onClick={resetErrorBoundary}>
        Try again
      </Button>
    </p>
  )
}
