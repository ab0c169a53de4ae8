import { Link } from 'react-router'
import type { Effect, WeekRow } from '../../api/client'
import { Figure } from '../../parts/Figure'
import { Slack } from '../../parts/OutlookFigures'

/** RowLabel says whose threads these are and how they stand, or would stand. */
export function RowLabel({ row, effect }: { row: WeekRow; effect?: Effect }) {
  const { outlook } = row
  return (
    <div className="flex h-full flex-col justify-center border-t border-line pr-2 leading-tight">
      <Link to={`/instruments/${row.instrumentId}`} className="name truncate text-[17px] hover:underline">
        {row.name}
      </Link>
      <span className="truncate text-[13px] text-ink-2" title={`${outlook.finish?.full ?? ''}. ${outlook.because}`}>
        {outlook.finishDay}
      </span>
      {effect && (effect.days !== 0 || effect.lost || effect.found) ? (
        <b className={`text-[13px] ${effect.days > 0 || effect.lost ? 'text-late' : 'text-ready'}`} data-row-effect>
          {effect.text}
        </b>
      ) : (
        <span className="truncate text-[13px] text-ink-2">
          {!outlook.late && 'slack '}
          <Slack outlook={outlook} />
          {outlook.chance && (
            <span className="hidden md:inline" data-chance>
              , <Figure working={outlook.chance.working}>{outlook.chance.percent} %</Figure> sure
            </span>
          )}
        </span>
      )}
    </div>
  )
}
