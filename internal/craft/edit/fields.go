package edit

import (
	"slices"
	"strings"

	"github.com/google/uuid"

	"umberfrost/internal/craft/abrasive"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/unit"
)

// Fields are other figures for a step; what is absent stays as it is.
type Fields struct {
	// What it is. Of a step that is done in part, these change the rest of it only.
	Title    *string      `json:"title,omitempty" maxLength:"120"`
	Material *string      `json:"material,omitempty" maxLength:"40" doc:"of a coat: a product's id, or a family's for its usual figures"`
	Method   *string      `json:"method,omitempty" enum:"spray,aerosol,brush,wipe,pad,pour,drop"`
	Ladder   *[]string    `json:"ladder,omitempty" maxItems:"16" doc:"grits and compounds in order, by key"`
	Minutes  *int         `json:"minutes,omitempty" minimum:"0" maximum:"1440" doc:"hands-on time of one coat or round, its set-up with it"`
	Regions  *[]uuid.UUID `json:"regions,omitempty" maxItems:"64" doc:"where it is done"`
	// How it goes on.
	Coats   *int       `json:"coats,omitempty" minimum:"1" maximum:"50" doc:"of a coat, or of rounds: how many in all"`
	Film    *string    `json:"film,omitempty" enum:",touch-dry,recoat,sand,topcoat,handle,buff,full-cure" doc:"the milestone that films below must have reached; empty: what is usual before such work"`
	RestMin *int       `json:"restMin,omitempty" minimum:"0" maximum:"86400" doc:"plain rest after it, in minutes"`
	Place   *uuid.UUID `json:"placeId,omitempty" doc:"where it is done; the nil UUID: at the usual place for such work"`
	Divide  *int       `json:"divideMin,omitempty" minimum:"0" maximum:"480" doc:"of handwork: the smallest useful stretch; 0: as is usual"`
	Rounds  *Rounds    `json:"rounds,omitempty" doc:"done in rounds until a check is passed; most 0: done once"`
	Note    *string    `json:"note,omitempty" maxLength:"500" doc:"in addition to how it is done"`
}

// Rounds says between how many rounds a step comes to its end.
type Rounds struct {
	Least int `json:"least" minimum:"0" maximum:"50"`
	Most  int `json:"most" minimum:"0" maximum:"50"`
}

// isOther reports whether fields say that a step is something else, not only how it goes on.
func (f *Fields) isOther() bool {
	return f.Title != nil || f.Material != nil || f.Method != nil || f.Ladder != nil || f.Minutes != nil || f.Regions != nil
}

func (w *working) set(at place, e Edit) error {
	f := e.Fields
	if f == nil {
		return fault("fields", "say what is to be otherwise")
	}
	if f.isOther() || (w.over(at) && f.Coats == nil && f.Note == nil) {
		begun, err := w.done(at), error(nil)
		if at, err = w.part(at); err != nil {
			return err
		}
		if begun > 0 && f.Coats != nil { // they count what is done with it
			ahead := *f
			left := *f.Coats - begun
			ahead.Coats, f = &left, &ahead
		}
	}
	s, area, grits := w.step(at), w.area(at), len(w.step(at).Ladder)
	s.Edited = true
	s.Regions = w.piece(at).RegionsOf(s)
	for _, change := range []func(*job.Step, *Fields) error{w.text, w.material, w.ladder, w.coats, w.rounds, w.waits} {
		if err := change(s, f); err != nil {
			return err
		}
	}
	if f.Regions != nil {
		regions, err := w.regions(at.p, "fields.regions", *f.Regions)
		if err != nil {
			return err
		}
		s.Regions = regions
	}
	switch {
	case f.Minutes != nil && (*f.Minutes < 0 || *f.Minutes > mostMinutes):
		return fault("fields.minutes", "must be from 0 minutes to a day")
	case f.Minutes != nil:
		s.HandsOnMin = unit.Minutes(*f.Minutes)
		s.SetUpMin = min(s.SetUpMin, s.HandsOnMin)
	case f.Method != nil || f.Material != nil:
		recipe.Reckon(s, w.areaOf(s.Regions))
	default:
		w.rescale(s, area, grits)
	}
	return nil
}

