import { useEffect, useRef, type PointerEvent, type RefObject } from 'react'
import type { TimeView } from './view'

/** useWheel pans by a sideways wheel, or with shift, and zooms with ctrl, about the pointer. */
export function useWheel(ref: RefObject<HTMLElement | null>, view: TimeView, timeAt: (clientX: number) => number) {
  const now = useRef({ view, timeAt })
  useEffect(() => {
    now.current = { view, timeAt }
  })
  useEffect(() => {
    const element = ref.current
    if (!element) return
    const wheel = (e: WheelEvent) => {
      const { view: v, timeAt: at } = now.current
      const sideways = e.shiftKey ? e.deltaY : e.deltaX
      if (e.ctrlKey) v.zoom(Math.exp(e.deltaY * 0.003), at(e.clientX))
      else if (Math.abs(sideways) > Math.abs(e.shiftKey ? 0 : e.deltaY))
        v.pan((sideways / element.clientWidth) * v.span)
      else return
      e.preventDefault()
    }
    element.addEventListener('wheel', wheel, { passive: false })
    return () => element.removeEventListener('wheel', wheel)
  }, [ref])
}

/** usePan lets one hand push the days along, and two fingers stretch them. */
export function usePan(view: TimeView, width: number, timeAt: (clientX: number) => number) {
  const fingers = useRef(new Map<number, number>())
  return {
    down: (e: PointerEvent) => {
      fingers.current.set(e.pointerId, e.clientX)
    },
    move: (e: PointerEvent) => {
      const before = fingers.current.get(e.pointerId)
      if (before === undefined) return
      const other = [...fingers.current].find(([id]) => id !== e.pointerId)?.[1]
      fingers.current.set(e.pointerId, e.clientX)
      if (other === undefined) view.pan(((before - e.clientX) / width) * view.span)
      else {
        const was = Math.max(24, Math.abs(before - other))
        const is = Math.max(24, Math.abs(e.clientX - other))
        view.zoom(was / is, timeAt((e.clientX + other) / 2))
      }
    },
    up: (e: PointerEvent) => {
      fingers.current.delete(e.pointerId)
    },
  }
}
