import type { Outlook } from '../api/client'
import { Figure } from './Figure'

/** Slack is how much time lies between finish and promise, with its working. */
export function Slack({ outlook }: { outlook: Outlook }) {
  const words = <span className={outlook.late ? 'text-late' : ''}>{outlook.slack}</span>
  return outlook.slackWorking ? <Figure working={outlook.slackWorking}>{words}</Figure> : <b>{words}</b>
}

/** LatestStart is how late the next work may begin, with its working. */
export function LatestStart({ outlook }: { outlook: Outlook }) {
  const words = outlook.latestStart ? outlook.latestStart.said : <span className="text-late">is past</span>
  return outlook.latestStartWorking ? <Figure working={outlook.latestStartWorking}>{words}</Figure> : <b>{words}</b>
}

/** Chance is how likely the promise is to be kept, with its working; nothing until it has been worked out. */
export function Chance({ outlook }: { outlook: Outlook }) {
  if (!outlook.chance) return null
  return (
    <span data-chance>
      <span className="text-ink-2">chance</span>{' '}
      <Figure working={outlook.chance.working}>{outlook.chance.percent} %</Figure>
    </span>
  )
}
