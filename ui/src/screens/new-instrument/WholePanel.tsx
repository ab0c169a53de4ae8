import { Arrivals } from './Arrivals'
import type { StackProps } from './fields'
import { Fold } from './Fold'
import { WholeSchools } from './Schools'
import { SmallParts } from './SmallParts'
import { WholeFields } from './WholeFields'

/** WholePanel is what is wished of the whole: joint, standard, board, frets, small parts, what is on order. */
export function WholePanel({ open, ...props }: StackProps & { open?: boolean }) {
  return (
    <Fold title="The whole and its parts" open={open}>
      <WholeFields {...props} />
      <SmallParts {...props} />
      <WholeSchools {...props} />
      <Arrivals {...props} />
    </Fold>
  )
}
