import { Told } from '../../parts/Told'
import type { EventRef, Sheet } from '../../api/client'
import { useSheet } from '../../api/queries'
import { Asking } from '../../parts/Asking'
import { Figure } from '../../parts/Figure'
import { chips } from '../../parts/StateChip'
import { verdictText } from '../../parts/verdicts'
import { Cautions } from './Cautions'
import { SheetActions } from './SheetActions'
import { capital, lower } from '../../parts/words'

/** SheetPanel is the chosen event: what to do next, then why, then detail. */
export function SheetPanel({ event }: { event?: EventRef }) {
  const sheet = useSheet(event)
  if (!event) return null
  return (
    <section className="panel p-4" aria-labelledby="sheet-title" data-sheet>
      <Asking query={sheet}>{(s) => <Full sheet={s} />}</Asking>
    </section>
  )
}

function Full({ sheet }: { sheet: Sheet }) {
  return (
    <>
      <h2 id="sheet-title" className="name text-xl">
        {sheet.title}
      </h2>
      <div className={`my-3 px-3 py-2 ${chips[sheet.state]}`} data-because>
        {!sheet.done && (
          <Told more={sheet.start?.full} className="font-bold">
            {sheet.when === 'now' ? 'Now.' : capital(sheet.when) + '.'}
          </Told>
        )}{' '}
        {sheet.because}
        {sheet.window && <> {sheet.window}</>}
        {sheet.wait && (
          <>
            {' '}
            <Figure working={sheet.wait}>How long</Figure>
          </>
        )}
      </div>
      <SheetActions sheet={sheet} />
      <dl className="mt-4 grid grid-cols-[84px_1fr] gap-x-3 gap-y-2">
        <Line label="How">{sheet.how}</Line>
        <Line label="Where">{sheet.where}</Line>
        {sheet.room && (
          <Line label="Room">
            <b className={verdictText[sheet.room.verdict]}>{capital(sheet.room.text)}.</b>{' '}
            {together(capital(sheet.room.reason))}.
          </Line>
        )}
        {sheet.lines.map((line) => (
          <Line key={line.label} label={line.label}>
            {line.figure && line.working ? (
              <WithFigure text={line.text} figure={line.figure} working={line.working} />
            ) : (
              together(line.text)
            )}
          </Line>
        ))}
        {sheet.check && (
          <Line label="Look for">
            {sheet.check.how} <b>Passed when:</b> {sheet.check.passWhen}{' '}
            <span className="text-ink-2">If not: {sheet.check.otherwise}</span>
          </Line>
        )}
        {sheet.over.map((v) => (
          <Line key={v.under} label="Over">
            <b className={v.needs ? 'text-late' : v.answer === 'ok' ? 'text-ready' : 'text-closing'}>
              {answers[v.answer]}
            </b>{' '}
            {v.text}
            {v.wait && <span className="text-ink-2"> Usual wait: {v.wait}.</span>}
            {v.needs && v.barrier && <span className="text-ink-2"> Between the two {v.barrier} helps.</span>}
          </Line>
        ))}
        <Line label="Why">{sheet.why}</Line>
        {sheet.school && (
          <Line label="School">
            {capital(sheet.school.way)}.{' '}
            <span className="text-ink-2">
              For it: {lower(sheet.school.for)}. Against it: {lower(sheet.school.against)}.
            </span>
          </Line>
        )}
        <Line label="Then">{sheet.then}</Line>
      </dl>
      {sheet.noReturn && (
        <p className="mt-3 border-l-4 border-closing bg-closing-fill px-3 py-2 text-closing">
          <b>No way back.</b> Until here colour can be corrected; once it is sealed it cannot.
        </p>
      )}
      <Cautions cautions={sheet.cautions} />
    </>
  )
}

function Line({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <>
      <dt className="text-ink-2">{label}</dt>
      <dd>{children}</dd>
    </>
  )
}

/** WithFigure underlines the computed part of a text. */
function WithFigure({ text, figure, working }: { text: string; figure: string; working: NonNullable<Sheet['wait']> }) {
  const [before, after] = text.split(figure, 2)
  return (
    <>
      {before}
      <Figure working={working}>{figure}</Figure>
      {after}
    </>
  )
}

const answers = { ok: 'Goes.', if: 'With care.', no: 'Does not go.', untested: 'Untested.' } as const

// together keeps a number and its unit on one line.
const together = (text: string) => text.replace(/(\d) (?=%|°|µm|mL|mm|min)/g, '$1\u00a0')
