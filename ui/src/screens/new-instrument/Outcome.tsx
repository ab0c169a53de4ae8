import type { Outlook } from '../../api/client'
import { LatestStart, Slack } from '../../parts/OutlookFigures'
import { StateChip } from '../../parts/StateChip'
import type { ReactNode } from 'react'

interface Props {
  outlook: Outlook
  coats: number
  handsOn: string
  redo: string
  /** Whether a day is promised: then slack is told. */
  promised: boolean
  /** The last choices could not be planned. */
  stale: boolean
  children?: ReactNode
}

/** Outcome is what the choices lead to, in one line. */
export function Outcome({ outlook, coats, handsOn, redo, promised, stale, children }: Props) {
  return (
    <div>
      <p className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <span className="name text-2xl">{outlook.impossible ? 'Cannot be placed' : `Ready ${outlook.finishDay}`}</span>
        {(promised || outlook.late) && (
          <StateChip state={outlook.late ? 'late' : 'ready'}>
            {!outlook.late && 'slack '}
            <Slack outlook={outlook} />
          </StateChip>
        )}
        <span className="text-ink-2">
          {coats} coats, {handsOn} of hands-on work, a coat done again: {redo}, latest start{' '}
          <LatestStart outlook={outlook} />
        </span>
      </p>
      {outlook.show && <p className={outlook.show.late ? 'text-late' : 'text-ink-2'}>{outlook.show.text}.</p>}
      {stale && <p className="text-closing">These dates are of the last choices that could be planned.</p>}
      {children}
    </div>
  )
}
