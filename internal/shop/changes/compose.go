package changes

import (
	"errors"
	"fmt"
	"maps"
	"slices"
	"strings"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/outline"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
)

// Outlines are the shapes that an instrument may have.
var Outlines = outline.Bodies()

// NewInstrument is what a person chose for a new job.
type NewInstrument struct {
	ID        uuid.UUID            `json:"id" doc:"made by the device, so that keeping twice is keeping once"`
	Name      string               `json:"name" doc:"1 to 60 characters; a forecast does without"`
	Outline   string               `json:"outline" doc:"two-horned, one-horned, slab, offset, angular or bass"`
	Own       string               `json:"outlinePath,omitempty" maxLength:"20000" doc:"an outline of its own, as SVG path data; its areas come from that"`
	Promise   string               `json:"promise" doc:"the promised day, like 2026-03-12; empty: as soon as it can be"`
	Show      string               `json:"show,omitempty" doc:"an earlier day on which it must be fit to be shown"`
	Serial    string               `json:"serial,omitempty" doc:"its serial or mark, up to 60 characters"`
	Wish      recipe.Wish          `json:"wish"`
	Materials map[string]uuid.UUID `json:"materials,omitempty" doc:"the product chosen for a role, such as body:clear, or body:clear:finish for a second layer of it; the family's figures stand in for the rest"`
}

// Once is the id under which it is kept once.
func (in NewInstrument) Once() uuid.UUID { return in.ID }

// ErrKept ends a transaction that has nothing to do.
var ErrKept = errors.New("kept already")

// Whether a new instrument is only asked about, or to be kept: then it needs its name.
const (
	Asking  = false
	Keeping = true
)

// unnamed is what a new instrument is called while nobody has named it.
const unnamed = "New instrument"

// openDays is how far ahead a promise lies that is left open, until it is known when it can be.
const openDays = 3 * 365

// Compose turns a wish into a stored instrument, or says what is wrong with it. A promise that was left
// open is not known yet.
func Compose(m *snapshot.Snapshot, in NewInstrument, kept bool) (recipe.Instrument, recipe.Draft, error) {
	if !kept && strings.TrimSpace(in.Name) == "" {
		in.Name = unnamed
	}
	faults, promise, show := checkHead(m, in)
	draft, wrong, err := recipe.Compose(in.Wish.Of(in.Outline, in.Own))
	if err == nil && len(wrong) == 0 && len(m.Setting.Ways) > 0 {
		in.Wish = Followed(m, in.Wish)
		draft, wrong, err = recipe.Compose(in.Wish.Of(in.Outline, in.Own))
	}
	if err != nil {
		return recipe.Instrument{}, draft, err
	}
	for _, f := range wrong {
		f.Path = "wish." + f.Path
		faults = append(faults, f)
	}
	if len(wrong) == 0 {
		draft = handed(m, in.Wish, draft)
		faults = append(faults, checkMaterials(m, in, draft)...)
	}
	if len(faults) > 0 {
		return recipe.Instrument{}, draft, &refuse.Invalid{Faults: faults}
	}
	return toInstrument(m, in, promise, show, draft), draft, nil
}

func checkHead(m *snapshot.Snapshot, in NewInstrument) (faults []recipe.Fault, promise calendar.Day, show *calendar.Day) {
	fault := func(path, message string, value any) {
		faults = append(faults, recipe.Fault{Path: path, Message: message, Value: value})
	}
	if in.ID == uuid.Nil {
		fault("id", "must be a UUID that the device made", in.ID)
	}
	faults = append(faults, checkNames(in.Name, in.Serial)...)
	if !known(Outlines, in.Outline) {
		fault("outline", "choose one of "+strings.Join(Outlines, ", "), in.Outline)
	}
	if message := OwnFault(in.Own); message != "" {
		fault("outlinePath", message, nil)
	}
	days, promise, show := checkDays(m, in.Promise, in.Show)
	return append(faults, days...), promise, show
}

// checkNames says what is wrong with what an instrument is called.
func checkNames(name, serial string) (faults []recipe.Fault) {
	if n := len([]rune(strings.TrimSpace(name))); n < 1 || n > 60 {
		faults = append(faults, recipe.Fault{Path: "name", Message: "give it a name of 1 to 60 characters", Value: name})
	}
	if len([]rune(strings.TrimSpace(serial))) > 60 {
		faults = append(faults, recipe.Fault{Path: "serial", Message: "a serial or mark has up to 60 characters", Value: serial})
	}
	return faults
}

