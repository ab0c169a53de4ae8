import type { Bead, EventRef, PieceView } from '../../api/client'
import { BeadMark } from '../BeadMark'
import { beadPlaces, time, type DayScale } from './scale'

interface Props {
  piece: PieceView
  x: DayScale
  y: number
  now: number
  /** Where the thread ends. */
  until: number
  /** Where it joins another thread. */
  joins?: { x: number; y: number }
  /** Beads only: the thread under them is another's. */
  bare?: boolean
  chosen?: EventRef
  onChoose?: (event: EventRef) => void
}

/** Thread is one piece through the days: beads are work, plain thread is drying, frosted while it still is. */
export function Thread({ piece, x, y, now, until, joins, bare, chosen, onChoose }: Props) {
  const first = piece.beads[0]
  const last = piece.beads.at(-1)
  if (!first || !last) return null
  const places = beadPlaces(piece.beads, x, now)
  const from = places[0] ?? 0
  const done = piece.beads.findLastIndex((b) => b.done)
  const end = joins ? (places.at(-1) ?? 0) : until
  const next = piece.beads.find((b) => !b.done)
  return (
    <g>
      {!bare && <line x1={from} x2={Math.max(from, end)} y1={y} y2={y} className="stroke-umber" strokeWidth="1.5" />}
      {!bare && done >= 0 && (
        <line x1={from} x2={places[done]} y1={y} y2={y} className="stroke-umber" strokeWidth="4" />
      )}
      {joins && <Join from={end} to={joins} y={y} />}
      {piece.frost && <FrostBand from={x(Math.max(now, time(piece.frost.from)))} to={x(time(piece.frost.to))} y={y} />}
      {piece.beads.map((bead, i) => (
        <BeadButton
          key={`${bead.event.stepId}/${bead.event.coat}`}
          bead={bead}
          x={places[i] ?? 0}
          y={y}
          next={bead === next}
          chosen={chosen?.stepId === bead.event.stepId && chosen.coat === bead.event.coat}
          onChoose={onChoose}
        />
      ))}
    </g>
  )
}

function Join({ from, to, y }: { from: number; to: { x: number; y: number }; y: number }) {
  const start = Math.min(from, to.x - 20)
  const bend = Math.max(start, to.x - 44)
  return (
    <path
      d={`M${start} ${y}H${bend}C${bend + 26} ${y} ${to.x - 26} ${to.y} ${to.x} ${to.y}`}
      className="fill-none stroke-umber"
      strokeWidth="1.5"
    />
  )
}

export function FrostBand({ from, to, y }: { from: number; to: number; y: number }) {
  if (to - from < 3) return null
  const flakes = Array.from({ length: Math.floor((to - from) / 12) }, (_, i) => from + 6 + i * 12)
  return (
    <g>
      <rect
        x={from}
        y={y - 7}
        width={to - from}
        height={14}
        className="fill-drying-fill stroke-drying"
        strokeWidth="1"
      />
      {flakes.map((at) => (
        <path
          key={at}
          d={`M${at - 3} ${y}h6M${at - 1.5} ${y - 2.6}l3 5.2M${at + 1.5} ${y - 2.6}l-3 5.2`}
          className="stroke-drying"
          opacity="0.6"
        />
      ))}
    </g>
  )
}

const colours = {
  ready: 'fill-ready-fill stroke-ready',
  drying: 'fill-drying-fill stroke-drying',
  closing: 'fill-closing-fill stroke-closing',
  waiting: 'fill-waiting-fill stroke-waiting',
  late: 'fill-late-fill stroke-late',
  finished: 'fill-umber stroke-umber',
} as const

function BeadButton({
  bead,
  x,
  y,
  next,
  chosen,
  onChoose,
}: {
  bead: Bead
  x: number
  y: number
  next: boolean
  chosen: boolean
  onChoose?: Props['onChoose']
}) {
  const size = Math.min(10, 4.5 + bead.minutes / 30)
  const colour = bead.skipped
    ? 'fill-none stroke-ink-3'
    : bead.done
      ? 'fill-umber stroke-umber'
      : next
        ? colours[bead.state]
        : 'fill-ground stroke-umber'
  const label = `${bead.title}, ${bead.done ? 'done' : 'planned'} ${bead.when}`
  return (
    <g onClick={() => onChoose?.(bead.event)} className={onChoose ? 'cursor-pointer' : ''} strokeWidth="2">
      <title>{label}</title>
      <rect x={x - 11} y={y - 22} width={22} height={44} fill="transparent" stroke="none" />
      {chosen && (
        <circle cx={x} cy={y} r={size + 6} className="fill-none stroke-ink" strokeWidth="1.5" strokeDasharray="3 3" />
      )}
      <BeadMark kind={bead.kind} method={bead.method} x={x} y={y} size={next ? size + 2 : size} className={colour} />
    </g>
  )
}
