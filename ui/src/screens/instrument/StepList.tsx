import { Tabs } from 'radix-ui'
import { useEffect, useRef, useState } from 'react'
import type { EventRef, PieceView, StepRow } from '../../api/client'
import { KindMark } from '../../parts/BeadMark'
import { stateText } from '../../parts/StateChip'

interface Props {
  pieces: PieceView[]
  chosen?: EventRef
  onChoose: (event: EventRef) => void
  /** While the schedule is changed: what is done to a step, in a word. */
  mark?: (step: StepRow) => string
}

/** StepList is the schedule of a piece in order, what is done struck through. */
export function StepList({ pieces, chosen, onChoose, mark }: Props) {
  const owner = pieces.find((p) => p.steps.some((s) => s.stepId === chosen?.stepId)) ?? pieces[0]
  const [picked, setPicked] = useState<{ piece: string; at?: string }>()
  // A choice made elsewhere, on a thread, brings its piece to the front.
  const shown = picked && picked.at === chosen?.stepId ? picked.piece : owner?.id
  return (
    <Tabs.Root
      value={shown}
      onValueChange={(piece) => setPicked({ piece, at: chosen?.stepId })}
      className="panel"
      data-steps
    >
      <Tabs.List aria-label="Pieces" className="flex flex-wrap border-b border-line">
        {pieces.map((p) => (
          <Tabs.Trigger
            key={p.id}
            value={p.id}
            className="name min-h-11 grow px-1.5 text-[15px] text-ink-2 data-[state=active]:border-b-3 data-[state=active]:border-umber data-[state=active]:text-ink"
          >
            {p.kind}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      {pieces.map((p) => (
        <Tabs.Content
          key={p.id}
          value={p.id}
          className="relative p-2 md:max-h-[calc(100vh-19rem)] md:overflow-y-auto"
          tabIndex={0}
        >
          <p className="px-2 pb-2 text-sm text-ink-2">{p.recipe || p.about}</p>
          <ol>
            {p.steps.map((step) => (
              <Row
                key={step.stepId}
                step={step}
                chosen={step.stepId === chosen?.stepId}
                onChoose={onChoose}
                mark={mark?.(step)}
              />
            ))}
          </ol>
        </Tabs.Content>
      ))}
    </Tabs.Root>
  )
}

interface RowProps {
  step: StepRow
  chosen: boolean
  mark?: string
  onChoose: Props['onChoose']
}

function Row({ step, chosen, mark, onChoose }: RowProps) {
  const row = useRef<HTMLLIElement>(null)
  useEffect(() => {
    // Only the list scrolls, never the page under somebody's hands.
    const list = row.current?.closest('[role=tabpanel]')
    if (chosen && row.current && list && list.scrollHeight > list.clientHeight)
      list.scrollTop = row.current.offsetTop - list.clientHeight / 3
  }, [chosen])
  const done = step.done === step.coats || step.out !== undefined
  return (
    <li ref={row} className="border-t border-line">
      <button
        aria-current={chosen ? 'step' : undefined}
        className={`grid min-h-12 w-full grid-cols-[20px_1fr] items-start gap-x-2 px-1 py-1.5 text-left hover:bg-raised ${chosen ? 'border-l-4 border-umber bg-raised' : 'border-l-4 border-transparent'}`}
        onClick={() => onChoose({ stepId: step.stepId, coat: step.nextCoat })}
      >
        <KindMark
          kind={step.kind}
          method={step.method}
          className={`mt-0.5 size-5 ${done ? 'text-ink-3' : 'text-umber'}`}
        />
        <span className="min-w-0">
          <span className={`block leading-5 font-semibold ${done ? 'text-ink-3 line-through' : ''}`}>{step.title}</span>
          <span className={`flex justify-between gap-2 text-[13px] ${done ? 'text-ink-3' : ''}`}>
            <span className="min-w-0 truncate text-ink-2">
              {step.coats > 1 ? `${step.done} of ${step.coats} coats` : step.about}
            </span>
            <span
              className={`shrink-0 font-semibold ${chosen && done ? 'text-ink-2' : stateText[step.state]}`}
              title={step.start?.full}
            >
              {step.when}
            </span>
          </span>
          {step.out && <span className="block truncate text-[13px] text-ink-2">because {step.out}</span>}
          {mark && <span className="block text-[13px] font-semibold text-closing">{mark}</span>}
          {step.noReturn && !done && <span className="block text-[13px] text-closing">no way back after this</span>}
        </span>
      </button>
    </li>
  )
}
