// Package repair says how work is done again: from what lies there by now it tells what must come off,
// what goes on again, and how old and new become one. It offers every way that the trade knows for some
// damage, and says of each whether it holds for this film. A way is a row of steps that begin behind what
// is done; the planner dates them like any others.
//
// Whether a film melts into itself decides most: a spot in lacquer or shellac can vanish, a spot in all
// else leaves a ring unless the panel is coated to its next edge (reference data, faults and mends).
package repair

import (
	"fmt"
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/edit"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/unit"
)

// Damage is what has to be put right.
type Damage string

// The kinds of damage.
const (
	Again    Damage = "again"        // a step that came out wrong, and all that was done since
	Chip     Damage = "chip"         // film broken out
	Run      Damage = "run"          // a run or a sag
	Burn     Damage = "burn-through" // sanded or buffed through
	Dent     Damage = "dent"         // pressed in
	Scratch  Damage = "scratch"      // in the film
	Panel    Damage = "panel"        // a whole panel sprayed anew
	Refinish Damage = "refinish"     // an old film whose answer to the tests is known now
)

// Depth is how deep damage goes.
type Depth string

// The depths, the shallowest first.
const (
	InClear  Depth = "clear"
	InColour Depth = "colour"
	InWood   Depth = "wood"
)

// Asked is damage as somebody found it.
type Asked struct {
	ID      uuid.UUID   `json:"id" doc:"made by the device: it names the steps that come"`
	Piece   uuid.UUID   `json:"pieceId"`
	Damage  Damage      `json:"damage" enum:"again,chip,run,burn-through,dent,scratch,panel,refinish"`
	Depth   Depth       `json:"depth,omitempty" enum:"clear,colour,wood" doc:"how deep it goes; absent: into the clear"`
	Regions []uuid.UUID `json:"regions,omitempty" maxItems:"64" doc:"where; none: the whole piece"`
	From    uuid.UUID   `json:"fromId,omitzero" doc:"of again: the step that came out wrong"`
	Way     string      `json:"way,omitempty" maxLength:"40" doc:"the way that is chosen"`
}

// Way is one way of putting damage right.
type Way struct {
	ID    string
	Title string
	Text  string       // what it is like, and what stays to be seen
	Why   string       // why it does not hold here; empty: it holds
	Risk  unit.Percent // that it has to be done once more
	Steps []job.Step
	Found string // of a refinish: the surface as found that the tests have told
}

// Minutes is the hands-on time of a way.
func (w Way) Minutes() (sum unit.Minutes) {
	for i := range w.Steps {
		sum += w.Steps[i].HandsOnMin * unit.Minutes(w.Steps[i].Due())
	}
	return sum
}

// Ways are the ways of putting damage right, those that hold first. A Fault says what is wrong with what
// was asked.
func Ways(in recipe.Instrument, a Asked, log recipe.Logged) ([]Way, error) {
	s, err := siteOf(in, a, log)
	if err != nil {
		return nil, err
	}
	var ways []Way
	switch a.Damage {
	case Again:
		ways, err = s.again(a.From)
	case Chip:
		ways = []Way{s.dropMelt(), s.dropSet(), s.panel(), s.strip()}
	case Run:
		ways = []Way{s.cutDown(), s.cutAndRecoat(), s.panel()}
	case Burn:
		ways = []Way{s.touchUp(), s.renewOil(), s.metallic(), s.panel(), s.strip()}
	case Dent:
		ways = []Way{s.steam(), s.dropMelt(), s.dropSet(), s.panel()}
	case Scratch:
		ways = []Way{s.rubOut(), s.renewOil(), s.dropMelt(), s.dropSet(), s.panel()}
	case Panel:
		ways = []Way{s.panel(), s.metallic(), s.strip()}
	case Refinish:
		ways = s.answers()
	default:
		return nil, &edit.Fault{Field: "damage",
			Message: "say what has happened: one of again, chip, run, burn-through, dent, scratch, panel and refinish"}
	}
	for i := range ways {
		ways[i].Steps = s.named(ways[i])
	}
	slices.SortStableFunc(ways, func(a, b Way) int { return holds(b) - holds(a) })
	return ways, err
}

func holds(w Way) int {
	if w.Why == "" {
		return 1
	}
	return 0
}

// Apply puts the steps of the way that was chosen into an instrument, behind what is done. It fails with
// *edit.Fault.
func Apply(in recipe.Instrument, a Asked, log recipe.Logged) (recipe.Instrument, Way, error) {
	ways, err := Ways(in, a, log)
	if err != nil {
		return in, Way{}, err
	}
	i := slices.IndexFunc(ways, func(w Way) bool { return w.ID == a.Way })
	switch {
	case a.ID == uuid.Nil:
		return in, Way{}, &edit.Fault{Field: "id", Message: "must be a UUID that the device made"}
	case i < 0:
		return in, Way{}, &edit.Fault{Field: "way", Message: "must be one of the ways for this damage"}
	case ways[i].Why != "":
		return in, ways[i], &edit.Fault{Field: "way", Message: phrase.Capital(ways[i].Why)}
	}
	next, err := edit.Insert(in, a.Piece, ways[i].Steps, log)
	return next, ways[i], err
}

// named gives the steps of a way their ids and slots.
func (s *site) named(w Way) []job.Step {
	steps := slices.Clone(w.Steps)
	for n := range steps {
		step := &steps[n]
		step.ID = uuid.NewSHA1(s.asked.ID, fmt.Appendf(nil, "%s %d", w.ID, n))
		step.Slot = fmt.Sprintf("%s:%s%srepair-%s-%d", s.piece.Kind, w.ID, recipe.HandMark, s.asked.ID.String()[:8], n+1)
		step.Regions, step.Coats = s.regions, max(step.Coats, 1)
		step.Version, step.Edited, step.Moved, step.NoReturn = 1, true, true, false
		step.After, step.Out, step.Place, step.Note = nil, "", nil, ""
		if n == 0 {
			step.Within = nil // what it followed is not here
		}
	}
	return steps
}
