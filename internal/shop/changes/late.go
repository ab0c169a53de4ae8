package changes

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
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
	gone, instrument, err := entryKinds[in.Kind].gone(ctx, w, in)
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

// isOver reports whether an entry can be struck or stopped no more, as it was judged: it is already, or cannot be.
func isOver(err error) (bool, error) {
	var taken *refuse.Taken
	var other *refuse.Invalid
	if errors.As(err, &taken) || errors.As(err, &other) {
		return true, nil
	}
	return false, err
}
