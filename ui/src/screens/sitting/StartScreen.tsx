import { useState } from 'react'
import { Link, useNavigate, useSearchParams } from 'react-router'
import { v7 as uuid } from 'uuid'
import { Problem, api, type EventRef, type SittingHead, type SittingView } from '../../api/client'
import { refresh } from '../../api/fresh'
import { queries, usePlannedSitting, useSittings } from '../../api/queries'
import { useWho } from '../../api/who'
import { Asking } from '../../parts/Asking'
import { Button, LinkButton } from '../../parts/Button'
import { ScreenTitle } from '../../parts/ScreenTitle'
import { Tick } from '../../parts/fields/Tick'
import { LayOut } from './LayOut'

/** StartScreen is what could be done in one go now: chosen, laid out, and begun. */
export function StartScreen() {
  const sittings = useSittings()
  const [params] = useSearchParams()
  const named = params.get('step')
  return (
    <div className="px-4 pb-4">
      <header className="flex flex-wrap items-baseline gap-x-4 py-3">
        <ScreenTitle tab="Start sitting" />
        <p className="text-ink-2">
          What hands can do at one place in one go. Lay it out, then one step after the other.
        </p>
      </header>
      <Asking query={sittings}>
        {({ open, offered }) => {
          const first = offered[0]?.event
          const chosen = named ? { stepId: named, coat: Number(params.get('coat') ?? 1) } : first
          return (
            <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-4 lg:grid-cols-[minmax(0,2fr)_minmax(0,3fr)]">
              <div className="grid gap-4">
                {open.length > 0 && <Heads title="Under way" list={open} />}
                {offered.length > 0 && <Heads title="Today" list={offered} chosen={chosen} />}
              </div>
              {chosen ? <Planned key={`${chosen.stepId}/${chosen.coat}`} event={chosen} /> : <Nothing />}
            </div>
          )
        }}
      </Asking>
    </div>
  )
}

function Nothing() {
  return (
    <p className="panel max-w-xl p-6">
      Nothing more is planned for hands today: everything is drying, or the shop is closed. A sitting of a later day is
      started from its work on Weeks or on the instrument.
    </p>
  )
}

function Heads({ title, list, chosen }: { title: string; list: SittingHead[]; chosen?: EventRef }) {
  return (
    <section className="panel px-4 py-3" aria-label={title}>
      <h2 className="name text-lg">{title}</h2>
      <ol>
        {list.map((s) => {
          const on = chosen && s.event.stepId === chosen.stepId && s.event.coat === chosen.coat
          return (
            <li key={s.id ?? `${s.event.stepId}/${s.event.coat}`} className="border-t border-line">
              <Link
                to={s.id ? `/sittings/${s.id}` : `/sitting?step=${s.event.stepId}&coat=${s.event.coat}`}
                replace={!s.id}
                aria-current={on || undefined}
                className="block min-h-14 border-l-4 border-transparent px-2 py-2 hover:bg-raised aria-[current]:border-ready aria-[current]:bg-raised"
              >
                <span className="flex gap-3">
                  <b className="min-w-16">{s.when}</b>
                  <span className="min-w-0 flex-1 font-semibold">
                    {s.title || 'All of it is done'}
                    {s.steps > 1 && <span className="font-normal text-ink-2">, and {s.steps - 1} more</span>}
                  </span>
                </span>
                <span className="block text-sm text-ink-2">
                  {[s.place, s.pieces, s.minutes, s.by && `begun by ${s.by}`].filter(Boolean).join(' · ')}
                </span>
              </Link>
            </li>
          )
        })}
      </ol>
    </section>
  )
}

function Planned({ event }: { event: EventRef }) {
  const planned = usePlannedSitting(event)
  return <Asking query={planned}>{(sitting) => <Preview sitting={sitting} />}</Asking>
}

const keyOf = (e: EventRef) => `${e.stepId}/${e.coat}`

function Preview({ sitting }: { sitting: SittingView }) {
  const navigate = useNavigate()
  const who = useWho()
  const [id] = useState(() => uuid())
  const [without, setWithout] = useState<string[]>([])
  const [seen, setSeen] = useState(false)
  const [state, setState] = useState<'idle' | 'begins' | Problem>('idle')
  const works = sitting.work.flatMap((s) => s.works)
  const events = works.map((w) => w.event).filter((e) => !without.includes(keyOf(e)))
  const begin = async () => {
    setState('begins')
    try {
      const begun = await api.beginSitting({ id, personId: who, events, seen: sitting.cautions.map((c) => c.id) })
      queries.setQueryData(['sitting', id], begun)
      refresh('shop')
      await navigate(`/sittings/${id}`)
    } catch (error) {
      setState(error instanceof Problem ? error : new Problem(0, 'broken', String(error), []))
    }
  }
  const wanted = sitting.cautions.length > 0
  return (
    <section className="panel grid gap-4 p-4" aria-labelledby="lay-head" data-preview>
      <h2 id="lay-head" className="name text-xl">
        Lay out at {sitting.place}
      </h2>
      <fieldset>
        <legend className="font-semibold">To be done</legend>
        {works.map((w) => (
          <Tick
            key={keyOf(w.event)}
            label={`${w.title}, ${w.name} ${w.piece}, ${w.when}`}
            on={!without.includes(keyOf(w.event))}
            onChange={(on) =>
              setWithout(on ? without.filter((k) => k !== keyOf(w.event)) : [...without, keyOf(w.event)])
            }
          />
        ))}
      </fieldset>
      <LayOut sitting={sitting} />
      {wanted && (
        <div className="border-t-3 border-closing bg-closing-fill px-3 py-2 text-closing" data-warn>
          {sitting.cautions.map((c) => (
            <details key={c.id} className="py-1">
              <summary className="min-h-8 cursor-pointer">
                <b>{c.title}.</b> Wear: {c.wear.join('; ')}.
              </summary>
              <p className="mt-1">{c.says}</p>
              <ul className="list-disc pl-5">
                {c.never.map((n) => (
                  <li key={n}>{n}</li>
                ))}
              </ul>
              <p>{c.also}</p>
            </details>
          ))}
          <Tick label="Read; what to wear is at hand" on={seen} onChange={setSeen} />
        </div>
      )}
      {state instanceof Problem && (
        <p role="alert" className="text-late">
          It was not begun. {state.faults.map((f) => f.message).join(' ') || state.message}
        </p>
      )}
      <div className="flex flex-wrap gap-3">
        <Button
          needs="bench"
          look="loud"
          className="min-h-14 flex-1 text-lg"
          disabled={state === 'begins' || events.length === 0 || (wanted && !seen)}
          onClick={() => void begin()}
          data-begin
        >
          Start sitting
        </Button>
        <LinkButton to="/rack" className="min-h-14">
          Not now
        </LinkButton>
      </div>
    </section>
  )
}
