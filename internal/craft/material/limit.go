package material

import (
	"encoding/json"
	"fmt"
	"strconv"
)

// Milestone is a state that a film reaches as it dries and cures. Limits are
// hours at the reference climate from the end of a coat.
type Milestone string

const (
	TouchDry  Milestone = "touch-dry"
	Recoat    Milestone = "recoat"     // the next coat of the same product may follow
	RecoatMax Milestone = "recoat-max" // after this it must be scuffed first
	Sand      Milestone = "sand"
	Topcoat   Milestone = "topcoat" // another product may follow
	Handle    Milestone = "handle"
	Buff      Milestone = "buff"
	FullCure  Milestone = "full-cure"
)

// Milestones lists every milestone in the order a film usually meets them.
var Milestones = []Milestone{TouchDry, Recoat, RecoatMax, Sand, Topcoat, Handle, Buff, FullCure}

// Text says what the film is ready for, to follow "dry enough" or "cured enough".
func (m Milestone) Text() string {
	switch m {
	case TouchDry:
		return "dry to touch"
	case Recoat:
		return "dry enough to recoat"
	case Sand:
		return "hard enough to sand"
	case Topcoat:
		return "dry enough to coat over"
	case Handle:
		return "hard enough to handle"
	case Buff:
		return "hard enough to level and buff"
	case FullCure:
		return "fully cured"
	}
	return string(m)
}

// column is where families.csv keeps the milestone.
func (m Milestone) column() string {
	return map[Milestone]string{
		TouchDry: "touch_dry_h", Recoat: "recoat_min_h", RecoatMax: "recoat_max_h", Sand: "sand_after_h",
		Topcoat: "topcoat_after_h", Handle: "handle_after_h", Buff: "buff_after_h", FullCure: "full_cure_h",
	}[m]
}

// Limit is when a milestone is reached: a number of hours, or one of the words
// any (no limit), never (must not be done) and unknown (ask, and treat as the
// cautious neighbour). The zero value is unknown.
type Limit struct {
	kind  limitKind
	hours float64
}

type limitKind uint8

const (
	unknownLimit limitKind = iota
	hoursLimit
	anyLimit
	neverLimit
)

// The limits that are not numbers.
var (
	Unknown = Limit{}
	Any     = Limit{kind: anyLimit}
	Never   = Limit{kind: neverLimit}
)

// Hours is a limit of so many hours, which must not be negative.
func Hours(h float64) Limit { return Limit{kind: hoursLimit, hours: h} }

// Hours returns the number of hours, and false where the limit is a word.
func (l Limit) Hours() (float64, bool) { return l.hours, l.kind == hoursLimit }

// String prints "2 h", "9 days", "any", "never" or "unknown".
func (l Limit) String() string {
	switch l.kind {
	case hoursLimit:
		if l.hours >= 72 {
			return strconv.FormatFloat(l.hours/24, 'f', -1, 64) + " days"
		}
		return strconv.FormatFloat(l.hours, 'f', -1, 64) + " h"
	case anyLimit:
		return "any"
	case neverLimit:
		return "never"
	}
	return "unknown"
}

// MarshalJSON writes a number, or the word.
func (l Limit) MarshalJSON() ([]byte, error) {
	if l.kind == hoursLimit {
		return json.Marshal(l.hours)
	}
	return json.Marshal(l.String())
}

// UnmarshalJSON reads what MarshalJSON writes.
func (l *Limit) UnmarshalJSON(data []byte) error {
	var hours float64
	if json.Unmarshal(data, &hours) == nil {
		if hours < 0 || hours > 10000 {
			return fmt.Errorf("a limit of %g h is not from 0 to 10000", hours)
		}
		*l = Hours(hours)
		return nil
	}
	var word string
	if err := json.Unmarshal(data, &word); err != nil {
		return fmt.Errorf("a limit is a number of hours, any, never or unknown, not %s", data)
	}
	switch word {
	case "any":
		*l = Any
	case "never":
		*l = Never
	case "unknown":
		*l = Unknown
	default:
		return fmt.Errorf("a limit is a number of hours, any, never or unknown, not %q", word)
	}
	return nil
}