func (w *working) text(s *job.Step, f *Fields) error {
	if f.Title != nil {
		title := strings.TrimSpace(*f.Title)
		if title == "" || len([]rune(title)) > 120 {
			return fault("fields.title", "say what is done, in 1 to 120 characters")
		}
		s.Title = title
	}
	if f.Note != nil {
		if s.Note = strings.TrimSpace(*f.Note); len([]rune(s.Note)) > 500 {
			return fault("fields.note", "a note has up to 500 characters")
		}
	}
	return nil
}

func (w *working) material(s *job.Step, f *Fields) error {
	if f.Material != nil {
		if err := w.with(s, *f.Material); err != nil {
			return err
		}
	}
	if f.Method == nil {
		return nil
	}
	method := material.Method(*f.Method)
	family, err := material.FindFamily(s.Family)
	if err != nil || !slices.Contains(family.Methods, method) {
		return fault("fields.method", "%s is not put on in this way", phrase.Capital(family.Named()))
	}
	s.Method = method
	return nil
}

func (w *working) ladder(s *job.Step, f *Fields) error {
	if f.Ladder == nil {
		return nil
	}
	if !s.Kind.Handwork() {
		return fault("fields.ladder", "only sanding, scuffing, levelling and buffing have a ladder")
	}
	if _, err := abrasive.LadderOf(*f.Ladder...); err != nil {
		return fault("fields.ladder", "%v", err)
	}
	s.Ladder = slices.Clone(*f.Ladder)
	return nil
}

func (w *working) coats(s *job.Step, f *Fields) error {
	if f.Coats == nil {
		return nil
	}
	done := w.log.Done[s.ID]
	switch {
	case s.Kind != job.Coat && s.Repeat == nil && f.Rounds == nil:
		return fault("fields.coats", "%s is not done in coats or rounds", phrase.Quoted(s.Title))
	case *f.Coats < max(1, done) || *f.Coats > 50:
		return fault("fields.coats", "from %d to 50 are possible", max(1, done))
	}
	s.Coats = *f.Coats
	if s.Repeat != nil && (s.Coats < s.Repeat.Least || s.Coats > s.Repeat.Most) {
		s.Repeat = &job.Repeat{Least: min(s.Coats, s.Repeat.Least), Most: max(s.Coats, s.Repeat.Most)}
	}
	return nil
}

func (w *working) rounds(s *job.Step, f *Fields) error {
	r := f.Rounds
	if r == nil {
		return nil
	}
	done := w.log.Done[s.ID]
	switch {
	case r.Most == 0 && s.Kind != job.Coat && max(s.Coats, 1) > 1 && done > 1:
		return fault("fields.rounds", "%d rounds are done already", done)
	case r.Most == 0:
		s.Repeat = nil
		if s.Kind != job.Coat {
			s.Coats = 1
		}
	case r.Least < 1 || r.Most < max(r.Least, done) || r.Most > 50:
		return fault("fields.rounds", "rounds run from a least of 1 to a most of up to 50, no fewer than are done")
	default:
		s.Repeat = &job.Repeat{Least: r.Least, Most: r.Most}
		s.Coats = min(max(s.Coats, r.Least), r.Most)
	}
	return nil
}

func (w *working) waits(s *job.Step, f *Fields) error {
	if f.Film != nil {
		if *f.Film != "" && !slices.Contains(material.Milestones, material.Milestone(*f.Film)) {
			return fault("fields.film", "there is no such milestone")
		}
		s.Film = material.Milestone(*f.Film)
	}
	if f.RestMin != nil {
		if *f.RestMin < 0 || *f.RestMin > 60*24*60 {
			return fault("fields.restMin", "must be from none to 60 days")
		}
		s.RestMin = unit.Minutes(*f.RestMin)
	}
	if f.Place != nil {
		if s.Place = f.Place; *f.Place == uuid.Nil {
			s.Place = nil
		}
	}
	if f.Divide == nil {
		return nil
	}
	switch {
	case *f.Divide == 0:
		s.Divide = nil
	case !s.Kind.Handwork() || *f.Divide < 5 || *f.Divide > 480:
		return fault("fields.divideMin", "handwork is divided into stretches of 5 minutes to 8 hours")
	default:
		s.Divide = &job.Divide{LeastMin: unit.Minutes(*f.Divide)}
	}
	return nil
}
