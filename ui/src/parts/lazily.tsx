import { Suspense, lazy, type ComponentProps, type ComponentType } from 'react'

// eslint-disable-next-line @typescript-eslint/no-explicit-any -- a component of any props
type Any = ComponentType<any>

/** lazily is a component that comes when it is first shown. */
export function lazily<Name extends string, C extends Any>(load: () => Promise<Record<Name, C>>, name: Name) {
  const Later = lazy(async () => ({ default: (await load())[name] }))
  return function Lazily(props: ComponentProps<C>) {
    return (
      <Suspense fallback={<p className="text-ink-2">One moment…</p>}>
        <Later {...props} />
      </Suspense>
    )
  }
}
