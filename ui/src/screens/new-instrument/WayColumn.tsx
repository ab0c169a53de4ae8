import { scaleLinear } from 'd3-scale'
import type { DayMark, WayView } from '../../api/client'
import { Button } from '../../parts/Button'
import { StrandLine } from '../../parts/threads/StrandLine'
import { time } from '../../parts/threads/scale'
import { useWidth } from '../../parts/useWidth'
import { capital } from '../../parts/words'

interface Props {
  way: WayView
  marks: DayMark[]
  now: string
  onChoose: () => void
}

/** WayColumn is one school beside the others: what it gains and costs here, and its threads. */
export function WayColumn({ way, marks, now, onChoose }: Props) {
  return (
    <article
      className={`flex min-w-0 flex-col gap-2 bg-raised p-3 ${way.chosen ? 'border-2 border-ink' : 'border border-line'}`}
      data-way={way.option}
    >
      <h4 className="name">{capital(way.way)}</h4>
      {way.refused ? (
        <p className="text-late">Not with the rest of your choices: {way.refused}</p>
      ) : (
        <>
          <dl className="grid grid-cols-[auto_1fr] gap-x-3 text-sm">
            <Line label="Ready" text={way.finish} change={way.chosen ? undefined : way.days} late={way.late} />
            <Line label="Hands" text={way.handsOn} change={way.hands} />
            <Line label="Coats" text={String(way.coats)} change={coatsText(way.moreCoats)} />
            <Line label="Done again" text={way.redoSaid} />
          </dl>
          <Thread way={way} marks={marks} now={now} />
          {way.adds.length > 0 && <p className="text-sm">More: {way.adds.join(', ')}.</p>}
          {way.spares.length > 0 && <p className="text-sm">Does without: {way.spares.join(', ')}.</p>}
        </>
      )}
      <p className="text-sm text-ink-2">
        <b>For it:</b> {way.for}. <b>Against it:</b> {way.against}. <b>Choose it when:</b> {way.chooseWhen}.
      </p>
      <div className="mt-auto">
        {way.chosen ? (
          <p className="flex min-h-11 items-center font-semibold text-ready">Followed now</p>
        ) : (
          <Button disabled={way.refused !== undefined} onClick={onChoose}>
            Follow this way
          </Button>
        )}
      </div>
    </article>
  )
}

function Line({ label, text, change, late }: { label: string; text: string; change?: string; late?: boolean }) {
  return (
    <>
      <dt className="text-ink-2">{label}</dt>
      <dd>
        <b className={late ? 'text-late' : ''}>{text}</b>
        {change && <span className="text-ink-2">, {change}</span>}
      </dd>
    </>
  )
}

function coatsText(more: number) {
  if (more === 0) return undefined
  return more > 0 ? `${more} more` : `${-more} fewer`
}

const lane = 18

/** Thread is the whole instrument through its weeks, a line for each piece. */
function Thread({ way, marks, now }: Omit<Props, 'onChoose'>) {
  const [ref, width] = useWidth<HTMLDivElement>()
  const pieces = way.row?.pieces ?? []
  const from = time(now) - 86_400_000
  const x = scaleLinear(
    [from, Math.max(time(way.row?.outlook.finish?.at ?? now), from + 28 * 86_400_000) + 3 * 86_400_000],
    [4, width - 8],
  )
  const height = 16 + pieces.length * lane
  return (
    <div ref={ref}>
      {width > 0 && (
        <svg width={width} height={height} role="img" aria-label={`Threads, ready ${way.finish}`}>
          {marks
            .filter((m, i) => i % 2 === 0 && x(time(m.at)) < width - 44)
            .map((m) => (
              <g key={m.date}>
                <line x1={x(time(m.at))} x2={x(time(m.at))} y1={14} y2={height} className="stroke-line" />
                <text x={x(time(m.at)) + 3} y={11} className="fill-ink-2 text-[11px]">
                  {m.label}
                </text>
              </g>
            ))}
          {pieces.map((strand, i) => (
            <StrandLine
              key={strand.pieceId}
              strand={strand}
              x={x}
              y={24 + i * lane}
              now={time(now)}
              left={0}
              right={width}
            />
          ))}
        </svg>
      )}
    </div>
  )
}
