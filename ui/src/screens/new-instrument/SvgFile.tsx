import { Field, inputLook } from '../../parts/fields/Field'
import { toast } from '../../parts/toasts'
import { pathOfSvg } from './svg'

/** SvgFile takes the first path of an SVG file. */
export function SvgFile(p: { label: string; fault?: string; onPath: (path: string) => void }) {
  const take = async (file?: File) => {
    const path = file && pathOfSvg(await file.text())
    if (path) p.onPath(path)
    else if (file)
      toast({ bad: true, text: 'No outline in this file', detail: 'It takes the first path of an SVG file.' })
  }
  return (
    <Field label={p.label} fault={p.fault}>
      {(a) => (
        <input
          {...a}
          type="file"
          accept=".svg,image/svg+xml"
          className={`${inputLook} py-2`}
          onChange={(e) => void take(e.target.files?.[0])}
        />
      )}
    </Field>
  )
}
