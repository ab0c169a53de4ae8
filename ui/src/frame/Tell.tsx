import { useState } from 'react'
import * as z from 'zod/mini'
import { Problem, type Entry, type Schemas } from '../api/client'
import { shopNow } from '../api/clock'
import type { Shape } from '../api/kept'
import { useReference, useSheet } from '../api/queries'
import { useWho } from '../api/who'
import { Button } from '../parts/Button'
import { Over } from '../parts/Over'
import { bind } from '../parts/fields/bind'
import { Choice } from '../parts/fields/Choice'
import { Day } from '../parts/fields/Day'
import { Text } from '../parts/fields/Text'
import { Toggles } from '../parts/fields/Toggles'
import { useKeptForm } from '../parts/fields/useKeptForm'
import { useMoment, useWall } from '../parts/zone'
import { useLog } from './logging'
import { tell, useTelling, type Telling } from './telling'

/** Tell is where somebody says what is true of some work: before it is logged, or to put right what is in the log. */
export function Tell() {
  const telling = useTelling()
  return (
    <Over
      wide
      title={telling ? (telling.corrects ? `What is true of it: ${telling.title}` : `Log: ${telling.title}`) : ''}
      open={telling !== undefined}
      onOpenChange={() => tell(undefined)}
    >
      {telling && <Form key={telling.corrects ?? `${telling.event.stepId}/${telling.event.coat}`} telling={telling} />}
    </Over>
  )
}

/** What is typed here, field by field; empty is as planned, or nobody looked. */
interface Typed extends Record<(typeof texts)[number], string> {
  with: string[]
}

const texts = [
  'happened',
  'minutes',
  'note',
  'placeId',
  'productId',
  'lot',
  'thin',
  'passes',
  'wet',
  'temperature',
  'humidity',
] as const

const typedShape = z.partial(
  z.object({ ...Object.fromEntries(texts.map((t) => [t, z.string()])), with: z.array(z.string()) }),
) as Shape<unknown> as Shape<Partial<Typed>>

function typedOf({ said }: Telling, wall: (at: string) => string): Typed {
  const { happenedAt, minutes, note = '', entered } = said ?? {}
  return {
    happened: happenedAt ? wall(happenedAt) : '',
    minutes: minutes?.toString() ?? '',
    note,
    with: entered?.with ?? [],
    placeId: entered?.placeId ?? '',
    productId: entered?.productId ?? '',
    lot: entered?.lot ?? '',
    thin: entered?.thin ?? '',
    passes: entered?.passes ? String(entered.passes) : '',
    wet: entered?.wet ?? '',
    temperature: entered?.temperature ?? '',
    humidity: entered?.humidity ?? '',
  }
}

