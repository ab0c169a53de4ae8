import { Link } from 'react-router'
import type { Tag } from '../../api/client'
import { useWaiting } from '../../api/outbox'
import { Portrait } from '../look/Portrait'
import { chips } from '../StateChip'
import { Handle, type Carrying } from './Handle'
import { tagHeight, tagWidth } from './layout'

const edges = {
  ready: { stroke: 'stroke-ready', dash: undefined },
  drying: { stroke: 'stroke-drying', dash: undefined },
  closing: { stroke: 'stroke-closing', dash: '14 6' },
  waiting: { stroke: 'stroke-waiting', dash: '2 4' },
  late: { stroke: 'stroke-late', dash: '11 4 2 4' },
} as const

/** TagCard is one piece on the rail: what it is, what is next, and when. Its picture is what it is carried by. */
export function TagCard({ tag, wide = false, ...carrying }: { tag: Tag; wide?: boolean } & Carrying) {
  const { stroke, dash } = edges[tag.state]
  const width = wide ? 358 : tagWidth
  const waiting = useWaiting(tag.event.stepId, tag.event.coat)
  return (
    <div className="group relative flex size-full">
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
      <span className="relative h-full shrink-0 py-1.5 pl-1">
        <Handle tag={tag} {...carrying}>
          <Portrait
            instrumentId={tag.instrumentId}
            outline={tag.outline}
            own={tag.own}
            piece={tag.piece}
            colour={tag.colour}
            frost={tag.frost}
            className="size-full py-0.5"
          />
        </Handle>
      </span>
      <Link
        to={`/instruments/${tag.instrumentId}?step=${tag.event.stepId}&coat=${tag.event.coat}`}
        data-event={`${tag.event.stepId}/${tag.event.coat}`}
        data-tag={`${tag.name} ${tag.piece}`}
        data-state={tag.state}
        title={tag.because}
        draggable={false}
        className="relative flex min-w-0 flex-1 flex-col py-2 pr-1.5 pl-0.5"
      >
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
      </Link>
    </div>
  )
}
