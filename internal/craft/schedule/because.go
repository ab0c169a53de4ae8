package schedule

import (
	"time"

	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/cure"
)

// Cause is the kind of the single thing that held an event.
type Cause string

const (
	Nothing     Cause = ""           // it can be done now
	Cure        Cause = "cure"       // a film below is not ready
	Glued       Cause = "glue"       // a joint has not set
	Rest        Cause = "rest"       // wood rests
	Overnight   Cause = "overnight"  // the film wants a night after so many coats
	PerDayFull  Cause = "per-day"    // no more coats of this product today
	Follows     Cause = "follows"    // the step before it on the same piece
	Joint       Cause = "joint"      // another piece is not ready to be joined
	Arrives     Cause = "arrival"    // something on order is not there
	Closed      Cause = "closed"     // the shop or the place is closed
	Hands       Cause = "hands"      // hands are busy with something else
	Full        Cause = "full"       // the place is full
	Hooks       Cause = "hooks"      // there is no hook free to dry on
	Unfit       Cause = "unfit"      // the air is too cold, too warm or too damp
	Dust        Cause = "dust"       // dust and fresh coats do not share an air
	HeldBack    Cause = "held-back"  // it waits so that what follows keeps its window
	SharedMix   Cause = "shared-mix" // it follows another piece that takes the same product
	PinnedThere Cause = "pinned"     // somebody pinned it there
)

// Because is why an event is not earlier.
type Because struct {
	Cause   Cause
	Event   Event      // the coat that dries, the step it follows, what has the hands or would miss its window
	Until   time.Time  // when it stops holding
	Earlier time.Time  // of a cause outside its piece: when it would otherwise have been
	Blocked time.Time  // … and the last minute at which the hours would have allowed it
	Short   bool       // of Closed: the shop is open then, but not for long enough
	Place   string     // of a place that is closed, full or unfit
	Wait    *cure.Wait // of Cure
}

// because is a Because while dates are worked out.
type because struct {
	cause   Cause
	node    int32 // -1 for none
	place   int32
	until   minute
	earlier minute
	blocked minute
	short   bool
	wait    *cure.Wait
	hours   float64
}

func (g *graph) because(b *because) Because {
	out := Because{Cause: b.cause, Short: b.short}
	if b.cause == Nothing {
		return out
	}
	out.Until = g.local(b.until)
	if b.node >= 0 {
		out.Event = g.nodes[b.node].event
	}
	if b.earlier != 0 {
		out.Earlier, out.Blocked = g.local(b.earlier), g.local(b.blocked)
	}
	switch b.cause {
	case Full, Hooks, Unfit, Dust:
		out.Place = g.shop.Places[b.place].Name
	}
	out.Wait = b.wait
	if b.wait != nil && b.hours > b.wait.Reference*b.wait.Margin {
		learned := *b.wait
		learned.Factor = b.hours / b.wait.Reference
		out.Wait = &learned
	}
	return out
}

// Unfit says what is wrong with the air of the place of a coat: when the shop is first open for
// it, or else at the last minute before. The coat needs the air to stay fit through its
// flash time, so the reason may lie a little later.
func (p *Plan) Unfit(event Event, moments ...time.Time) string {
	n := p.r.nodes[p.index[event]]
	room := p.r.shop.Places[n.place].Room
	limits := climate.LimitsOf(*n.step.Material)
	stays := time.Duration(n.phases[0].length+minute(n.step.Material.Family.Flash)) * time.Minute
	for _, at := range moments {
		for after := time.Duration(0); after <= stays; after += 5 * time.Minute {
			air, _ := room.At(at.Add(after))
			if fit := limits.Judge(air, room.Surface(at.Add(after))); fit.Verdict == climate.Wait {
				return fit.Reason
			}
		}
	}
	return "the air does not stay fit"
}
