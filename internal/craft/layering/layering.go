// Package layering knows what goes over what: for two materials that touch,
// whether the upper one holds on the lower, on which condition and why, and which
// barrier between them would help. Rules §8.
//
// All of it is judgement from general practice, and a data sheet overrides it. A pair
// that is not in the table is not a bad pair: nobody has tried it here, so it is
// tried on scrap.
package layering

import (
	_ "embed"
	"errors"
	"fmt"

	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/table"
)

// Answer is whether one material goes over another.
type Answer string

const (
	OK       Answer = "ok"
	If       Answer = "if" // on a condition
	No       Answer = "no"
	Untested Answer = "untested" // try it on scrap
)

// Condition is what an If asks for.
type Condition string

const (
	DryThrough   Condition = "dry-through"
	FullCure     Condition = "full-cure"
	LightMist    Condition = "light-mist-first"
	Scuffed      Condition = "scuff"
	TestFirst    Condition = "test-first"
	WithinWindow Condition = "within-recoat-window"
	OnShellac    Condition = "barrier-dewaxed-shellac"
	WashOffWax   Condition = "wash-off-wax"
)

var conditions = map[Condition]string{
	DryThrough:   "when what is below has dried right through",
	FullCure:     "when what is below has fully cured",
	LightMist:    "with light dry mists first",
	Scuffed:      "over an evenly scuffed film",
	TestFirst:    "after a test on scrap",
	WithinWindow: "while its recoat window is open",
	OnShellac:    "over a barrier of dewaxed shellac",
	WashOffWax:   "once the wax is washed off",
}

// Text says a condition inside a sentence.
func (c Condition) Text() string { return conditions[c] }

// Verdict is what is known of one material over another.
type Verdict struct {
	Under, Over string // families
	Answer      Answer
	Condition   Condition // of an If
	Wait        string    // how long the trade waits, in words
	Reason      string
}

// Needs reports whether the pair cannot stay as it is without something between
// the two or a decision on purpose.
func (v Verdict) Needs() bool { return v.Answer == No || v.Condition == OnShellac }

// Text says the verdict as a sentence.
func (v Verdict) Text() string {
	over, under := named(v.Over), named(v.Under)
	switch {
	case v.Answer == No:
		return fmt.Sprintf("%s does not go over %s: %s", phrase.Capital(over), under, v.Reason)
	case v.Answer == Untested:
		return fmt.Sprintf("%s over %s is untested here: try it on scrap.", phrase.Capital(over), under)
	case v.Answer == If:
		return fmt.Sprintf("%s goes over %s %s: %s", phrase.Capital(over), under, v.Condition.Text(), v.Reason)
	}
	return fmt.Sprintf("%s goes over %s: %s", phrase.Capital(over), under, v.Reason)
}

func named(family string) string {
	f, err := material.FindFamily(family)
	if err != nil {
		return family
	}
	return f.Named()
}

// Barrier is a layer that parts two materials which dislike one another.
type Barrier struct {
	Under, Over string
	Family      string
	Coats       int
	Note        string
}

//go:embed over.csv
var overRows string

//go:embed barriers.csv
var barrierRows string

type pair struct{ under, over string }

var verdicts, verdictError = parseVerdicts(overRows)
var barriers, barrierError = parseBarriers(barrierRows)

// Check reports what is wrong with the embedded tables, for a start-up check.
func Check() error { return errors.Join(verdictError, barrierError) }

// Over is what is known of one family over another.
func Over(under, over string) Verdict {
	if v, known := verdicts[pair{under, over}]; known {
		return v
	}
	return Verdict{Under: under, Over: over, Answer: Untested}
}

// Between is the barrier that helps two families; false where none is known.
// Where the table asks for dewaxed shellac without saying how much, it is one coat.
func Between(under, over string) (Barrier, bool) {
	if b, known := barriers[pair{under, over}]; known {
		return b, true
	}
	if Over(under, over).Condition == OnShellac {
		return Barrier{Under: under, Over: over, Family: "dewaxed-shellac", Coats: 1}, true
	}
	return Barrier{}, false
}

// Joined reports whether a barrier makes a sound joint of two families: neither
// side of it needs another.
func (b Barrier) Joined() bool {
	return !Over(b.Under, b.Family).Needs() && !Over(b.Family, b.Over).Needs()
}

func parseVerdicts(text string) (map[pair]Verdict, error) {
	found := make(map[pair]Verdict)
	err := table.Read("over", text, func(r table.Row) {
		v := Verdict{Under: family(r, "under"), Over: family(r, "over"),
			Answer:    Answer(r.OneOf("verdict", string(OK), string(If), string(No))),
			Condition: Condition(r.Text("condition")), Wait: r.Text("wait_note"), Reason: r.Needed("reason")}
		if _, known := conditions[v.Condition]; known != (v.Answer == If) {
			r.Complain("condition", "a known condition of an if, and empty elsewhere")
		}
		key := pair{v.Under, v.Over}
		if _, twice := found[key]; twice {
			r.Complain("over", "listed only once over "+v.Under)
		}
		found[key] = v
	})
	return found, err
}

func parseBarriers(text string) (map[pair]Barrier, error) {
	found := make(map[pair]Barrier)
	err := table.Read("barriers", text, func(r table.Row) {
		b := Barrier{family(r, "under"), family(r, "over"), family(r, "barrier_family"), int(r.Number("coats", 1, 6)), r.Needed("note")}
		if b.Family == b.Under {
			if Over(b.Under, b.Over).Answer != OK {
				r.Complain("barrier_family", "another family than the one below")
			}
		}
		if !b.Joined() {
			r.Complain("barrier_family", "a layer that holds between the two")
		}
		found[pair{b.Under, b.Over}] = b
	})
	return found, err
}

func family(r table.Row, column string) string {
	id := r.Needed(column)
	if _, err := material.FindFamily(id); err != nil {
		r.Complain(column, "a family of families.csv")
	}
	return id
}
