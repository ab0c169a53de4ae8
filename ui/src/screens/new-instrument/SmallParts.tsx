import type { PartWish } from '../../api/client'
import { Choice } from '../../parts/fields/Choice'
import { Text } from '../../parts/fields/Text'
import { Tick } from '../../parts/fields/Tick'
import { shown, type FormProps } from './fields'

/** SmallParts are hardware, plastics and fittings that have schedules of their own, and building events beside them. */
export function SmallParts(props: FormProps) {
  const { reference, draft, wish } = props
  const w = draft.wish
  const parts = w.parts ?? []
  const set = (next: PartWish[]) => wish({ ...w, parts: next.length ? next : undefined }, 'wish.parts')
  const events = w.events ?? []
  return (
    <fieldset className="space-y-2 border-t border-line pt-3" data-small-parts>
      <legend className="sr-only">Small parts and building events</legend>
      {reference.parts.map((offer) => {
        const at = parts.findIndex((p) => p.kind === offer.kind)
        const part = parts[at]
        const edit = (change: Partial<PartWish>) => set(parts.map((p, i) => (i === at ? { ...p, ...change } : p)))
        const first = offer.of[0]?.id ?? ''
        return (
          <div key={offer.kind} data-part={offer.kind}>
            <Tick
              label={offer.text}
              on={part !== undefined}
              onChange={(on) =>
                set(on ? [...parts, { kind: offer.kind, of: first }] : parts.filter((p) => p.kind !== offer.kind))
              }
            />
            {part && (
              <div className="space-y-2 border-l-4 border-umber pl-3">
                <Choice
                  label={`What the ${offer.kind} are made of`}
                  value={part.of}
                  options={offer.of}
                  fault={shown(props)(`wish.parts[${at}].of`)}
                  onChange={(of) => edit({ of })}
                />
                <Text
                  label={`Which ${offer.kind}`}
                  value={part.name}
                  onChange={(name) => edit({ name: name || undefined })}
                />
                <div className="flex flex-wrap gap-x-5">
                  {offer.do.map((d) => (
                    <Tick
                      key={d.id}
                      label={d.text}
                      on={part.do?.includes(d.id) ?? false}
                      onChange={(on) => edit({ do: toggled(part.do, d.id, on) })}
                    />
                  ))}
                </div>
              </div>
            )}
          </div>
        )
      })}
      <p className="font-semibold">Building events in the schedule</p>
      {reference.events.map((e) => (
        <Tick
          key={e.id}
          label={e.text}
          on={events.includes(e.id)}
          onChange={(on) => wish({ ...w, events: toggled(events, e.id, on) }, 'wish.events')}
        />
      ))}
      <Text
        label="Days it hangs under strings"
        type="number"
        min={0}
        max={60}
        value={w.hangDays ? String(w.hangDays) : ''}
        fault={shown(props)('wish.hangDays')}
        placeholder="none"
        onChange={(days) => wish({ ...w, hangDays: Number(days) || undefined }, 'wish.hangDays')}
      />
    </fieldset>
  )
}

/** toggled is a list with a word in it, or without; none where it is empty. */
function toggled(list: string[] | null | undefined, word: string, on: boolean) {
  const next = on ? [...(list ?? []), word] : (list ?? []).filter((w) => w !== word)
  return next.length ? next : undefined
}
