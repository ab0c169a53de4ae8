package job

// Kind is what a step does.
type Kind string

const (
	Sand    Kind = "sand"
	Coat    Kind = "coat"
	Scuff   Kind = "scuff"
	MaskOn  Kind = "mask-on"
	MaskOff Kind = "mask-off"
	Level   Kind = "level"
	Buff    Kind = "buff"
	Inspect Kind = "inspect"
	Gate    Kind = "gate"
)

// BuffingWheel is the tool that takes work to the wheel.
const BuffingWheel = "buffing-wheel"

// Kinds lists every kind of step.
var Kinds = []Kind{Sand, Coat, Scuff, MaskOn, MaskOff, Level, Buff, Inspect, Gate}

// Handwork reports whether the work may be put down and taken up again another
// day: sanding, scuffing, levelling and buffing may, a coat may not. It is also
// the work that makes dust.
func (k Kind) Handwork() bool {
	switch k {
	case Sand, Scuff, Level, Buff:
		return true
	}
	return false
}
