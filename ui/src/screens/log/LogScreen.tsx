import { useWindowVirtualizer } from '@tanstack/react-virtual'
import { useCallback, useEffect, useState } from 'react'
import { useSearchParams } from 'react-router'
import type { LogAsked, LogLine } from '../../api/client'
import { useInstruments, useLogPages, useReference } from '../../api/queries'
import { Asking } from '../../parts/Asking'
import { Button, LinkButton } from '../../parts/Button'
import { ScreenTitle } from '../../parts/ScreenTitle'
import { Choice, type Option } from '../../parts/fields/Choice'
import { Day } from '../../parts/fields/Day'
import { Line } from './Line'

const kinds: Option[] = [
  { id: 'sand', text: 'Sanding' },
  { id: 'coat', text: 'Coats' },
  { id: 'scuff', text: 'Scuffing' },
  { id: 'mask-on', text: 'Masking' },
  { id: 'mask-off', text: 'Tape off' },
  { id: 'level', text: 'Levelling' },
  { id: 'buff', text: 'Buffing' },
  { id: 'inspect', text: 'Checks' },
  { id: 'gate', text: 'Building' },
]

const pieces = ['body', 'neck', 'cavity', 'fretboard', 'frets', 'hardware', 'plastics', 'fittings', 'whole'].map(
  (id) => ({ id, text: id }),
)

const every: Option = { id: '', text: 'all' }

/** A name under which the address has what is looked for. */
type Name = 'instrument' | 'piece' | 'kind' | 'product' | 'person' | 'from' | 'until'

/** LogScreen is the log of the whole shop, or of one instrument: looked through by piece, kind, product, person and day. */
export function LogScreen() {
  const [params, setParams] = useSearchParams()
  const reference = useReference().data
  const instruments = useInstruments().data ?? []
  const of = (name: Name) => params.get(name) ?? undefined
  const pages = useLogPages({
    instrumentId: of('instrument'),
    piece: of('piece') as LogAsked['piece'],
    kind: of('kind') as LogAsked['kind'],
    productId: of('product'),
    personId: of('person'),
    from: of('from'),
    until: of('until'),
  })
  const bound = (name: Name) => ({
    value: of(name) ?? '',
    onChange: (value: string) => {
      const now = new URLSearchParams(window.location.search) // as it is, when two come in one breath
      now.delete(name)
      if (value) now.set(name, value)
      setParams(now, { replace: true })
    },
  })
  const products = (reference?.materials ?? []).filter((m) => m.id !== m.family)
  return (
    <div className="px-4 pb-4">
      <header className="flex flex-wrap items-baseline gap-x-4 py-3">
        <ScreenTitle tab="Log" />
        <p className="text-ink-2">Nothing in it is ever changed: what was wrong is struck, and stays to be read.</p>
        <LinkButton look="bare" className="ml-auto" to="/hours">
          Hours
        </LinkButton>
      </header>
      <form
        aria-label="What to show"
        className="panel mb-4 grid grid-cols-2 gap-3 p-4 md:grid-cols-4"
        onSubmit={(e) => e.preventDefault()}
      >
        <Choice
          label="Instrument"
          options={[every, ...instruments.map((i) => ({ id: i.id, text: i.name }))]}
          {...bound('instrument')}
        />
        <Choice label="Piece" options={[every, ...pieces]} {...bound('piece')} />
        <Choice label="Kind of work" options={[every, ...kinds]} {...bound('kind')} />
        <Choice
          label="Product"
          options={[every, ...products.map((m) => ({ id: m.id, text: m.name }))]}
          {...bound('product')}
        />
        <Choice
          label="Person"
          options={[every, ...(reference?.people ?? []).map((p) => ({ id: p.id, text: p.name }))]}
          {...bound('person')}
        />
        <Day label="From" {...bound('from')} />
        <Day label="Until" {...bound('until')} />
        <div className="self-end">
          <Button onClick={() => setParams({}, { replace: true })}>Show all</Button>
        </div>
      </form>
      <Asking query={pages}>
        {(data) => (
          <Lines
            lines={data.pages.flatMap((p) => p.lines)}
            more={pages.hasNextPage}
            fetching={pages.isFetching}
            onMore={() => void pages.fetchNextPage()}
          />
        )}
      </Asking>
    </div>
  )
}

/** What a line takes, about, before it is measured. */
const lineHeight = 76

/** Lines are drawn as far as they are seen; more is asked for as the end comes near. */
function Lines({
  lines,
  more,
  fetching,
  onMore,
}: {
  lines: LogLine[]
  more: boolean
  fetching: boolean
  onMore: () => void
}) {
  const [top, setTop] = useState(0)
  const placed = useCallback((list: HTMLOListElement | null) => setTop(list?.offsetTop ?? 0), [])
  const rows = useWindowVirtualizer({
    count: lines.length,
    estimateSize: () => lineHeight,
    overscan: 12,
    scrollMargin: top,
    getItemKey: (i) => lines[i]?.id ?? i,
  })
  const shown = rows.getVirtualItems()
  const last = shown.at(-1)?.index ?? 0
  useEffect(() => {
    if (more && !fetching && last >= lines.length - 20) onMore()
  }, [more, fetching, last, lines.length, onMore])
  if (lines.length === 0)
    return (
      <p className="panel max-w-xl p-6">
        Nothing of this is logged. One tap on a step writes who did it and when; it stands here from then on.
      </p>
    )
  return (
    <section className="panel px-4" aria-label="Entries" data-log-lines={lines.length}>
      <ol ref={placed} className="relative" style={{ height: rows.getTotalSize() }}>
        {shown.map((row) => {
          const line = lines[row.index]
          return (
            line && (
              <li
                key={row.key}
                ref={rows.measureElement}
                data-index={row.index}
                className="absolute inset-x-0 top-0 border-b border-line py-2 text-[15px]"
                style={{ transform: `translateY(${row.start - top}px)` }}
              >
                <Line line={line} shop />
              </li>
            )
          )
        })}
      </ol>
      {more && <p className="py-3 text-ink-2">More comes as you go on…</p>}
    </section>
  )
}
