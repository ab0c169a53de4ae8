import { parseDate, parseDateTime, type CalendarDate, type CalendarDateTime } from '@internationalized/date'
import { CalendarDays, ChevronLeft, ChevronRight, X } from 'lucide-react'
import {
  Button,
  Calendar,
  CalendarCell,
  CalendarGrid,
  DateInput,
  DatePicker,
  DateSegment,
  Dialog,
  FieldError,
  Group,
  Heading,
  I18nProvider,
  Label,
  Popover,
} from 'react-aria-components'
import { useNotation } from '../../notation'
import type { DayProps } from './props'

const tool = 'grid size-11 shrink-0 place-items-center rounded-sm text-ink-2 hover:bg-panel hover:text-ink'

/** DayPicker is what Day shows once it has come. */
export function DayPicker({ label, value, min, moment, fault, onChange }: DayProps) {
  const notation = useNotation()
  return (
    <I18nProvider locale={notation.monthFirst ? 'en-US' : 'en-GB'}>
      <DatePicker<CalendarDate | CalendarDateTime>
        className="min-w-0"
        value={read(value, moment)}
        minValue={min ? parseDate(min) : undefined}
        granularity={moment ? 'minute' : 'day'}
        hourCycle={notation.amPm ? 12 : 24}
        firstDayOfWeek={notation.sundayFirst ? 'sun' : 'mon'}
        shouldForceLeadingZeros
        validationBehavior="aria"
        isInvalid={fault !== undefined}
        onChange={(next) => onChange(next?.toString().slice(0, moment ? 16 : 10) ?? '')}
      >
        <Label className="mb-1 block font-semibold">{label}</Label>
        <Group className="flex min-h-11 w-full min-w-0 items-center rounded-sm border border-ink-3 bg-raised pl-2 focus-within:outline-3 focus-within:outline-drying data-invalid:border-2 data-invalid:border-late">
          <DateInput className="flex min-w-0 flex-1 items-center tabular-nums" data-day-input={label}>
            {(segment) => (
              <DateSegment
                segment={segment}
                className="rounded-sm px-0.5 py-2 outline-none focus:bg-ready focus:text-on-loud data-placeholder:text-ink-3 focus:data-placeholder:text-on-loud"
              />
            )}
          </DateInput>
          {value && (
            <Button
              slot={null}
              className="grid h-11 w-7 shrink-0 place-items-center rounded-sm text-ink-2 hover:text-ink"
              aria-label={`No ${label.toLowerCase()}`}
              onPress={() => onChange('')}
            >
              <X className="size-4" />
            </Button>
          )}
          <Button className={tool}>
            <CalendarDays className="size-5" />
          </Button>
        </Group>
        <FieldError className="mt-1 block text-sm text-late" data-fault>
          {fault}
        </FieldError>
        <Popover className="border-t-3 border-umber bg-panel p-4 outline outline-line" placement="bottom start">
          <Dialog className="outline-none" aria-label={label}>
            <Month />
          </Dialog>
        </Popover>
      </DatePicker>
    </I18nProvider>
  )
}

function Month() {
  return (
    <Calendar>
      <header className="mb-2 flex items-center justify-between">
        <Button slot="previous" className={tool}>
          <ChevronLeft className="size-5" />
        </Button>
        <Heading className="name text-lg" />
        <Button slot="next" className={tool}>
          <ChevronRight className="size-5" />
        </Button>
      </header>
      <CalendarGrid className="tabular-nums">
        {(date) => (
          <CalendarCell
            date={date}
            className="grid size-11 place-items-center rounded-sm outline-none hover:bg-raised data-disabled:text-ink-3 data-disabled:line-through data-focus-visible:outline-3 data-focus-visible:outline-drying data-outside-month:hidden data-selected:bg-ready data-selected:text-on-loud"
          />
        )}
      </CalendarGrid>
    </Calendar>
  )
}

/** read is a day or moment as the component has it; null where there is none. */
function read(value: string | undefined, moment: boolean | undefined) {
  if (!value) return null
  try {
    return moment ? parseDateTime(value) : parseDate(value.slice(0, 10))
  } catch {
    return null
  }
}
