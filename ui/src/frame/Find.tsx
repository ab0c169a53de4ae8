import { Command } from 'cmdk'
import { useNavigate } from 'react-router'
import { useInstruments, useRack, useReference } from '../api/queries'
import { inputLook } from '../parts/fields/Field'
import { setTheme, useTheme } from './theme'

interface Found {
  id: string
  text: string
  about: string
  go: () => void
}

/** Find finds what the shop has by a few letters, and does what the band does. */
export function Find({ done }: { done: () => void }) {
  const navigate = useNavigate()
  const to = (path: string) => () => void navigate(path)
  const groups = [
    { head: 'Do', list: useActions(to) },
    { head: 'Instruments', list: useFoundInstruments(to) },
    { head: 'Work ahead', list: useFoundWork(to) },
    { head: 'Products', list: useFoundProducts() },
  ]
  return (
    <Command label="Find or do" loop>
      <Command.Input autoFocus placeholder="A name, a step, a product, or what to do" className={inputLook} />
      <Command.List className="mt-3 max-h-[60dvh] overflow-y-auto">
        <Command.Empty className="py-4 text-ink-2">Nothing here is called that.</Command.Empty>
        {groups.map(
          ({ head, list }) =>
            list.length > 0 && (
              <Command.Group
                key={head}
                heading={head}
                className="[&_[cmdk-group-heading]]:py-1 [&_[cmdk-group-heading]]:text-sm [&_[cmdk-group-heading]]:text-ink-2"
              >
                {list.map((f) => (
                  <Command.Item
                    key={f.id}
                    value={`${f.text} ${f.about} ${f.id}`}
                    onSelect={() => {
                      done()
                      f.go()
                    }}
                    className="flex min-h-11 cursor-pointer items-center justify-between gap-3 border-t border-line px-2 data-[selected=true]:bg-raised data-[selected=true]:font-semibold"
                  >
                    <span className="min-w-0">{f.text}</span>
                    <span className="shrink-0 text-sm font-normal text-ink-2">{f.about}</span>
                  </Command.Item>
                ))}
              </Command.Group>
            ),
        )}
      </Command.List>
    </Command>
  )
}

type To = (path: string) => () => void

function useActions(to: To): Found[] {
  const other = useTheme() === 'day' ? 'night' : 'day'
  return [
    { id: 'rack', text: 'Go to the rack', about: '1', go: to('/rack') },
    { id: 'instruments', text: 'Go to the instruments', about: '2', go: to('/instruments') },
    { id: 'weeks', text: 'Go to the weeks', about: '3', go: to('/weeks') },
    { id: 'shop', text: 'Go to the shop', about: '9', go: to('/shop') },
    { id: 'new', text: 'Plan a new instrument', about: 'n', go: to('/instruments/new') },
    { id: 'theme', text: `Change to the ${other} theme`, about: '', go: () => setTheme(other) },
  ]
}

function useFoundInstruments(to: To): Found[] {
  return (useInstruments().data ?? []).map((line) => ({
    id: line.id,
    text: line.name,
    about: [line.serial, line.stage].filter(Boolean).join(', '),
    go: to(`/instruments/${line.id}`),
  }))
}

function useFoundWork(to: To): Found[] {
  return (useRack().data?.tags ?? []).map((tag) => ({
    id: tag.pieceId,
    text: `${tag.title}, ${tag.name} ${tag.piece}`,
    about: tag.when,
    go: to(`/instruments/${tag.instrumentId}?step=${tag.event.stepId}&coat=${tag.event.coat}`),
  }))
}

/** Products are where the work that takes them is: the rack has it. */
function useFoundProducts(): Found[] {
  const rack = useRack().data
  const materials = useReference().data?.materials ?? []
  const used = (name: string) => rack?.tags.find((tag) => tag.title.toLowerCase().includes(name.toLowerCase()))
  const navigate = useNavigate()
  return materials.flatMap((m) => {
    const tag = used(m.name)
    if (!tag) return []
    return [
      {
        id: m.id,
        text: m.name,
        about: `next on ${tag.name}, ${tag.when}`,
        go: () => void navigate(`/instruments/${tag.instrumentId}?step=${tag.event.stepId}&coat=${tag.event.coat}`),
      },
    ]
  })
}
