import type { Rack } from '../../api/client'
import { useWidth } from '../useWidth'
import type { Carrying } from './Handle'
import { hang, railScale, rowTop, tagHeight, tagWidth } from './layout'
import { TagCard } from './TagCard'

/** Rail hangs the pieces by when hands are next needed; as they dry they slide towards now. */
export function Rail({ rack, ...carrying }: { rack: Rack } & Carrying) {
  const [ref, width] = useWidth<HTMLDivElement>()
  const x = railScale(rack.axis, width)
  const { hung, rows } = hang(rack.tags, x, width)
  const height = rowTop(Math.max(1, rows) - 1) + tagHeight + 6
  const hour = rack.axis[1] ? x(new Date(rack.axis[1].at).getTime()) : 0
  return (
    <>
      <div ref={ref} className="relative hidden md:block" style={{ height }}>
        {width > 0 && (
          <svg width={width} height={height} className="absolute inset-0" aria-hidden="true">
            <rect
              x={0}
              y={40}
              width={Math.max(0, hour - 6)}
              height={height - 40}
              className="fill-ready-fill"
              opacity="0.6"
            />
            {rack.axis.map(
              (tick) =>
                tick.label && (
                  <g key={tick.at} transform={`translate(${x(new Date(tick.at).getTime())} 0)`}>
                    <text y={18} className="fill-ink-2 text-[13px] font-semibold">
                      {tick.label}
                    </text>
                    <path d="M1 23v8" className="stroke-ink-3" strokeWidth="2" />
                  </g>
                ),
            )}
            {hung.map(({ tag, cord, left, row }) => {
              const to = Math.min(Math.max(cord, left + 16), left + tagWidth - 10)
              return (
                <path
                  key={tag.pieceId}
                  d={`M${cord} 38C${cord} 52 ${to} 50 ${to} 66V${rowTop(row)}`}
                  className="fill-none stroke-umber transition-all duration-200"
                  strokeWidth="1.5"
                />
              )
            })}
            <rect x={0} y={32} width={width} height={9} rx={3} className="fill-umber" />
            {hung.map(({ tag, cord }) => (
              <circle key={tag.pieceId} cx={cord} cy={41} r={4} className="fill-umber" />
            ))}
          </svg>
        )}
        <ul aria-label="Pieces on the rail">
          {hung.map(({ tag, left, row }) => (
            <li
              key={tag.pieceId}
              className="absolute transition-all duration-200"
              style={{ left, top: rowTop(row), width: tagWidth, height: tagHeight }}
            >
              <TagCard tag={tag} {...carrying} />
            </li>
          ))}
        </ul>
      </div>
      <ul className="space-y-2 md:hidden" aria-label="Pieces by when hands are next needed">
        {rack.tags.map((tag) => (
          <li key={tag.pieceId} className="h-[92px]">
            <TagCard tag={tag} wide {...carrying} />
          </li>
        ))}
      </ul>
    </>
  )
}
