import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, type About } from '../../api/client'
import { Asking } from '../../parts/Asking'
import { Button } from '../../parts/Button'

const kinds: Record<About['parts'][number]['kind'], string> = { font: 'Fonts', npm: 'In the page', go: 'In the server' }

/** AboutPanel is which Umberfrost this is, and under which licences the parts come that others have made. */
export function AboutPanel() {
  const about = useQuery({ queryKey: ['about'], queryFn: api.about, staleTime: Infinity })
  const [open, setOpen] = useState(false)
  return (
    <section className="panel p-4" aria-labelledby="about-head" data-about>
      <h2 id="about-head" className="name mb-2 text-xl">
        About
      </h2>
      <Asking query={about}>
        {(view) => (
          <>
            <p>
              Umberfrost {view.version}
              {view.commit && <span className="break-all text-ink-2">, built from {view.commit}</span>}
            </p>
            <p className="mb-2 text-ink-2">
              {view.parts.length === 0
                ? 'This one was built without the list of the parts that others have made.'
                : `It has ${view.parts.length} parts that others have made and let everybody use.`}
            </p>
            {view.parts.length > 0 && (
              <Button look="bare" className="px-0!" aria-expanded={open} onClick={() => setOpen(!open)}>
                {open ? 'Hide their licences' : 'Show their licences'}
              </Button>
            )}
            {open && <Parts about={view} />}
          </>
        )}
      </Asking>
    </section>
  )
}

function Parts({ about }: { about: About }) {
  return (
    <div className="max-h-[28rem] overflow-y-auto" tabIndex={0} role="region" aria-label="Licences">
      {(['font', 'npm', 'go'] as const).map((kind) => (
        <div key={kind}>
          <h3 className="mt-3 font-semibold">{kinds[kind]}</h3>
          <ul>
            {about.parts
              .filter((p) => p.kind === kind)
              .map((p) => (
                <li key={p.name + p.version} className="border-t border-line">
                  <Licence part={p} text={about.texts[p.text]} />
                </li>
              ))}
          </ul>
        </div>
      ))}
    </div>
  )
}

function Licence({ part, text }: { part: About['parts'][number]; text?: string }) {
  const name = (
    <>
      <span className="break-all">
        {part.name} {part.version}
      </span>{' '}
      <span className="text-ink-2">{part.licence || 'see its text'}</span>
    </>
  )
  if (text === undefined) return <p className="py-2.5">{name}</p>
  return (
    <details>
      <summary className="min-h-11 cursor-pointer py-2.5">{name}</summary>
      <pre className="pb-3 font-text text-[13px] whitespace-pre-wrap">{text}</pre>
    </details>
  )
}
