import { useState } from 'react'
import type { PieceWish, RegionWish } from '../../api/client'
import { Outline } from '../../parts/Outline'
import { sheens, woodOptions, type FormProps } from './fields'
import { Choice } from '../../parts/fields/Choice'
import { Tick } from '../../parts/fields/Tick'
import { RegionDrawing } from './RegionDrawing'
import { regionNames, withRegion } from './draft'
import { isPlain, withPlain } from './stack'

type Props = Pick<FormProps, 'reference' | 'draft' | 'own'> & { piece: PieceWish; onChange: (piece: PieceWish) => void }

/** Regions are the parts of a piece's surface, pointed at on its drawing: each may have another wood, sheen, or no colour. */
export function Regions({ reference, draft, own, piece, onChange }: Props) {
  const [open, setOpen] = useState<string>()
  const woodColour = (id?: string) => reference.woods.find((w) => w.id === (id || piece.wood))?.colour ?? '#a89684'
  const region = (name: string): RegionWish => piece.regions?.find((r) => r.name === name) ?? { name }
  const set = (part: Partial<RegionWish>, of: string) => onChange(withRegion(piece, { ...region(of), ...part }))
  return (
    <div data-regions>
      <p className="mb-1 font-semibold">Regions that differ</p>
      <div className="flex gap-4">
        <RegionDrawing
          kind={piece.kind}
          outline={draft.outline as Parameters<typeof Outline>[0]['shape']}
          own={own}
          colourOf={(name) => woodColour(region(name).wood)}
          chosen={open}
          onChoose={(name) => setOpen(name === open ? undefined : name)}
        />
        <div className="min-w-0 flex-1 space-y-1">
          {regionNames[piece.kind].map((name) => (
            <button
              key={name}
              type="button"
              aria-pressed={name === open}
              className="flex min-h-11 w-full items-center justify-between gap-2 rounded-sm border border-line bg-raised px-3 text-left aria-pressed:border-2 aria-pressed:border-ink"
              onClick={() => setOpen(name === open ? undefined : name)}
            >
              <span className="font-semibold">{name}</span>
              <span className="truncate text-sm text-ink-2">{said(region(name), isPlain(piece, name), reference)}</span>
            </button>
          ))}
        </div>
      </div>
      {open && (
        <div className="mt-2 grid gap-3 border-l-4 border-umber pl-3 sm:grid-cols-2">
          <Choice
            label={`Wood of the ${open}`}
            value={region(open).wood}
            options={[{ id: '', text: 'as the rest' }, ...woodOptions(reference)]}
            onChange={(wood) => set({ wood: wood || undefined }, open)}
          />
          <Choice
            label={`Sheen of the ${open}`}
            value={region(open).sheen}
            options={[{ id: '', text: 'as the rest' }, ...sheens]}
            onChange={(sheen) => set({ sheen: (sheen || undefined) as RegionWish['sheen'] }, open)}
          />
          <Tick
            label="Stays without the colour"
            on={isPlain(piece, open)}
            onChange={(plain) => onChange(withPlain(piece, open, plain, regionNames[piece.kind]))}
          />
        </div>
      )}
    </div>
  )
}

function said(region: RegionWish, plain: boolean, reference: FormProps['reference']) {
  const wood = reference.woods.find((w) => w.id === region.wood)?.name
  return [wood, region.sheen, plain && 'no colour'].filter(Boolean).join(', ') || 'as the rest'
}
