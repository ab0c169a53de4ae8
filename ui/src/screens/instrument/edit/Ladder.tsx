import { X } from 'lucide-react'
import type { Reference } from '../../../api/client'
import { Choice } from '../../../parts/fields/Choice'

interface Props {
  ladder: string[]
  grits: Reference['grits']
  onChange: (ladder: string[]) => void
}

/** Ladder is the grits of a step in order; each may go, and others come at their place. */
export function Ladder({ ladder, grits, onChange }: Props) {
  const text = (id: string) => grits?.find((g) => g.id === id)?.text ?? id
  const rank = (id: string) => grits?.findIndex((g) => g.id === id) ?? 0
  const scale = (id: string) => id.split(':', 1)[0]
  const add = (id: string) => {
    const at = ladder.findIndex((g) => scale(g) === scale(id) && rank(g) > rank(id))
    onChange(at < 0 ? [...ladder, id] : ladder.toSpliced(at, 0, id))
  }
  return (
    <fieldset data-ladder>
      <legend className="mb-1 font-semibold">Grits</legend>
      <ol className="mb-2 flex flex-wrap gap-2">
        {ladder.map((id, i) => (
          <li key={`${id} ${i}`} className="flex items-center rounded-sm border border-ink-3 bg-raised pl-3">
            {text(id)}
            <button
              type="button"
              className="grid size-11 place-items-center"
              aria-label={`Without ${text(id)}`}
              onClick={() => onChange(ladder.toSpliced(i, 1))}
            >
              <X className="size-4" />
            </button>
          </li>
        ))}
      </ol>
      <Choice
        label="One more grit"
        value=""
        options={[
          { id: '', text: 'choose' },
          ...(grits ?? []).filter((g) => !ladder.includes(g.id)).map((g) => ({ id: g.id, text: g.text })),
        ]}
        onChange={(id) => id && add(id)}
      />
    </fieldset>
  )
}
