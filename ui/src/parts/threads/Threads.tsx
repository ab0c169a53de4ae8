import type { CriticalWait, DayMark, EventRef, Outlook, PieceView } from '../../api/client'
import { useNotation } from '../notation'
import { useWidth } from '../useWidth'
import { dayLabels, dayScale, labelAt, time, withMonths, type DayScale } from './scale'
import { Longest } from './StrandLine'
import { Thread } from './Thread'

interface Props {
  days: DayMark[]
  pieces: PieceView[]
  outlook: Outlook
  now: string
  critical?: CriticalWait
  chosen?: EventRef
  onChoose?: (event: EventRef) => void
}

const top = 40
const least = 640
const roomy = 480

/** Threads shows the pieces of an instrument through the days, joined where they are brought together. */
export function Threads({ days, pieces, outlook, now, critical, chosen, onChoose }: Props) {
  const [ref, measured] = useWidth<HTMLDivElement>()
  const width = measured < roomy ? least : measured
  const rows = pieces.filter((p) => p.kind !== 'whole')
  const whole = pieces.find((p) => p.kind === 'whole')
  const rowHeight = rows.length > 3 ? 40 : 50
  const height = top + rows.length * rowHeight + 8
  const x = dayScale(days, 14, width - 24)
  const y = (row: number) => top + 26 + row * rowHeight
  const promiseEnd = x(time(outlook.promise.date + 'T12:00:00Z'))
  // A piece goes into what joins it: the first work on the whole that comes after its own.
  const jointOf = (piece: PieceView) => {
    const end = time(piece.beads.at(-1)?.end ?? now)
    return whole?.beads.find((b) => time(b.start) >= end) ?? whole?.beads[0]
  }
  return (
    <div className="flex">
      <div className="w-[92px] shrink-0 md:w-[120px]" style={{ paddingTop: top + 6 }}>
        {rows.map((piece) => (
          <div key={piece.id} style={{ height: rowHeight }}>
            <p className="name leading-5">{piece.kind}</p>
            <p className="truncate text-[13px] text-ink-2" title={piece.about}>
              {piece.about}
            </p>
          </div>
        ))}
      </div>
      <div
        ref={ref}
        className="min-w-0 flex-1 overflow-x-auto"
        tabIndex={0}
        role="group"
        aria-label="Threads of the pieces through the days"
      >
        {measured > 0 && (
          <svg width={width} height={height} className="block">
            <ClosedDays days={days} x={x} height={height} />
            <Labels days={days} x={x} now={time(now)} promise={promiseEnd} />
            {rows.map((piece, row) => {
              const joint = row > 0 ? jointOf(piece) : undefined
              return (
                <Thread
                  key={piece.id}
                  piece={piece}
                  x={x}
                  y={y(row)}
                  now={time(now)}
                  until={joint ? x(time(joint.start)) : promiseEnd}
                  joins={joint && { x: x(time(joint.start)), y: y(0) }}
                  chosen={chosen}
                  onChoose={onChoose}
                />
              )
            })}
            {whole && (
              <Thread
                piece={whole}
                x={x}
                y={y(0)}
                now={time(now)}
                until={promiseEnd}
                bare
                chosen={chosen}
                onChoose={onChoose}
              />
            )}
            {critical && (
              <Longest
                wait={critical}
                x={x}
                y={y(
                  Math.max(
                    0,
                    rows.findIndex((p) => p.id === critical.pieceId),
                  ),
                )}
                left={0}
                right={width}
              />
            )}
            <line x1={x(time(now))} x2={x(time(now))} y1={24} y2={height - 4} className="stroke-ink" strokeWidth="2" />
            <circle
              cx={promiseEnd}
              cy={y(0)}
              r={9}
              className={`fill-ground ${outlook.late ? 'stroke-late' : 'stroke-ready'}`}
              strokeWidth="3.5"
            >
              <title>promised {outlook.promise.said}</title>
            </circle>
          </svg>
        )}
      </div>
    </div>
  )
}

function ClosedDays({ days, x, height }: { days: DayMark[]; x: DayScale; height: number }) {
  return days
    .filter((d) => !d.open)
    .map((d) => {
      const from = x(time(d.at))
      const to = x(time(d.at) + 24 * 3600_000)
      return (
        <rect
          key={d.date}
          x={from}
          width={Math.max(1, to - from)}
          y={30}
          height={height - 30}
          className="fill-line"
          opacity="0.45"
        />
      )
    })
}

function Labels({ days, x, now, promise }: { days: DayMark[]; x: DayScale; now: number; promise: number }) {
  const nowAt = x(now)
  const { monthFirst } = useNotation()
  const labels = withMonths(dayLabels(days, x, [nowAt, promise], 82), monthFirst)
  return (
    <g className="fill-ink-2 text-[13px] font-semibold" textAnchor="middle">
      {labels.map((d) => (
        <text key={d.date} x={labelAt(x, d)} y={16}>
          {d.label}
        </text>
      ))}
      <text x={Math.max(18, nowAt)} y={16} className="fill-ink font-bold">
        now
      </text>
      {Math.abs(promise - nowAt) > 70 && (
        <text x={promise} y={16} textAnchor="end" dx={12}>
          promise
        </text>
      )}
    </g>
  )
}