// checkDays reads the days that are promised, and says what is wrong with them. A promise that is left open lies
// far ahead.
func checkDays(m *snapshot.Snapshot, promised, shown string) (faults []recipe.Fault, promise calendar.Day, show *calendar.Day) {
	fault := func(path, message string, value any) {
		faults = append(faults, recipe.Fault{Path: path, Message: message, Value: value})
	}
	promise, err := calendar.ParseDay(promised)
	today := calendar.DayOf(m.Now.In(m.Plan.Zone))
	switch {
	case promised == "":
		promise = today.AddDays(openDays)
	case err != nil:
		fault("promise", err.Error(), promised)
	case promise.Compare(today) < 0:
		fault("promise", "the promised day must be today, "+today.String()+", or later", promised)
	case !refuse.PlausibleDay(promise, m.Now):
		fault("promise", "the promised day must lie within ten years", promised)
	}
	if shown != "" {
		day, err := calendar.ParseDay(shown)
		switch {
		case err != nil:
			fault("show", err.Error(), shown)
		case day.Compare(today) < 0 || day.Compare(promise) > 0:
			fault("show", "the day of showing lies between today and the promised day", shown)
		}
		show = &day
	}
	return faults, promise, show
}

// OwnFault says what is wrong with an outline of one's own; empty where there is none, or it is sound.
func OwnFault(path string) string {
	if path == "" {
		return ""
	}
	if len(path) > mostPath {
		return fmt.Sprintf("an outline has up to %d characters of path data", mostPath)
	}
	if _, err := outline.Parse(path); err != nil {
		return err.Error()
	}
	return ""
}

// mostPath is the longest path data that is kept.
const mostPath = 20_000

func known(list []string, word string) bool {
	for _, w := range list {
		if w == word {
			return true
		}
	}
	return false
}

func checkMaterials(m *snapshot.Snapshot, in NewInstrument, draft recipe.Draft) []recipe.Fault {
	families := make(map[string]string)
	for _, r := range draft.Roles() {
		families[r.ID] = r.Family
	}
	var faults []recipe.Fault
	for _, role := range slices.Sorted(maps.Keys(in.Materials)) {
		id := in.Materials[role]
		at, family := "materials."+role, families[role]
		if !recipe.KnownRole(role) {
			faults = append(faults, recipe.Fault{Path: at, Message: "there is no such material in any schedule; name it like body:clear",
				Value: role})
			continue
		}
		if family == "" {
			continue // chosen for a wish that has changed since: nothing takes it now
		}
		made, found := m.Product(id)
		switch {
		case !found:
			faults = append(faults, recipe.Fault{Path: at,
				Message: "there is no such product on the shelf; choose one of the " + family + " family, or leave it out", Value: id})
		case made.Family.ID != family:
			faults = append(faults, recipe.Fault{Path: at,
				Message: fmt.Sprintf("%s is of the family %s; this needs %s", made.Name, made.Family.ID, family), Value: id})
		}
	}
	return faults
}

// toInstrument gives a draft its identities. They follow from the instrument's id
// and the slots, so that composing the same choices again makes the same steps.
func toInstrument(m *snapshot.Snapshot, in NewInstrument, promise calendar.Day, show *calendar.Day, draft recipe.Draft) recipe.Instrument {
	wish := in.Wish.Stacked()
	out := recipe.Instrument{Wish: &wish, Instrument: job.Instrument{ID: in.ID, Name: strings.TrimSpace(in.Name), Outline: in.Outline,
		Own:     in.Own,
		Promise: promise, Show: show,
		Serial: strings.TrimSpace(in.Serial), CreatedAt: m.Now, Version: 1}}
	ids := recipe.IDs(in.ID)
	for _, piece := range draft.Pieces {
		made := ids.Made(piece)
		for s := range made.Steps {
			if step := &made.Steps[s]; step.Role != "" {
				if id, chosen := in.Materials[draft.RoleOf(piece.Kind, piece.Steps[s])]; chosen {
					step.Product = &id
				}
			}
		}
		out.Pieces = append(out.Pieces, made)
	}
	return out
}
