package shop

import (
	"context"
	"errors"
	"fmt"
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/edit"
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/repair"
)

// Work that is done again: the ways for some damage, and what a failed check asks for.

// RepairAsked is damage on an instrument.
type RepairAsked struct {
	InstrumentID uuid.UUID    `json:"instrumentId"`
	Repair       repair.Asked `json:"repair"`
}

// RepairView is the ways of putting some damage right.
type RepairView struct {
	Ways []RepairWay `json:"ways" doc:"those that hold first"`
}

// RepairWay is one way, with what it would cost here.
type RepairWay struct {
	ID    string   `json:"id"`
	Title string   `json:"title"`
	Text  string   `json:"text" doc:"what it is like, and what stays to be seen"`
	Why   string   `json:"why,omitempty" doc:"why it does not hold for this film; absent: it holds"`
	Hands string   `json:"hands,omitempty" doc:"hands-on time"`
	Days  string   `json:"days,omitempty" doc:"what it does to the finish: 3 days later"`
	Ready string   `json:"ready,omitempty" doc:"when the instrument would be ready"`
	Late  bool     `json:"late" doc:"its promise would not be kept"`
	Redo  string   `json:"redo,omitempty" doc:"the chance that it has to be done once more, in words"`
	Steps []string `json:"steps" doc:"what is done, in order"`
}

// Repairs are the ways of putting damage right, each with its hours, days and risk. Nothing is kept. It fails
// with *Invalid naming the field.
func (s *Service) Repairs(ctx context.Context, in RepairAsked) (RepairView, error) {
	view := RepairView{Ways: []RepairWay{}}
	err := s.ask(ctx, func(m *moment) error {
		i := slices.IndexFunc(m.file.Instruments, func(o recipe.Instrument) bool { return o.ID == in.InstrumentID })
		if i < 0 {
			return invalid("instrumentId", "must be an instrument of this shop", in.InstrumentID)
		}
		if in.Repair.ID == uuid.Nil {
			in.Repair.ID = uuid.New() // only asked about
		}
		ways, err := repair.Ways(m.file.Instruments[i], in.Repair, m.loggedOf(&m.file.Instruments[i]))
		if err != nil {
			return faultAt("repair", err)
		}
		for _, w := range ways {
			one, err := m.repairWay(in, w)
			if err != nil {
				return err
			}
			view.Ways = append(view.Ways, one)
		}
		return nil
	})
	return view, err
}

// repairWay is a way with what it does to the dates.
func (m *moment) repairWay(in RepairAsked, w repair.Way) (RepairWay, error) {
	view := RepairWay{ID: w.ID, Title: w.Title, Text: w.Text, Why: w.Why, Steps: []string{}}
	if w.Why != "" {
		return view, nil
	}
	for _, s := range w.Steps {
		title := s.Title
		if s.Coats > 1 {
			title = fmt.Sprintf("%s, %s", title, phrase.Plural(s.Coats, "coat"))
		}
		view.Steps = append(view.Steps, title)
	}
	risk := weight{sound: 1 - float64(w.Risk)/100}
	for _, s := range w.Steps {
		if f, err := material.FindFamily(s.Family); err == nil {
			risk.sound *= 1 - float64(f.RedoChance)/100
		}
	}
	view.Redo = risk.redoText()
	if w.Found == "" {
		view.Hands = "about " + w.Minutes().Text()
	}
	in.Repair.Way = w.ID
	b, err := m.bend([]Change{{Kind: "repair", InstrumentID: in.InstrumentID, Repair: &in.Repair}}, uuid.Nil)
	if err == nil {
		err = b.into(&view, in.InstrumentID)
	}
	var wrong *Invalid
	if errors.As(err, &wrong) { // what cannot be planned does not hold
		view.Why, err = wrong.Faults[0].Message, nil
	}
	return view, err
}

