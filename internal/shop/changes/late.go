package changes

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/store"
)

// What comes late happened, whatever has changed meanwhile: it is kept, and flagged. Where what it is about is no more,
// it is kept as a note on its instrument.

// asItStands is what came late as it can be kept now.
func (w *Unit) asItStands(ctx context.Context, in Entry, entry *job.Entry) (Entry, error) {
	if in.SittingID != uuid.Nil {
		_, err := w.Sitting(ctx, in.SittingID)
		switch {
		case errors.Is(err, store.ErrNotFound):
			in.SittingID = uuid.Nil
			mark(entry, adrift)
		case err != nil:
			return in, err
		}
	}
	in = readable(w.Before, in, entry)
	in.Along = stillThere(w.Before, in, entry)
	gone, instrument, err := w.gone(ctx, in)
	if err != nil || !gone || instrument == uuid.Nil {
		return in, err
	}
	text := in.Title
	if text == "" {
		text = fmt.Sprintf("%s, coat %d", in.Kind, in.Coat)
	}
	if in.Minutes != nil {
		text += fmt.Sprintf(", %d min", *in.Minutes)
	}
	note := "Came late, about what is not there any more: " + text + "."
	if in.Note != "" {
		note += " “" + in.Note + "”"
	}
	mark(entry, adrift)
	entry.Note, entry.Minutes = short(note, mostNote), nil
	return Entry{ID: in.ID, Kind: job.Note, InstrumentID: instrument, HappenedAt: in.HappenedAt, PersonID: in.PersonID,
		DeviceID:  in.DeviceID,
		DeviceSeq: in.DeviceSeq, Note: entry.Note, SittingID: in.SittingID, Late: true}, nil
}

// mark flags an entry, once.
func mark(entry *job.Entry, with string) {
	if !slices.Contains(entry.Flags, with) {
		entry.Flags = append(entry.Flags, with)
	}
}

// mostNote is how long a note may be, in characters.
const mostNote = 2000

// short is a text of at most so many characters.
func short(text string, most int) string {
	if runes := []rune(text); len(runes) > most {
		return string(runes[:most-1]) + "…"
	}
	return text
}

// readable moves what cannot be read of what was true into the note.
func readable(m *snapshot.Snapshot, in Entry, entry *job.Entry) Entry {
	_, faults := readActual(m, in)
	if len(faults) == 0 {
		return in
	}
	form := *in.Actual
	var texts []string
	for _, f := range faults {
		field, _, _ := strings.Cut(strings.TrimPrefix(f.Path, "actual."), "[")
		texts = append(texts, fmt.Sprintf("%s %v", field, f.Value))
		switch field {
		case "with":
			form.With = slices.DeleteFunc(slices.Clone(form.With), func(id uuid.UUID) bool { return id == f.Value })
		case "placeId":
			form.PlaceID = uuid.Nil
		case "productId":
			form.ProductID = uuid.Nil
		case "thin":
			form.Thin = ""
		case "wet":
			form.Wet = ""
		case "temperature":
			form.Temperature = ""
		case "humidity":
			form.Humidity = ""
		}
	}
	in.Actual = &form
	in.Note = short(strings.TrimSpace(in.Note+" (not understood: "+strings.Join(texts, ", ")+")"), mostNote)
	entry.Note = in.Note
	mark(entry, ignored)
	return in
}

// stillThere are the events that were done along with an entry, without those that are no more.
func stillThere(m *snapshot.Snapshot, in Entry, entry *job.Entry) []EventRef {
	left := slices.DeleteFunc(slices.Clone(in.Along), func(e EventRef) bool {
		at, found := m.Find(e.StepID)
		return !found || e.Coat < 1 || e.Coat > m.MostCoats(at)
	})
	if len(left) < len(in.Along) {
		mark(entry, adrift)
	}
	return left
}

// gone reports whether what an entry is about is not there any more, or is something else by now, and which instrument
// it was of; none where nobody can say.
func (w *Unit) gone(ctx context.Context, in Entry) (gone bool, instrument uuid.UUID, err error) {
	m := w.Before
	switch in.Kind {
	case job.Note:
		if _, found := m.Find(in.StepID); in.StepID == uuid.Nil || found {
			return false, uuid.Nil, nil
		}
	case job.Moved:
		known := slices.ContainsFunc(m.Input.Shop.Places, func(p schedule.Place) bool { return p.ID == in.PlaceID })
		if owner := m.OwnerOf(in.PieceID); owner != uuid.Nil {
			return !known, owner, nil
		}
	case job.Void, job.Stopped:
		of := in.Voids
		if in.Kind == job.Stopped {
			of = in.Stops
		}
		earlier, err := w.Entry(ctx, of)
		if errors.Is(err, store.ErrNotFound) {
			break
		}
		if err != nil {
			return false, uuid.Nil, err
		}
		over, err := w.settled(ctx, in)
		return over, earlier.Instrument, err
	default:
		at, found := m.Find(in.StepID)
		if !found {
			break
		}
		other := in.Coat < 1 || in.Coat > m.MostCoats(at) || (in.Kind == job.Settled && at.Step().Repeat == nil) ||
			(in.Kind == job.Failed && at.Step().Kind != schedule.Inspect) || (in.Kind == job.Tested && at.Step().Family == "")
		return other, at.Instrument().ID, nil
	}
	if slices.ContainsFunc(m.Workshop.Instruments, func(one recipe.Instrument) bool { return one.ID == in.InstrumentID }) {
		instrument = in.InstrumentID
	}
	return true, instrument, nil
}

// settled reports whether what an entry strikes or stops is struck or stopped already, or cannot be.
func (w *Unit) settled(ctx context.Context, in Entry) (bool, error) {
	var err error
	if in.Kind == job.Void {
		_, err = voidable(ctx, w.Tx, in.Voids)
	} else {
		err = w.stop(ctx, &job.Entry{HappenedAt: w.Before.Now}, in.Stops)
	}
	var taken *refuse.Taken
	var other *refuse.Invalid
	if errors.As(err, &taken) || errors.As(err, &other) {
		return true, nil
	}
	return false, err
}
