import { useVirtualizer } from '@tanstack/react-virtual'
import { scaleLinear } from 'd3-scale'
import { useCallback, useMemo, useRef, useState, type KeyboardEvent } from 'react'
import type { WeekRow, Weeks, WhatIf } from '../../api/client'
import { time } from '../../parts/threads/scale'
import { useWidth } from '../../parts/useWidth'
import { BeadCard } from './BeadCard'
import type { Reach } from './Beads'
import { useGestures } from './gestures'
import { Ground } from './Ground'
import type { Moving } from './moving'
import { Row, rowHeight } from './Row'
import { RowLabel } from './RowLabel'
import { Strip, StripNames } from './Strip'
import type { TimeView } from './view'

interface Props {
  head: Weeks
  row: (index: number) => WeekRow | undefined
  onSeen: (first: number, last: number) => void
  view: TimeView
  moving: Moving
}

/** How near a pointer must come to a free start, in pixels. */
const near = 14

/** Chart is the threads of all pieces under what the days hold; panned, zoomed, and bent by hand. */
export function Chart({ head, row, onSeen, view, moving }: Props) {
  const [ref, width] = useWidth<HTMLDivElement>()
  const list = useRef<HTMLDivElement>(null)
  const [open, setOpen] = useState<{ row: WeekRow; reach: Reach }>()
  const { start, span } = view
  const x = useMemo(() => scaleLinear([start, start + span], [0, Math.max(1, width)]), [start, span, width])
  const timeAt = (clientX: number) => x.invert(clientX - (ref.current?.getBoundingClientRect().left ?? 0))
  const { press, tapped } = useGestures(list, {
    view,
    width: Math.max(1, width),
    timeAt,
    moving,
    moveTo: (clientX) => moving.moveTo(timeAt(clientX), (near / Math.max(1, width)) * view.span),
  })
  const onOpen = useCallback((r: WeekRow, reach: Reach) => tapped() && setOpen({ row: r, reach }), [tapped])
  const moved = useMemo(() => byInstrument(moving.answer), [moving.answer])
  // eslint-disable-next-line react-hooks/incompatible-library -- its answers are not handed to anything memoized
  const rows = useVirtualizer({
    count: head.total,
    getScrollElement: () => list.current,
    estimateSize: () => rowHeight,
    overscan: 2,
    onChange: (v) => onSeen(v.range?.startIndex ?? 0, v.range?.endIndex ?? 0),
  })
  const effects = new Map(moving.answer?.effects.map((e) => [e.instrumentId, e]))
  const held = moving.bead &&
    moving.pieceId !== undefined &&
    moving.at !== undefined && {
      event: moving.bead.event,
      pieceId: moving.pieceId,
      at: moving.at,
      starts: moving.starts,
      free: moving.why === '',
      bead: moving.bead,
    }
  const keys = (e: KeyboardEvent) => {
    if (e.target !== e.currentTarget) return
    const step = view.span / 8
    if (e.key === 'ArrowLeft') view.pan(-step)
    else if (e.key === 'ArrowRight') view.pan(step)
    else if (e.key === '+') view.zoom(0.8)
    else if (e.key === '-') view.zoom(1.25)
    else return
    e.preventDefault()
  }
  return (
    <div className="grid grid-cols-[92px_minmax(0,1fr)] md:grid-cols-[184px_minmax(0,1fr)]">
      <StripNames head={head} />
      <div ref={ref} className="overflow-hidden">
        {width > 0 && <Strip head={head} x={x} width={width} />}
      </div>
      <div
        ref={list}
        role="group"
        tabIndex={0}
        aria-label="Threads of all pieces. Arrow keys pan, plus and minus zoom; Tab reaches the sittings."
        className="relative col-span-2 max-h-[calc(100dvh-13.5rem)] min-h-64 touch-pan-y overflow-y-auto border-y border-line select-none"
        onKeyDown={keys}
        data-threads
      >
        <div className="relative" style={{ height: rows.getTotalSize() }}>
          <div className="pointer-events-none absolute inset-y-0 right-0 left-[92px] overflow-hidden md:left-[184px]">
            {width > 0 && (
              <Ground days={head.days} x={x} width={width} height={rows.getTotalSize()} now={time(head.now.at)} />
            )}
          </div>
          {rows.getVirtualItems().map((item) => {
            const data = row(item.index)
            return (
              <div
                key={item.key}
                className="absolute inset-x-0 grid grid-cols-[92px_minmax(0,1fr)] md:grid-cols-[184px_minmax(0,1fr)]"
                style={{ top: item.start, height: rowHeight }}
              >
                {data && <RowLabel row={data} effect={effects.get(data.instrumentId)} />}
                {data && width > 0 && (
                  <div className="overflow-hidden border-t border-line">
                    <Row
                      row={data}
                      x={x}
                      width={width}
                      now={time(head.now.at)}
                      held={held && moving.instrumentId === data.instrumentId ? held : undefined}
                      moved={moved.get(data.instrumentId)}
                      onOpen={onOpen}
                      onPress={press}
                    />
                  </div>
                )}
              </div>
            )
          })}
        </div>
      </div>
      {open && (
        <BeadCard
          key={open.reach.bead.event.stepId + open.reach.bead.event.coat}
          row={open.row}
          reach={open.reach}
          close={() => setOpen(undefined)}
          onMove={(bead) => {
            moving.take(bead, open.row.instrumentId, open.reach.strand.pieceId)
            setOpen(undefined)
          }}
        />
      )}
    </div>
  )
}

/** byInstrument is what a supposed plan moves; a row that nothing moves is not drawn again. */
const byInstrument = (answer: WhatIf | undefined) => Map.groupBy(answer?.moved ?? [], (m) => m.instrumentId)