function Form({ telling }: { telling: Telling }) {
  const { event, title, along = [], corrects, sittingId, said } = telling
  const { log } = useLog()
  const reference = useReference().data
  const sheet = useSheet(event).data
  const who = useWho()
  const wall = useWall()
  const moment = useMoment()
  const [first] = useState(() => typedOf(telling, wall))
  const { form, value, clear } = useKeptForm<Typed>(
    `tell.${corrects ?? `${event.stepId}.${event.coat}`}`,
    typedShape,
    first,
  )
  const [problem, setProblem] = useState<Problem>()
  const fault = (field: string) => problem?.faults.find((f) => f.location === `body.${field}`)?.message
  const field = (name: (typeof texts)[number], at: string = name) => ({ ...bind(form, name), fault: fault(at) })

  const happenedAt = () => {
    if (value.happened === first.happened) return said?.happenedAt // to the second, where nobody changed it
    return value.happened ? moment(value.happened) : undefined
  }
  const send = async () => {
    const outcome = await log(
      {
        kind: 'done',
        ...event,
        along: along.length > 0 ? along : undefined,
        sittingId,
        correctsId: corrects,
        happenedAt: happenedAt(),
        minutes: value.minutes.trim() === '' ? undefined : Number(value.minutes),
        note: value.note.trim() || undefined,
        actual: actualOf(value),
      },
      title,
      true,
    )
    if (outcome instanceof Problem) setProblem(outcome)
    if (outcome !== 'logged') return
    clear()
    tell(undefined)
  }
  const people = (reference?.people ?? []).filter((p) => p.id !== who)
  const products = (reference?.materials ?? []).filter((m) => m.family === sheet?.family && m.id !== m.family)
  return (
    <form
      className="grid gap-x-4 gap-y-3 sm:grid-cols-2"
      data-tell
      onSubmit={(e) => {
        e.preventDefault()
        void send()
      }}
    >
      <div className="sm:col-span-2">
        <Presets on={value.happened} choose={(at) => form.setValue('happened', at, { shouldDirty: true })} />
      </div>
      <Day
        moment
        label={corrects ? 'Done since' : 'Done since (empty: just now)'}
        {...field('happened', 'happenedAt')}
      />
      <Text
        label={along.length > 0 ? 'Minutes, of all together' : 'Minutes'}
        type="number"
        inputMode="numeric"
        min={0}
        max={1440}
        {...field('minutes')}
      />
      {people.length > 0 && (
        <Toggles
          legend="Worked on it too"
          options={people.map((p) => ({ id: p.id, text: p.name }))}
          on={value.with}
          onChange={(on) => form.setValue('with', on, { shouldDirty: true })}
        />
      )}
      <Choice
        label="Place"
        options={[asPlanned, ...(reference?.places ?? []).map((p) => ({ id: p.id, text: p.name }))]}
        {...field('placeId', 'actual.placeId')}
      />
      {sheet?.family && (
        <>
          <Choice
            label="Product"
            options={[asPlanned, ...products.map((m) => ({ id: m.id, text: m.name }))]}
            {...field('productId', 'actual.productId')}
          />
          <Text label="Lot, as it is marked" maxLength={60} {...field('lot', 'actual.lot')} />
          <Text label="Thinned by" placeholder="10 %" maxLength={20} {...field('thin', 'actual.thin')} />
          <Text
            label="Passes"
            type="number"
            inputMode="numeric"
            min={0}
            max={50}
            {...field('passes', 'actual.passes')}
          />
          <Text label="Wet film, by the comb" placeholder="90 µm" maxLength={20} {...field('wet', 'actual.wet')} />
        </>
      )}
      <div className="grid grid-cols-2 gap-3">
        <Text label="Air" placeholder="18.6 °C" maxLength={20} {...field('temperature', 'actual.temperature')} />
        <Text label="Humidity" placeholder="52 %" maxLength={20} {...field('humidity', 'actual.humidity')} />
      </div>
      <div className="sm:col-span-2">
        <Text label="Note" maxLength={2000} {...field('note')} />
      </div>
      {problem && (
        <p role="alert" className="text-late sm:col-span-2">
          {problem.faults.length > 0 ? 'It is not logged: see what is marked.' : problem.message}
        </p>
      )}
      <div className="flex flex-wrap justify-end gap-3 sm:col-span-2">
        <Button onClick={() => tell(undefined)}>{corrects ? 'Leave it as it is' : 'Do not log it'}</Button>
        <Button type="submit" look="loud">
          {corrects ? 'Keep it so' : 'Log it so'}
        </Button>
      </div>
    </form>
  )
}

const asPlanned = { id: '', text: 'as planned' }

/** Presets are when it happened in a few words. */
function Presets({ on, choose }: { on: string; choose: (at: string) => void }) {
  const wall = useWall()
  const ago = (minutes: number) => wall(new Date(shopNow().getTime() - minutes * 60_000).toISOString())
  const morning = ago(0).slice(0, 11) + '09:00'
  const list = [
    { text: 'Just now', at: '' },
    { text: 'Half an hour ago', at: ago(30) },
    { text: 'An hour ago', at: ago(60) },
    ...(ago(0) > morning ? [{ text: 'This morning', at: morning }] : []),
  ]
  return (
    <div role="group" aria-label="When" className="flex flex-wrap gap-2">
      {list.map(({ text, at }) => (
        <Button
          key={text}
          aria-pressed={on === at}
          className="aria-pressed:border-2 aria-pressed:bg-drying-fill"
          onClick={() => choose(at)}
        >
          {text}
        </Button>
      ))}
    </div>
  )
}

function actualOf(value: Typed): Entry['actual'] {
  const said: Schemas['ActualForm'] = {
    with: value.with.length > 0 ? value.with : undefined,
    placeId: value.placeId || undefined,
    productId: value.productId || undefined,
    lot: value.lot.trim() || undefined,
    thin: value.thin.trim() || undefined,
    passes: value.passes.trim() === '' ? undefined : Number(value.passes),
    wet: value.wet.trim() || undefined,
    temperature: value.temperature.trim() || undefined,
    humidity: value.humidity.trim() || undefined,
  }
  return Object.values(said).some((v) => v !== undefined) ? said : undefined
}
