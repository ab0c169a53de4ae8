import { Link } from 'react-router'
import type { Tag } from '../../api/client'
import { useWaiting } from '../../api/outbox'
import { Portrait } from '../look/Portrait'
import { chips } from '../StateChip'
import { tagHeight, tagWidth } from './layout'

const edges = {
  ready: { stroke: 'stroke-ready', dash: undefined },
  drying: { stroke: 'stroke-drying', dash: undefined },
  closing: { stroke: 'stroke-closing', dash: '14 6' },
  waiting: { stroke: 'stroke-waiting', dash: '2 4' },
  late: { stroke: 'stroke-late', dash: '11 4 2 4' },
} as const

/** TagCard is one piece on the rail: what it is, what is next, and when. */
export function TagCard({ tag, wide = false }: { tag: Tag; wide?: boolean }) {
  const { stroke, dash } = edges[tag.state]
  const width = wide ? 358 : tagWidth
  const waiting = useWaiting(tag.event.stepId, tag.event.coat)
  return (
    <Link
      to={`/instruments/${tag.instrumentId}?step=${tag.event.stepId}&coat=${tag.event.coat}`}
      data-event={`${tag.event.stepId}/${tag.event.coat}`}
      data-tag={`${tag.name} ${tag.piece}`}
      data-state={tag.state}
      title={tag.because}
      className="group relative block size-full"
    >
      <svg
        viewBox={`0 0 ${width} ${tagHeight}`}
        preserveAspectRatio="none"
        className="absolute inset-0 size-full"
        aria-hidden="true"
      >
        <path
          d={`M14 1H${width - 1}V${tagHeight - 1}H1V14Z`}
          className={`fill-raised ${stroke} group-hover:fill-panel`}
          strokeWidth="2"
          strokeDasharray={dash}
          vectorEffect="non-scaling-stroke"
        />
      </svg>
      <span className="relative flex h-full gap-1.5 p-2 pr-1.5">
        <Portrait
          instrumentId={tag.instrumentId}
          outline={tag.outline}
          own={tag.own}
          piece={tag.piece}
          colour={tag.colour}
          frost={tag.frost}
          className="h-full w-9 shrink-0 py-0.5"
        />
        <span className="flex min-w-0 flex-1 flex-col">
          <span className="flex items-baseline gap-1 leading-5">
            <span className="name truncate text-[14.5px]">{tag.name}</span>
            <span className="text-[11.5px] text-ink-3">{tag.piece}</span>
          </span>
          <span className={`text-[13px] leading-[17px] text-ink-2 ${wide ? '' : 'line-clamp-2'}`}>{tag.title}</span>
          <span
            className={`mt-auto truncate rounded-sm px-1.5 text-[12.5px] leading-5 font-bold ${chips[waiting ? 'closing' : tag.state]}`}
          >
            {waiting ? 'logged, not sent yet' : tag.when}
            {tag.lateBy && !waiting && <span className="font-semibold">{wide ? `, ${tag.lateBy}` : ' · late'}</span>}
          </span>
        </span>
      </span>
    </Link>
  )
}
