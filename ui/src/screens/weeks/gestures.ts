import { useEffect, useRef, type PointerEvent, type RefObject } from 'react'
import type { WeekRow } from '../../api/client'
import { toast } from '../../parts/toasts'
import type { Reach } from './Beads'
import type { Moving } from './moving'
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

/** How far a pointer goes before it drags. */
const dragFrom = 5

/** useDrag lets a bead be taken and put elsewhere; a press that goes nowhere is a tap. */
export function useDrag(moving: Moving, moveTo: (clientX: number) => void) {
  const drag = useRef<{ row: WeekRow; reach: Reach; from: number; on: boolean }>(undefined)
  const dragged = useRef(false)
  return {
    take: (row: WeekRow, reach: Reach, e: PointerEvent) => {
      dragged.current = false
      reach.element.setPointerCapture(e.pointerId)
      drag.current = { row, reach, from: e.clientX, on: false }
    },
    /** move reports whether a bead is in hand. */
    move: (e: PointerEvent) => {
      const d = drag.current
      if (!d) return false
      if (!d.on && Math.abs(e.clientX - d.from) < dragFrom) return true
      if (!d.on) moving.take(d.reach.bead, d.row.instrumentId, d.reach.strand.pieceId)
      d.on = true
      moveTo(e.clientX)
      return true
    },
    up: () => {
      const d = drag.current
      drag.current = undefined
      dragged.current = d?.on ?? false
      if (!d?.on) return
      const refusal = moving.put()
      if (refusal) toast({ bad: true, text: 'It stays where it was', detail: refusal })
    },
    cancel: () => {
      if (drag.current?.on) moving.leave()
      drag.current = undefined
    },
    /** tapped reports whether the press that ends here was a tap. */
    tapped: () => {
      const tap = !dragged.current
      dragged.current = false
      return tap
    },
  }
}
