import { useGesture } from '@use-gesture/react'
import { useCallback, useRef, type RefObject } from 'react'
import type { WeekRow } from '../../api/client'
import { toast } from '../../parts/toasts'
import type { Reach } from './Beads'
import type { Moving } from './moving'
import type { TimeView } from './view'

/** How far a pointer goes before it drags. */
const dragFrom = 5

interface Hands {
  view: TimeView
  width: number
  timeAt: (clientX: number) => number
  moving: Moving
  /** Moves what is in hand to where the pointer is. */
  moveTo: (clientX: number) => void
}

/**
 * useGestures lets one hand push the days along, or take a bead and put it elsewhere; two fingers stretch them. A wheel
 * pans sideways or with shift, and zooms with ctrl. A press that goes nowhere is a tap.
 */
export function useGestures(target: RefObject<HTMLElement | null>, { view, width, timeAt, moving, moveTo }: Hands) {
  const pressed = useRef<{ row: WeekRow; reach: Reach }>(undefined)
  const dragged = useRef(false)
  useGesture(
    {
      onPointerDown: () => {
        dragged.current = false
      },
      onPointerUp: () => {
        pressed.current = undefined
      },
      onDrag: ({ first, last, canceled, pinching, tap, xy: [clientX], delta: [by], memo }) => {
        if (tap) return // it went nowhere: the click that follows is the bead's
        const bead = first ? pressed.current : (memo as typeof pressed.current)
        dragged.current = true
        if (!bead) {
          if (!pinching) view.pan((-by / width) * view.span)
          return bead
        }
        if (first) moving.take(bead.reach.bead, bead.row.instrumentId, bead.reach.strand.pieceId)
        if (canceled) moving.leave()
        else if (!last) moveTo(clientX)
        else {
          const refusal = moving.put()
          if (refusal) toast({ bad: true, text: 'It stays where it was', detail: refusal })
        }
        return bead
      },
      onPinch: ({ offset: [scale], delta: [by], origin: [clientX], event, last }) => {
        if (last) return // nothing moves any more; a wheel's end tells its last turn again
        event.preventDefault()
        const zoom = event instanceof WheelEvent ? Math.exp(event.deltaY * 0.003) : (scale - by) / scale
        if (zoom !== 1) view.zoom(zoom, timeAt(clientX))
      },
      onWheel: ({ event, delta: [sideways, down], ctrlKey, shiftKey, last }) => {
        if (last) return
        const by = shiftKey ? sideways || down : sideways
        if (ctrlKey || Math.abs(by) <= (shiftKey ? 0 : Math.abs(down))) return
        event.preventDefault()
        view.pan((by / width) * view.span)
      },
    },
    {
      target,
      eventOptions: { passive: false },
      drag: { threshold: dragFrom, filterTaps: true, pointer: { touch: false, keys: false } },
      pinch: { scaleBounds: { min: 1e-6, max: 1e6 }, rubberband: false },
    },
  )
  /** press notes the bead that a pointer comes down on: a drag from here takes it. */
  const press = useCallback((row: WeekRow, reach: Reach) => {
    pressed.current = { row, reach }
  }, [])
  /** tapped reports whether the press that ends here was a tap. */
  const tapped = useCallback(() => {
    const tap = !dragged.current
    dragged.current = false
    return tap
  }, [])
  return { press, tapped }
}
