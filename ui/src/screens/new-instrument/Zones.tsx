import { useState } from 'react'
import type { PieceWish, ZoneWish } from '../../api/client'
import { Outline } from '../../parts/Outline'
import type { FormProps } from './Form'
import { Select, Tick } from './Select'
import { ZoneDrawing } from './ZoneDrawing'
import { sheens, woodOptions } from './PieceFields'
import { withZone } from './draft'

type Props = Pick<FormProps, 'reference' | 'draft'> & { piece: PieceWish; onChange: (piece: PieceWish) => void }

const names = { body: ['top', 'back', 'sides'], neck: ['shaft', 'headstock'] } as const

/** Zones are the parts of a piece's surface, pointed at on its drawing: each may have another wood, sheen, or no colour. */
export function Zones({ reference, draft, piece, onChange }: Props) {
  const [open, setOpen] = useState<string>()
  const woodColour = (id?: string) => reference.woods.find((w) => w.id === (id || piece.wood))?.colour ?? '#a89684'
  const zone = (name: string): ZoneWish => piece.zones?.find((z) => z.name === name) ?? { name }
  const set = (part: Partial<ZoneWish>, of: string) => onChange(withZone(piece, { ...zone(of), ...part }))
  return (
    <div data-zones>
      <p className="mb-1 font-semibold">Zones that differ</p>
      <div className="flex gap-4">
        <ZoneDrawing
          kind={piece.kind}
          outline={draft.outline as Parameters<typeof Outline>[0]['shape']}
          colourOf={(name) => woodColour(zone(name).wood)}
          chosen={open}
          onChoose={(name) => setOpen(name === open ? undefined : name)}
        />
        <div className="min-w-0 flex-1 space-y-1">
          {names[piece.kind].map((name) => (
            <button
              key={name}
              type="button"
              aria-pressed={name === open}
              className="flex min-h-11 w-full items-center justify-between gap-2 rounded-sm border border-line bg-raised px-3 text-left aria-pressed:border-2 aria-pressed:border-ink"
              onClick={() => setOpen(name === open ? undefined : name)}
            >
              <span className="font-semibold">{name}</span>
              <span className="truncate text-sm text-ink-2">{said(zone(name), reference)}</span>
            </button>
          ))}
        </div>
      </div>
      {open && (
        <div className="mt-2 grid gap-3 border-l-4 border-umber pl-3 sm:grid-cols-2">
          <Select
            label={`Wood of the ${open}`}
            value={zone(open).wood}
            options={[{ id: '', text: 'as the rest' }, ...woodOptions(reference)]}
            onChange={(wood) => set({ wood: wood || undefined }, open)}
          />
          <Select
            label={`Sheen of the ${open}`}
            value={zone(open).sheen}
            options={[{ id: '', text: 'as the rest' }, ...sheens]}
            onChange={(sheen) => set({ sheen: (sheen || undefined) as ZoneWish['sheen'] }, open)}
          />
          <Tick
            label="Stays without the colour"
            on={zone(open).plain ?? false}
            onChange={(plain) => set({ plain: plain || undefined }, open)}
          />
        </div>
      )}
    </div>
  )
}

function said(zone: ZoneWish, reference: FormProps['reference']) {
  const wood = reference.woods.find((w) => w.id === zone.wood)?.name
  return [wood, zone.sheen, zone.plain && 'no colour'].filter(Boolean).join(', ') || 'as the rest'
}
