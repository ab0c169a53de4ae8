import { scaleLinear } from 'd3-scale'
import type { DayMark, Pair, WeekRow } from '../../api/client'
import { StateChip } from '../StateChip'
import { useWidth } from '../useWidth'
import { StrandLine } from './StrandLine'
import { time } from './scale'

const lane = 26
const head = 22

/** PairThreads lays what would be under what is, instrument by instrument. */
export function PairThreads({ pairs, marks, now }: { pairs: Pair[]; marks: DayMark[]; now: number }) {
  const [ref, measured] = useWidth<HTMLDivElement>()
  const width = Math.max(420, measured)
  const until = Math.max(now + 7 * 86_400_000, ...pairs.flatMap((p) => [finish(p.before), finish(p.after)]))
  const x = scaleLinear([now - 86_400_000, until + 2 * 86_400_000], [4, width - 12])
  const seen = marks.filter((m) => x(time(m.at)) < width)
  const every = Math.ceil((seen.length * 64) / width)
  return (
    <div ref={ref} className="overflow-x-auto" tabIndex={0} role="group" aria-label="Threads before and after">
      {measured > 0 && (
        <ul>
          {pairs.map((pair) => (
            <li key={pair.after.instrumentId} className="border-t border-line py-2">
              <p className="flex flex-wrap items-baseline gap-x-3">
                <span className="name text-lg">{pair.after.name}</span>
                <Change pair={pair} />
              </p>
              <svg width={width} height={head + 2 * lane} role="img" aria-label={label(pair)}>
                {seen.map((mark, i) => (
                  <g key={mark.date}>
                    <line
                      x1={x(time(mark.at))}
                      x2={x(time(mark.at))}
                      y1={head - 4}
                      y2={head + 2 * lane}
                      className="stroke-line"
                    />
                    {i % every === 0 && (
                      <text x={x(time(mark.at))} y={13} textAnchor="middle" className="fill-ink-2 text-[12px]">
                        {mark.label}
                      </text>
                    )}
                  </g>
                ))}
                <Side row={pair.before} x={x} y={head + 10} now={now} width={width} faint />
                <Side row={pair.after} x={x} y={head + 10 + lane} now={now} width={width} />
                <line
                  x1={x(now)}
                  x2={x(now)}
                  y1={head - 6}
                  y2={head + 2 * lane}
                  className="stroke-ink"
                  strokeWidth="2"
                />
              </svg>
            </li>
          ))}
        </ul>
      )}
    </div>
  )
}

/** Side is all pieces of an instrument on one line: what matters here is when. */
function Side({
  row,
  x,
  y,
  now,
  width,
  faint,
}: {
  row: WeekRow
  x: (at: number) => number
  y: number
  now: number
  width: number
  faint?: boolean
}) {
  return (
    <g>
      {row.pieces.map((strand) => (
        <StrandLine key={strand.pieceId} strand={strand} x={x} y={y} now={now} left={0} right={width} faint={faint} />
      ))}
      <circle cx={x(finish(row))} cy={y} r={6} className="fill-none stroke-umber" strokeWidth={faint ? 1.5 : 3} />
    </g>
  )
}

const finish = (row: WeekRow) => (row.outlook.finish ? time(row.outlook.finish.at) : 0)

function Change({ pair }: { pair: Pair }) {
  const { before, after } = pair
  return (
    <>
      <span className="text-ink-2">{before.outlook.finishDay}, now</span>
      <span className="font-semibold">{after.outlook.finishDay}, then</span>
      <StateChip state={after.outlook.late ? 'late' : 'ready'}>
        {after.outlook.late ? after.outlook.slack : `slack ${after.outlook.slack}`}
      </StateChip>
    </>
  )
}

const label = ({ before, after }: Pair) =>
  `${after.name}: above as it is now, ready ${before.outlook.finishDay}; below as it would be, ready ${after.outlook.finishDay}`
