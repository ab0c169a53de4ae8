import type { ReactNode } from 'react'

/** ScreenTitle heads a screen and names its tab; the focus comes to it when nothing else is nearer. */
export function ScreenTitle({ tab, children }: { tab: string; children?: ReactNode }) {
  return (
    <>
      <title>{`${tab} · Umberfrost`}</title>
      <h1 tabIndex={-1} className="name text-[28px] outline-none">
        {children ?? tab}
      </h1>
    </>
  )
}
