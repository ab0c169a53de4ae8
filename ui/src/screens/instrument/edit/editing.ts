import type { Change, Edit, EditFields, Edited, InstrumentView, PieceView, StepRow, WhatIf } from '../../../api/client'
import { useWhatIf } from '../../../api/queries'
import { suppose, useSupposed } from '../../../api/supposing'
import { useLast } from '../../../parts/useLast'

/** Editing is a schedule while it is changed: what is supposed of it, and what it would be. */
export interface Editing {
  changes: Change[]
  /** As it would be; as it is while nothing is changed yet. */
  pieces: PieceView[]
  edited?: Edited
  answer?: WhatIf
  change: (edit: Edit) => void
  set: (step: StepRow, fields: EditFields) => void
}

/** useEditing is what is supposed of an instrument's schedule, with what it comes to. */
export function useEditing(view: InstrumentView): Editing {
  const supposed = useSupposed()
  const changes = supposed.filter((c) => ['edit', 'repair'].includes(c.kind) && c.instrumentId === view.id)
  const answer = useWhatIf(changes.length > 0 ? supposed : [])
  const now = answer.data?.edited?.instrumentId === view.id ? answer.data.edited : undefined
  const last = useLast(now)
  const edited = changes.length > 0 ? last : undefined
  const change = (edit: Edit) => suppose({ kind: 'edit', instrumentId: view.id, edit })
  return {
    changes,
    pieces: edited?.pieces ?? view.pieces,
    edited,
    answer: changes.length > 0 ? answer.data : undefined,
    change,
    set: (step, fields) => change({ op: 'set', stepId: step.stepId, version: step.fields.version, fields }),
  }
}

/** markOf says what is done to a step by what is supposed; empty where nothing is. */
export function markOf(step: StepRow, view: InstrumentView, editing: Editing): string {
  if (!view.pieces.some((p) => p.steps.some((s) => s.stepId === step.stepId))) return 'added'
  const edit = editing.changes.find((c) => c.edit?.stepId === step.stepId)?.edit
  if (!edit) return ''
  return edit.op === 'move' ? 'moved' : 'changed'
}

/** regionsFor are the regions that a step of a piece may be done to: of the whole, those of its pieces. */
export const regionsFor = (piece: PieceView, pieces: PieceView[]) =>
  piece.kind === 'whole' ? pieces.flatMap((p) => p.regions) : piece.regions
