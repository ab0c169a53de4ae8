import { useState } from 'react'
import type { StepRow } from '../../api/client'
import { useInstrument, useInstruments, useReference } from '../../api/queries'
import { Choice } from '../fields/Choice'
import { Day } from '../fields/Day'
import { Text } from '../fields/Text'
import { Ask, type Asked } from './Ask'

/** useSteps lets one choose an instrument, and one of its steps that fit. */
function useSteps(instrumentId: string | undefined, fits: (step: StepRow) => boolean) {
  const running = (useInstruments().data ?? []).filter((i) => !i.outlook.finished)
  const [chosen, setChosen] = useState(instrumentId)
  const [stepId, setStep] = useState('')
  const instrument = chosen ?? running[0]?.id ?? ''
  const view = useInstrument(instrument, instrument !== '')
  const steps = (view.data?.pieces ?? []).flatMap((p) => p.steps.filter(fits).map((step) => ({ piece: p.kind, step })))
  const step = (steps.find((s) => s.step.stepId === stepId) ?? steps[0])?.step
  const choices = (
    <>
      <Choice
        label="Instrument"
        value={instrument}
        options={running.map((i) => ({ id: i.id, text: i.name }))}
        onChange={setChosen}
      />
      {steps.length > 0 ? (
        <Choice
          label="Step"
          value={step?.stepId ?? ''}
          options={steps.map(({ piece, step: s }) => ({ id: s.stepId, text: `${s.title}, ${piece}` }))}
          onChange={setStep}
        />
      ) : (
        <p className="text-ink-2">{view.data ? 'It has no step for which this could be.' : 'Asking the shop…'}</p>
      )}
    </>
  )
  return { choices, step }
}

export function CoatsForm({ instrumentId, ask }: Asked) {
  const { choices, step } = useSteps(instrumentId, (s) => s.kind === 'coat')
  const [coats, setCoats] = useState('2')
  return (
    <Ask
      disabled={!step}
      onAsk={() => step && ask({ kind: 'coats', stepId: step.stepId, coats: Math.round(Number(coats)) })}
    >
      {choices}
      <Text
        label="How many coats more, or fewer with a minus"
        type="number"
        min={-50}
        max={50}
        required
        value={coats}
        onChange={setCoats}
      />
    </Ask>
  )
}

export function MaterialForm({ instrumentId, ask }: Asked) {
  const materials = useReference().data?.materials ?? []
  const { choices, step } = useSteps(instrumentId, (s) => s.kind === 'coat' && s.done === 0)
  const [material, setMaterial] = useState('')
  const fitting = materials.filter((m) => m.group === step?.group)
  const chosen = fitting.find((m) => m.id === material) ?? fitting[0]
  return (
    <Ask
      disabled={!step || !chosen}
      onAsk={() => step && chosen && ask({ kind: 'material', stepId: step.stepId, material: chosen.id })}
    >
      {choices}
      <Choice
        label="With"
        value={chosen?.id ?? ''}
        options={fitting.map((m) => ({ id: m.id, text: m.name }))}
        onChange={setMaterial}
      />
    </Ask>
  )
}

export function StartForm({ instrumentId, ask }: Asked) {
  const running = (useInstruments().data ?? []).filter((i) => !i.outlook.finished)
  const today = useReference().data?.today ?? ''
  const [chosen, setChosen] = useState(instrumentId)
  const [date, setDate] = useState('')
  const instrument = chosen ?? running[0]?.id ?? ''
  return (
    <Ask disabled={!date || !instrument} onAsk={() => ask({ kind: 'start', instrumentId: instrument, date })}>
      <Choice
        label="Instrument"
        value={instrument}
        options={running.map((i) => ({ id: i.id, text: i.name }))}
        onChange={setChosen}
      />
      <Day label="Not before" min={today} value={date} onChange={setDate} />
    </Ask>
  )
}

export function RedoForm({ instrumentId, ask }: Asked) {
  const { choices, step } = useSteps(instrumentId, (s) => s.kind === 'coat' && s.done > 0)
  return (
    <Ask disabled={!step} onAsk={() => step && ask({ kind: 'redo', stepId: step.stepId, coat: step.done })}>
      {choices}
      <p className="text-ink-2">The last coat that is done, once more.</p>
    </Ask>
  )
}
