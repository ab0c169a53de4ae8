package job

import (
	"github.com/google/uuid"

	"umberfrost/internal/craft/unit"
)

// Actual is what was true of work when it was done, beside when that was and how long it took. What is
// absent was as planned, or nobody said.
type Actual struct {
	With      []uuid.UUID  `json:"with,omitempty"`      // who worked on it besides the one who logged it
	Place     *uuid.UUID   `json:"place,omitempty"`     // where
	Product   *uuid.UUID   `json:"product,omitempty"`   // another product of the same family
	Lot       string       `json:"lot,omitempty"`       // as it is marked on the container
	ThinPct   *float64     `json:"thinPct,omitempty"`   // thinner by volume, in percent of the unthinned material
	Passes    int          `json:"passes,omitempty"`    // of the gun or the cloth, that made this coat
	WetUm     *unit.Micron `json:"wetUm,omitempty"`     // by the comb
	AirC      *float64     `json:"airC,omitempty"`      // what the thermometer said
	AirPct    *float64     `json:"airPct,omitempty"`    // … and the hygrometer
	TestedBy  TestMethod   `json:"testedBy,omitempty"`  // how a film was tested
	EnteredAs string       `json:"enteredAs,omitempty"` // wet film and air as they were typed
}

// None reports whether nothing was said.
func (a *Actual) None() bool {
	return a == nil || (len(a.With) == 0 && a.Place == nil && a.Product == nil && a.Lot == "" && a.ThinPct == nil && a.Passes == 0 &&
		a.WetUm == nil && a.AirC == nil && a.AirPct == nil && a.TestedBy == "")
}

// TestMethod is how a film is tested for a milestone. Rules §2.
type TestMethod string

const (
	Tack      TestMethod = "tack"      // a knuckle, a scrap of tape
	Smell     TestMethod = "smell"     // the nose close to the film
	Thumbnail TestMethod = "thumbnail" // pressed in a hidden place
	Solvent   TestMethod = "solvent"   // a drop in a hidden place
	Weighed   TestMethod = "weight"    // a test board that loses no more
)

// TestMethods lists them, the gentlest first.
var TestMethods = []TestMethod{Tack, Smell, Thumbnail, Solvent, Weighed}

// Text says how the test is made.
func (t TestMethod) Text() string {
	switch t {
	case Tack:
		return "Tack: a knuckle leaves no mark and does not cling"
	case Smell:
		return "Smell: the nose close to it finds no solvent"
	case Thumbnail:
		return "Thumbnail: pressed in a hidden place, it leaves no dent"
	case Solvent:
		return "Solvent: a drop in a hidden place does not soften it"
	case Weighed:
		return "Weight: the test board has stopped losing"
	}
	return string(t)
}

// Timer is a clock that somebody started with a step: how long it runs, and what then.
type Timer struct {
	Kind      string       `json:"kind"`
	Title     string       `json:"title"`
	Minutes   unit.Minutes `json:"minutes"`
	BeforeMin unit.Minutes `json:"beforeMin,omitempty"` // what follows must be done by then; 0: no hurry
	Then      string       `json:"then"`                // what to do when it ends
}
