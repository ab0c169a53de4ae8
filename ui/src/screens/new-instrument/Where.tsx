import type { Layer } from '../../api/client'
import type { PieceProps } from './fields'
import { reaches, regionsOf, withReach } from './stack'

/** Where are the regions that a layer lies on; pointing at the drawing does the same. */
export function Where({ piece, layer, set }: PieceProps & { layer: Layer }) {
  return (
    <fieldset data-where>
      <legend className="mb-1 font-semibold">Where</legend>
      <div className="flex flex-wrap gap-2">
        {regionsOf(piece).map((region) => {
          const on = !layer.off && reaches(layer, region)
          return (
            <button
              key={region}
              type="button"
              aria-pressed={on}
              className="min-h-11 rounded-sm border border-ink-3 px-3 aria-pressed:border-2 aria-pressed:border-ink aria-pressed:bg-drying-fill aria-pressed:font-semibold"
              onClick={() => set(withReach(piece, layer.id, region), 'layers')}
            >
              {region}
            </button>
          )
        })}
      </div>
    </fieldset>
  )
}
