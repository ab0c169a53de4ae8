import type { RegionWish } from '../../api/client'
import { Button } from '../../parts/Button'
import { Choice } from '../../parts/fields/Choice'
import { Text } from '../../parts/fields/Text'
import { Tick } from '../../parts/fields/Tick'
import { pathOf } from './draft'
import { sheens, shown, woodOptions, type PieceProps } from './fields'
import { isPlain, regionsOf, withPlain, withRegion, withRegionNamed, withoutRegion } from './stack'
import { SvgFile } from './SvgFile'

type Props = PieceProps & {
  region: RegionWish
  onRename: (name?: string) => void
  drawing: boolean
  onDraw: () => void
}

/** RegionEdit is what is wished of one region: its wood, its sheen, how it is drawn and how it meets its neighbours. */
export function RegionEdit(props: Props) {
  const { reference, piece, region, set, onRename } = props
  const { name } = region
  const put = (part: Partial<RegionWish>) => set(withRegion(piece, { ...region, ...part }), 'regions')
  const at = piece.regions?.findIndex((r) => r.name === name) ?? -1
  const fault = (field: string) => shown(props)(`${pathOf(props.draft.wish, piece.kind)}.regions[${at}].${field}`)
  return (
    <div className="mt-3 space-y-3 border-l-4 border-umber pl-3" data-region-edit={name}>
      <div className="grid gap-3 min-[420px]:grid-cols-2">
        {region.kind && (
          <Text
            label="Name of the region"
            value={name}
            maxLength={40}
            fault={fault('name')}
            onChange={(next) => {
              if (!next || regionsOf(piece).includes(next)) return
              set(withRegionNamed(piece, name, next), 'regions')
              onRename(next)
            }}
          />
        )}
        <Choice
          label={`Wood of the ${name}`}
          value={region.wood}
          options={[{ id: '', text: 'as the rest' }, ...woodOptions(reference)]}
          fault={fault('wood')}
          onChange={(wood) => put({ wood: wood || undefined })}
        />
        <Choice
          label={`Sheen of the ${name}`}
          value={region.sheen}
          options={[{ id: '', text: 'as the rest' }, ...sheens]}
          onChange={(sheen) => put({ sheen: (sheen || undefined) as RegionWish['sheen'] })}
        />
        <Choice
          label="Surface as it comes"
          value={region.found}
          options={[{ id: '', text: 'as the rest' }, ...reference.found]}
          fault={fault('found')}
          onChange={(found) => put({ found: found || undefined })}
        />
        {region.kind && <Drawn {...props} put={put} fault={fault} />}
      </div>
      <Tick
        label="Stays without the colour"
        on={isPlain(piece, name)}
        onChange={(plain) => set(withPlain(piece, name, plain), 'layers')}
      />
      {region.kind && (
        <Button
          onClick={() => {
            set(withoutRegion(piece, name), 'regions')
            onRename(undefined)
          }}
        >
          Give it back to the {region.in ?? regionsOf(piece)[piece.kind === 'neck' ? 1 : 0]}
        </Button>
      )}
    </div>
  )
}

type DrawnProps = Props & { put: (part: Partial<RegionWish>) => void; fault: (field: string) => string | undefined }

/** Drawn is how a region that lies within another is drawn. */
function Drawn({ reference, piece, region, put, fault, drawing, onDraw }: DrawnProps) {
  const kind = region.kind ?? 'shape'
  const naturals = regionsOf({ ...piece, regions: undefined })
  const wide = ['strips', 'border', 'bevel', 'binding', 'round-over'].includes(kind)
  const counted = ['strips', 'inlay', 'cut-out', 'cavity'].includes(kind)
  const pathed = ['shape', 'inlay', 'cut-out'].includes(kind)
  return (
    <>
      <Choice
        label="Lies in"
        value={region.in ?? (piece.kind === 'neck' ? 'headstock' : 'top')}
        options={naturals.map((id) => ({ id, text: id }))}
        fault={fault('in')}
        onChange={(into) => put({ in: into })}
      />
      <Choice
        label="Meets its neighbours"
        value={region.edge ?? 'taped'}
        options={reference.edges}
        fault={fault('edge')}
        onChange={(edge) => put({ edge: edge as RegionWish['edge'] })}
      />
      {counted && (
        <Text
          label="How many"
          type="number"
          min={1}
          max={40}
          value={region.count ? String(region.count) : '1'}
          fault={fault('count')}
          onChange={(n) => put({ count: Number(n) || undefined })}
        />
      )}
      {wide && <Text label="Width" value={region.width} fault={fault('width')} onChange={(width) => put({ width })} />}
      {(kind === 'bevel' || kind === 'binding') && (
        <Text
          label="Length"
          placeholder="all the way round"
          value={region.length}
          fault={fault('length')}
          onChange={(length) => put({ length: length || undefined })}
        />
      )}
      {kind === 'strips' && (
        <Tick
          label="Mirrored about the middle"
          on={region.mirrored ?? false}
          onChange={(mirrored) => put({ mirrored })}
        />
      )}
      {kind === 'half' && (
        <Choice
          label="Side"
          value={region.side ?? 'left'}
          options={sides}
          onChange={(side) => put({ side: side as RegionWish['side'] })}
        />
      )}
      <Text
        label="Area, cm²"
        type="number"
        min={0}
        placeholder="from the drawing"
        value={region.areaCm2 ? String(region.areaCm2) : ''}
        fault={fault('areaCm2')}
        onChange={(area) => put({ areaCm2: Number(area) || undefined })}
      />
      {pathed && (
        <div className="col-span-full space-y-2">
          <PathField region={region} put={put} fault={fault('path')} />
          {!drawing && kind === 'shape' && <Button onClick={onDraw}>Draw it on the outline</Button>}
        </div>
      )}
    </>
  )
}

function PathField({ region, put, fault }: Pick<DrawnProps, 'region' | 'put'> & { fault?: string }) {
  return (
    <>
      <Text
        label="Shape, as SVG path data in mm"
        maxLength={20000}
        value={region.path}
        fault={fault}
        onChange={(path) => put({ path: path || undefined })}
      />
      <SvgFile label="Or from an SVG file" onPath={(path) => put({ path })} />
    </>
  )
}

const sides = [
  { id: 'left', text: 'Left' },
  { id: 'right', text: 'Right' },
]
