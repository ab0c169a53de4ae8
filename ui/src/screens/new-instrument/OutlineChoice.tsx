import type { Tag } from '../../api/client'
import { Button } from '../../parts/Button'
import { Outline } from '../../parts/Outline'
import { shown, type FormProps } from './fields'
import { SvgFile } from './SvgFile'

/** OutlineChoice is how the body runs: one of the shop's outlines, or one of its own from an SVG file. */
export function OutlineChoice(props: FormProps) {
  const { reference, draft, own, change } = props
  const fault = shown(props)
  return (
    <fieldset>
      <legend className="mb-1 font-semibold">Outline</legend>
      <div className="grid grid-cols-3 gap-2 sm:grid-cols-6">
        {reference.outlines.map((o) => (
          <label
            key={o}
            className="flex cursor-pointer flex-col items-center gap-1 rounded-sm border border-line bg-raised p-1.5 text-xs has-checked:border-2 has-checked:border-ink has-focus-visible:outline-3 has-focus-visible:outline-drying"
          >
            <input
              type="radio"
              name="outline"
              className="sr-only"
              checked={o === draft.outline}
              onChange={() => change({ outline: o }, 'outline')}
            />
            <Outline shape={o as Tag['outline']} piece="body" colour="var(--line)" frost={0} className="h-12" />
            {o}
          </label>
        ))}
      </div>
      <div className="mt-3 flex flex-wrap items-end gap-3">
        <div className="min-w-0 flex-1 basis-60">
          <SvgFile
            label="Or its own, from an SVG file"
            fault={fault('outlinePath')}
            onPath={(outlinePath) => change({ outlinePath }, 'outlinePath')}
          />
        </div>
        {draft.outlinePath && (
          <div className="flex items-center gap-2" data-own-outline>
            {own && (
              <Outline
                shape={draft.outline as Tag['outline']}
                own={own}
                piece="body"
                colour="var(--line)"
                frost={0}
                className="h-12"
              />
            )}
            <Button look="bare" onClick={() => change({ outlinePath: undefined }, 'outlinePath')}>
              Leave its own out
            </Button>
          </div>
        )}
      </div>
    </fieldset>
  )
}