// into says what a bent shop does to the finish of an instrument.
func (b *changeSet) into(view *RepairWay, id uuid.UUID) error {
	answer, err := b.answer()
	if err != nil {
		return err
	}
	for _, d := range answer.Differences {
		if d.After.Instrument == id {
			f := b.movedForecast(d.Name, d.Before, d.After)
			view.Days, view.Ready, view.Late = f.Text, f.After, d.After.Late()
		}
	}
	if view.Days == "" {
		view.Days = "the same day"
	}
	return nil
}

// faultAt names the field of a fault of the core where it stands in a request.
func faultAt(path string, err error) error {
	var wrong *edit.Fault
	if errors.As(err, &wrong) {
		return invalid(path+"."+wrong.Field, wrong.Message, nil)
	}
	return err
}

// repair puts the steps of a way into a schedule. What the tests of an old film have told composes its piece again.
func (b *changeSet) repair(c *Change) error {
	in, err := b.instrumentOf(c.InstrumentID)
	switch {
	case err != nil:
		return err
	case c.Repair == nil:
		return invalid("repair", "say what has happened", nil)
	}
	next, way, err := repair.Apply(*in, *c.Repair, b.loggedOf(in))
	if err != nil {
		return faultAt("repair", err)
	}
	if way.Found != "" {
		return b.told(in, c.Repair.Piece, way)
	}
	where := phrase.List(regionNames(in, c.Repair.Regions))
	if where == "" {
		where = "the whole piece"
	}
	b.become(in, next)
	return b.say(false, "%s: %s on %s: %s", in.Name, damageWords[c.Repair.Damage], where, phrase.Lower(way.Title))
}

var damageWords = map[repair.Damage]string{repair.Again: "done again", repair.Chip: "a chip", repair.Run: "a run", repair.Burn: "a burn-through",
	repair.Dent: "a dent", repair.Scratch: "a scratch", repair.Panel: "a panel coated again"}

// told composes a piece again, by what the tests of its old film have told.
func (b *changeSet) told(in *recipe.Instrument, piece uuid.UUID, way repair.Way) error {
	wish := wishOf(in).Stacked()
	for _, p := range in.Pieces {
		for i := range wish.Pieces {
			if p.ID == piece && wish.Pieces[i].Kind == p.Kind {
				wish.Pieces[i].Found = way.Found
				return b.wish(&Change{Kind: "wish", InstrumentID: in.ID, Wish: &wish})
			}
		}
	}
	return invalid("repair.pieceId", "must be a body or a neck whose wish is known", piece)
}

// askAgain puts what a check that was not passed asks for into the schedule before it; it answers what comes.
func (w *unitOfWork) askAgain(e job.Entry) ([]string, error) {
	b, err := w.before.bend(nil, e.Person)
	if err != nil {
		return nil, err
	}
	in, err := b.instrumentOf(e.Instrument)
	if err != nil {
		return nil, err
	}
	next, again, asked := repair.Failed(*in, *e.Step, e.ID, b.loggedOf(in))
	if !asked {
		return nil, nil
	}
	var titles []string
	for _, s := range again {
		titles = append(titles, s.Title)
	}
	b.become(in, next)
	w.changes = b
	return titles, b.say(false, "%s: once more %s, as the check asks", in.Name, phrase.List(titles))
}

// forgetAsked takes what a check had asked for away again, as far as nothing of it is logged: its entry was struck.
func (w *unitOfWork) forgetAsked(struck job.Entry) error {
	b, err := w.before.bend(nil, struck.Person)
	if err != nil {
		return err
	}
	in, err := b.instrumentOf(struck.Instrument)
	if err != nil {
		return err
	}
	next, gone := *in, false
	for _, id := range repair.AskedBy(struck.ID) {
		if after, err := edit.Apply(next, edit.Edit{Op: edit.Remove, Step: id}, b.loggedOf(in), nil); err == nil {
			next, gone = after, true
		}
	}
	if !gone {
		return nil
	}
	b.become(in, next)
	w.changes = b
	return b.say(false, "%s: what a check had asked for is taken away again", in.Name)
}
