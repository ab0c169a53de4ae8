package views

import (
	"errors"
	"fmt"

	"github.com/google/uuid"

	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/repair"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
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

// WayOf is a way with what it does to the dates.
func WayOf(m *snapshot.Snapshot, in RepairAsked, w repair.Way) (RepairWay, error) {
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
		view.Hands = "about " + w.Minutes().String()
	}
	in.Repair.Way = w.ID
	b, err := changes.NewSet(m, []changes.Change{{Kind: "repair", InstrumentID: in.InstrumentID, Repair: &in.Repair}}, uuid.Nil)
	if err == nil {
		err = into(b, &view, in.InstrumentID)
	}
	var wrong *refuse.Invalid
	if errors.As(err, &wrong) { // what cannot be planned does not hold
		view.Why, err = wrong.Faults[0].Message, nil
	}
	return view, err
}

// into says what a changed shop does to the finish of an instrument.
func into(b *changes.Set, view *RepairWay, id uuid.UUID) error {
	answer, err := b.Answer()
	if err != nil {
		return err
	}
	for _, d := range answer.Differences {
		if d.After.Instrument == id {
			f := changes.ForecastMove(b.Snapshot, d.Name, d.Before, d.After)
			view.Days, view.Ready, view.Late = f.Text, f.After, d.After.Late()
		}
	}
	if view.Days == "" {
		view.Days = "the same day"
	}
	return nil
}
