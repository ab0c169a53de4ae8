import { memo } from 'react'
import type { Bead, Starts, Strand, WeekRow, WhatIf } from '../../api/client'
import { StrandLine } from '../../parts/threads/StrandLine'
import { time } from '../../parts/threads/scale'
import { Beads, type Reach } from './Beads'

export const rowHeight = 72

interface Props {
  row: WeekRow
  x: (at: number) => number
  width: number
  now: number
  held?: { event: Bead['event']; pieceId: string; at: number; starts?: Starts; free: boolean; bead: Bead }
  moved?: WhatIf['moved']
  onOpen: (row: WeekRow, reach: Reach) => void
  onPress: (row: WeekRow, reach: Reach) => void
}

/** What is worked on beside the neck runs on its thread. */
const lower: Strand['kind'][] = ['neck', 'fretboard', 'frets']

/** strandY is where each piece's thread runs: body above, neck below, joined they share the upper. */
function strandY(row: WeekRow, strand: Strand) {
  const both = ['body', 'neck'].every((kind) => row.pieces.some((p) => p.kind === kind))
  if (!both) return rowHeight / 2
  return lower.includes(strand.kind) ? rowHeight - 20 : 22
}

/** Row is an instrument's threads through the weeks. */
export const Row = memo(function Row({ row, x, width, now, held, moved, onOpen, onPress }: Props) {
  const whole = row.pieces.find((p) => p.kind === 'whole')
  const joint = whole?.from ? x(time(whole.from)) : undefined
  const upper = row.pieces.find((p) => p.kind !== 'neck') ?? row.pieces[0]
  const promise = x(time(row.outlook.promise.date + 'T18:00:00Z'))
  const finish = row.outlook.finish ? x(time(row.outlook.finish.at)) : 0
  const stop = row.pieces.find((p) => p.beads.some((b) => !b.done)) ?? row.pieces[0]
  return (
    <svg width={width} height={rowHeight} className="block" data-week-row={row.name}>
      {row.pieces.map((strand) => {
        const y = strandY(row, strand)
        const joins = strand.kind === 'neck' && joint !== undefined && upper !== strand
        return (
          <g key={strand.pieceId}>
            {held?.pieceId === strand.pieceId && <Glow starts={held.starts} x={x} y={y} width={width} />}
            <StrandLine
              strand={strand}
              x={x}
              y={y}
              now={now}
              left={0}
              right={width}
              until={joins ? joint - 30 : strand === upper && joint !== undefined ? joint : undefined}
              critical={row.critical}
              bare
            />
            {joins && joint > 0 && joint - 30 < width && <Joint x={joint} from={y} to={22} />}
            <Beads
              strand={strand}
              x={x}
              y={y}
              width={width}
              first={strand === stop}
              held={held?.event}
              onOpen={(reach) => onOpen(row, reach)}
              onPress={(reach) => onPress(row, reach)}
            />
            {(moved ?? [])
              .filter((m) => m.pieceId === strand.pieceId)
              .map((m) => (
                <circle
                  key={`${m.event.stepId}/${m.event.coat}`}
                  cx={x(time(m.start))}
                  cy={y}
                  r={5}
                  className="fill-none stroke-ready"
                  strokeWidth="1.5"
                  strokeDasharray="2 2"
                />
              ))}
            {held?.pieceId === strand.pieceId && <InHand held={held} x={x} y={y} />}
          </g>
        )
      })}
      {upper && promise > finish && finish < width && (
        <line
          x1={Math.max(0, finish)}
          x2={Math.min(width, promise)}
          y1={strandY(row, upper)}
          y2={strandY(row, upper)}
          className="stroke-umber"
          strokeWidth="1.2"
          strokeDasharray="1 5"
        />
      )}
      <circle
        cx={promise}
        cy={upper ? strandY(row, upper) : rowHeight / 2}
        r={7.5}
        className={`fill-ground ${row.outlook.late ? 'stroke-late' : 'stroke-ready'}`}
        strokeWidth="3"
      >
        <title>
          {row.name}, promised {row.outlook.promise.said}
        </title>
      </circle>
    </svg>
  )
})

function Joint({ x, from, to }: { x: number; from: number; to: number }) {
  return (
    <path
      d={`M${x - 30} ${from}C${x - 12} ${from} ${x - 18} ${to} ${x} ${to}`}
      className="fill-none stroke-umber"
      strokeWidth="1.5"
    />
  )
}

/** Glow lights the stretches in which a sitting may begin. */
function Glow({ starts, x, y, width }: { starts?: Starts; x: (at: number) => number; y: number; width: number }) {
  return (starts?.stretches ?? [])
    .filter((s) => s.free && x(time(s.to)) > 0 && x(time(s.from)) < width)
    .map((s) => (
      <rect
        key={s.from}
        data-glow
        x={x(time(s.from))}
        width={Math.max(1.5, x(time(s.to)) - x(time(s.from)))}
        y={y - 15}
        height={30}
        className="fill-ready-fill stroke-ready"
        strokeWidth="0.6"
      />
    ))
}

function InHand({ held, x, y }: { held: NonNullable<Props['held']>; x: (at: number) => number; y: number }) {
  const at = x(held.at)
  return (
    <g data-in-hand className={held.free ? 'stroke-ready' : 'stroke-late'} strokeWidth="2.5">
      <line x1={at} x2={at} y1={y - 18} y2={y + 18} strokeDasharray={held.free ? undefined : '4 3'} />
      <circle cx={at} cy={y} r={9} className={held.free ? 'fill-ready-fill' : 'fill-late-fill'} />
    </g>
  )
}
