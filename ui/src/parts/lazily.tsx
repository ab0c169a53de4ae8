import { Suspense, createElement, lazy, type ComponentType } from 'react'

/** lazily is a component that comes when it is first shown. */
export function lazily<P extends object>(load: () => Promise<ComponentType<P>>): ComponentType<P> {
  const Later = lazy(async () => ({ default: await load() })) as unknown as ComponentType<P>
  return function Lazily(props: P) {
    return <Suspense fallback={<p className="text-ink-2">One moment…</p>}>{createElement(Later, props)}</Suspense>
  }
}
