import { useLayoutEffect, useRef, useState } from 'react'

/** useWidth measures an element, so that a drawing can fill it. */
export function useWidth<T extends HTMLElement>() {
  const ref = useRef<T>(null)
  const [width, setWidth] = useState(0)
  useLayoutEffect(() => {
    const element = ref.current
    if (!element) return
    const watch = new ResizeObserver(([entry]) => entry && setWidth(entry.contentRect.width))
    watch.observe(element)
    return () => watch.disconnect()
  }, [])
  return [ref, width] as const
}
