import { LinkButton } from '../../parts/Button'
import { useState } from 'react'
import type { Having, Rack } from '../../api/client'
import { useHaving, useRack, useReference } from '../../api/queries'
import { useWho } from '../../api/who'
import { useLog } from '../../frame/logging'
import { ScreenTitle } from '../../parts/ScreenTitle'
import { Asking } from '../../parts/Asking'
import { AskWhatIf } from '../../parts/what-if/AskWhatIf'
import { ProposalNote } from '../../parts/what-if/ProposalNote'
import type { Carrying } from '../../parts/rail/Handle'
import { Rail } from '../../parts/rail/Rail'
import { NextForHands, type Time } from './NextForHands'
import { Promises } from './Promises'
import { RoomPanel } from './RoomPanel'

/** RackScreen is home: what to reach for, at a glance. */
export function RackScreen() {
  const rack = useRack()
  return (
    <Asking query={rack}>
      {(data) => (data.promises.length === 0 ? <Empty rack={data} /> : <Full rack={data} />)}
    </Asking>
  )
}

function Full({ rack }: { rack: Rack }) {
  const { log } = useLog()
  const places = useReference().data?.places ?? []
  const [time, setTime] = useState<Time>()
  const having = useHaving(time, useWho())
  const fits = time && having.data
  const carry: Carrying['onCarry'] = ({ name, piece, pieceId }, to) =>
    void log({ kind: 'moved', pieceId, placeId: to.id }, `${name} ${piece} carried to ${to.name}`)
  return (
    <div className="px-4 pb-4">
      <Head rack={rack} />
      <ProposalNote line={rack.better} />
      <div className="flex flex-col gap-4">
        <div className="order-2 md:order-1">
          <h2 className="name mb-2 text-xl md:sr-only">On the rail</h2>
          <Rail rack={fits ? onlyFits(rack, fits) : rack} places={places} onCarry={carry} />
        </div>
        <div className="order-1 grid gap-4 md:order-2 lg:grid-cols-[1fr_340px]">
          <NextForHands rack={rack} time={time} onTime={setTime} having={having} />
          <div className="flex min-w-0 flex-col gap-4">
            <RoomPanel room={rack.room} />
            <Promises promises={rack.promises} />
          </div>
        </div>
      </div>
    </div>
  )
}

/** onlyFits leaves on the rail what there is time for. */
function onlyFits(rack: Rack, having: Having): Rack {
  const fits = (tag: Rack['tags'][number]) =>
    having.pieces.some((p) => p.instrumentId === tag.instrumentId && p.piece === tag.piece)
  return { ...rack, tags: rack.tags.filter(fits) }
}

function Head({ rack }: { rack: Rack }) {
  const pieces = rack.tags.length
  return (
    <header className="flex flex-wrap items-center gap-x-4 gap-y-1 py-3">
      <ScreenTitle tab="Rack" />
      <p className="text-ink-2">
        {rack.today}, {rack.open} · {pieces} {pieces === 1 ? 'piece hangs' : 'pieces hang'} · {rack.workLeft} of work
        left today
      </p>
      <span className="ml-auto">
        <AskWhatIf />
      </span>
      <NewLink />
    </header>
  )
}

function NewLink() {
  return (
    <LinkButton needs="shop" look="dark" to="/instruments/new">
      New instrument
    </LinkButton>
  )
}

function Empty({ rack }: { rack: Rack }) {
  return (
    <div className="px-4">
      <header className="flex items-center gap-4 py-3">
        <ScreenTitle tab="Rack" />
        <p className="text-ink-2">
          {rack.today}, {rack.open}
        </p>
      </header>
      <div className="h-2.5 rounded-sm bg-umber" />
      <div className="panel mt-10 max-w-xl p-6">
        <h2 className="name mb-2 text-xl">Nothing hangs here yet</h2>
        <p className="mb-4 text-ink-2">
          Every piece with work ahead hangs from this rail and slides towards <em>now</em> as it dries. Plan the first
          instrument, such as an ash body in a dyed waterborne gloss, and its pieces hang here with their dates.
        </p>
        <div className="flex">
          <NewLink />
        </div>
      </div>
    </div>
  )
}
