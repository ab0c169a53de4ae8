import { useState } from 'react'
import { v7 as uuid } from 'uuid'
import type { InstrumentView, Repair, RepairWay } from '../../../api/client'
import { useRepairs } from '../../../api/queries'
import { suppose } from '../../../api/supposing'
import { Asking } from '../../../parts/Asking'
import { Button } from '../../../parts/Button'
import { Over } from '../../../parts/Over'
import { Choice } from '../../../parts/fields/Choice'
import { Toggles } from '../../../parts/fields/Toggles'

const damages = [
  { id: 'chip', text: 'a chip in the film' },
  { id: 'run', text: 'a run or a sag' },
  { id: 'burn-through', text: 'sanded or buffed through' },
  { id: 'dent', text: 'a dent' },
  { id: 'scratch', text: 'a scratch' },
  { id: 'panel', text: 'a whole panel to be coated again' },
  { id: 'again', text: 'a step that came out wrong' },
  { id: 'refinish', text: 'the tests of an old film have told what it is' },
] as const

const depths = [
  { id: 'clear', text: 'into the clear' },
  { id: 'colour', text: 'into the colour' },
  { id: 'wood', text: 'to the bare wood' },
] as const

interface Props {
  view: InstrumentView
  /** A step to be done again, where one was pointed at. */
  from?: string
  label: string
}

/** RepairButton asks what went wrong, and offers the ways that hold for what lies there. */
export function RepairButton({ view, from, label }: Props) {
  const [open, setOpen] = useState(false)
  return (
    <Over
      title="What has to be put right?"
      wide
      open={open}
      onOpenChange={setOpen}
      trigger={<Button className="grow px-2">{label}</Button>}
    >
      {open && <RepairForm view={view} from={from} onDone={() => setOpen(false)} />}
    </Over>
  )
}

function RepairForm({ view, from, onDone }: { view: InstrumentView; from?: string; onDone: () => void }) {
  const owner = view.pieces.find((p) => p.steps.some((s) => s.stepId === from))
  const pieces = view.pieces.filter((p) => p.kind !== 'whole' && p.regions.length > 0)
  const [id] = useState(() => uuid())
  const [damage, setDamage] = useState<Repair['damage']>(from ? 'again' : 'chip')
  const [depth, setDepth] = useState<Repair['depth']>('clear')
  const [pieceId, setPiece] = useState(owner?.id ?? pieces[0]?.id ?? '')
  const [regions, setRegions] = useState<string[]>([])
  const [step, setStep] = useState(from)
  const piece = pieces.find((p) => p.id === pieceId)
  const done = piece?.steps.filter((s) => s.done > 0 && s.kind !== 'gate' && s.kind !== 'inspect') ?? []
  const fromId = step ?? done.at(-1)?.stepId
  const asked: Repair = {
    id,
    pieceId,
    damage,
    depth,
    ...(regions.length > 0 && { regions }),
    ...(damage === 'again' && fromId && { fromId }),
  }
  const ways = useRepairs({ instrumentId: view.id, repair: asked })
  return (
    <div className="grid gap-3" data-repair>
      <div className="grid gap-3 sm:grid-cols-2">
        <Choice
          label="What has happened"
          value={damage}
          options={damages}
          onChange={(d) => setDamage(d as Repair['damage'])}
        />
        {pieces.length > 1 && (
          <Choice
            label="On the"
            value={pieceId}
            options={pieces.map((p) => ({ id: p.id, text: p.kind }))}
            onChange={(p) => {
              setPiece(p)
              setRegions([])
              setStep(undefined)
            }}
          />
        )}
        {damage === 'again' && (
          <Choice
            label="From which step on"
            value={fromId}
            options={done.map((s) => ({ id: s.stepId, text: s.title }))}
            onChange={setStep}
          />
        )}
        {['chip', 'burn-through', 'dent', 'scratch', 'panel'].includes(damage) && (
          <Choice
            label="How deep it goes"
            value={depth}
            options={depths}
            onChange={(d) => setDepth(d as Repair['depth'])}
          />
        )}
      </div>
      {piece && damage !== 'refinish' && piece.regions.length > 1 && (
        <Toggles
          legend="Where; none chosen: all of it"
          options={piece.regions.map((r) => ({ id: r.id, text: r.name }))}
          on={regions}
          onChange={setRegions}
        />
      )}
      <Asking query={ways}>
        {(found) => (
          <Ways
            ways={found.ways}
            onChoose={(way) => {
              suppose({ kind: 'repair', instrumentId: view.id, repair: { ...asked, way } })
              onDone()
            }}
          />
        )}
      </Asking>
      <div className="flex justify-end">
        <Button onClick={onDone}>Not now</Button>
      </div>
    </div>
  )
}

function Ways({ ways, onChoose }: { ways: RepairWay[]; onChoose: (way: string) => void }) {
  const holding = ways.filter((w) => !w.why)
  const not = ways.filter((w) => w.why)
  return (
    <>
      <ul className="grid gap-3" aria-live="polite">
        {holding.map((w) => (
          <li key={w.id} className="border-l-4 border-umber bg-raised px-3 py-2" data-way={w.id}>
            <p className="flex flex-wrap items-baseline gap-x-4">
              <b className="name text-lg">{w.title}</b>
              {w.hands && <span>{w.hands} of hands</span>}
              <span className={w.late ? 'font-semibold text-late' : ''}>
                {w.days}
                {w.ready && `, ready ${w.ready}`}
                {w.late && ': the promise would break'}
              </span>
              {w.redo && <span className="text-ink-2">in {w.redo} it has to be done once more</span>}
            </p>
            <p className="text-sm">{w.text}</p>
            {w.steps.length > 0 && <p className="mt-1 text-sm text-ink-2">{w.steps.join(' → ')}</p>}
            <Button className="mt-2" aria-label={`See what it does: ${w.title}`} onClick={() => onChoose(w.id)}>
              See what it does
            </Button>
          </li>
        ))}
      </ul>
      {not.length > 0 && (
        <div data-ways-not>
          <p className="font-semibold">What does not hold here</p>
          <ul className="text-sm text-ink-2">
            {not.map((w) => (
              <li key={w.id}>
                <b>{w.title}:</b> {w.why}.
              </li>
            ))}
          </ul>
        </div>
      )}
    </>
  )
}
