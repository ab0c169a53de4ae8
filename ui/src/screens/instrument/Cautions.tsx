import { Collapsible } from 'radix-ui'
import type { Caution } from '../../api/client'

/** Cautions stand with the step, before it starts: in short, and whole on demand. */
export function Cautions({ cautions }: { cautions: Caution[] }) {
  const also = cautions[0]?.also
  return (
    <div className="mt-4 space-y-2">
      {cautions.map((c) => (
        <Collapsible.Root key={c.id} className="border-l-4 border-late pl-3">
          <p>
            <b>{c.title}.</b> {first(c.says)}{' '}
            <Collapsible.Trigger className="min-h-8 font-semibold underline underline-offset-4">
              What to wear, what never to do
            </Collapsible.Trigger>
          </p>
          <Collapsible.Content className="mt-1 space-y-1 text-sm">
            <p>{c.says}</p>
            <p>
              <b>Wear:</b> {c.wear.join('; ')}.
            </p>
            <ul className="list-disc pl-5">
              {c.never.map((n) => (
                <li key={n}>{n}</li>
              ))}
            </ul>
            <p className="text-ink-2">{c.also}</p>
          </Collapsible.Content>
        </Collapsible.Root>
      ))}
      {also && (
        <p className="text-sm text-ink-2">
          The product’s safety data sheet and local codes come before anything said here.
        </p>
      )}
    </div>
  )
}

const first = (text: string) => text.split(/(?<=\.) /, 1)[0] ?? text
