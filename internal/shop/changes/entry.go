package changes

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/shop/access"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/store"
)

// Entry is what a device says happened.
type Entry struct {
	ID           uuid.UUID          `json:"id" doc:"a UUIDv7 made by the device; sending it again changes nothing"`
	Kind         string             `json:"kind" enum:"done,skipped,failed,note,void,moved,tested,settled,timed,stopped" doc:"skipped is left out on purpose, failed is a check not passed, void strikes another entry; moved: a piece was carried to another place; tested: a film was tested for a milestone; settled: a step in rounds took as many as coat says; timed: a timer of the step was started, stopped: it was stopped"`
	InstrumentID uuid.UUID          `json:"instrumentId,omitempty" doc:"of a note; of another kind where the device knows it, so that what comes late has a place when what it is about is gone"`
	StepID       uuid.UUID          `json:"stepId,omitempty"`
	Coat         int                `json:"coat,omitempty" minimum:"0" maximum:"50" doc:"counted from 1"`
	PieceID      uuid.UUID          `json:"pieceId,omitempty" doc:"of moved"`
	PlaceID      uuid.UUID          `json:"placeId,omitempty" doc:"of moved: where it is now"`
	Milestone    material.Milestone `json:"milestone,omitempty" enum:"touch-dry,recoat,sand,topcoat,handle,buff,full-cure" doc:"of tested"`
	Passed       *bool              `json:"passed,omitempty" doc:"of tested"`
	Voids        uuid.UUID          `json:"voids,omitempty" doc:"the entry that a void strikes"`
	HappenedAt   *time.Time         `json:"happenedAt,omitempty" date:"judged" doc:"when it was finished; absent means now"`
	PersonID     uuid.UUID          `json:"personId"`
	DeviceID     uuid.UUID          `json:"deviceId"`
	DeviceSeq    int64              `json:"deviceSeq" minimum:"1" doc:"counts up on this device"`
	Minutes      *int               `json:"minutes,omitempty" minimum:"0" maximum:"1440" doc:"hands-on, where somebody looked at the clock"`
	Note         string             `json:"note,omitempty" maxLength:"2000" doc:"the reason, of what is left out; the text, of a note"`
	Confirm      []string           `json:"confirm,omitempty" doc:"doubts that the person has answered: out-of-order, too-soon, too-many, window-closed, future, stood-on; on-purpose also needs a note that says why"`
	CaughtUp     bool               `json:"caughtUp,omitempty" doc:"of done: what comes before it and is open was done too, by then; each of it is logged. Of void: what was logged in this way along with the entry is struck too"`
	Actual       *ActualForm        `json:"actual,omitempty" doc:"what was true of it, beside when and how long"`
	Along        []EventRef         `json:"along,omitempty" maxItems:"40" doc:"of done: events of other pieces that were done with the same tap; minutes are of all together"`
	Corrects     uuid.UUID          `json:"correctsId,omitzero" doc:"of done: the entry of the same event that is struck for this one"`
	Timer        *job.Timer         `json:"timer,omitempty" doc:"of timed: one of those of its sheet"`
	Stops        uuid.UUID          `json:"stopsId,omitzero" doc:"of stopped: the entry that started the timer"`
	SittingID    uuid.UUID          `json:"sittingId,omitzero" doc:"the sitting in which it was made"`
	Late         bool               `json:"late,omitempty" doc:"it was made earlier, without a connection: it is kept whatever its doubts, and flagged"`
	Title        string             `json:"title,omitempty" maxLength:"300" doc:"what it logs, in the page's words: kept where what it is about is gone when it comes late"`

	Older bool `json:"-"` // it comes from a page of an earlier version, which may know no better
}

// Logged is what a log entry did.
type Logged struct {
	ID     uuid.UUID       `json:"id"`
	Title  string          `json:"title" doc:"what was logged, in words"`
	Flags  []string        `json:"flags"`
	Moved  []MovedForecast `json:"moved" doc:"instruments whose finish it moved"`
	Timers []job.Timer     `json:"timers,omitempty" doc:"of done: clocks of minutes that begin now"`
	Asked  []string        `json:"asked,omitempty" doc:"of a failed check: what it asks for, in the schedule now before it comes again"`
}

// Flags and doubts, beside the suspicions of the planner.
const (
	future   = "future"
	caughtUp = "caught-up" // logged minutes after what it stands on, as people do who catch up
	lateFlag = "late"

	wrongClock = "wrong-clock" // the device said a time that cannot be: that of its arrival stands instead
	tooLate    = "overran"     // later than a timer of it allowed
	onPurpose  = "on-purpose"  // over what it does not go over, with a reason

	adrift  = "adrift"  // what it was about was not there any more when it came
	ignored = "ignored" // some of what it said does not belong to such an entry, or could not be read
)

// corrected is how far apart two times of one entry are when somebody has corrected it
// meanwhile: sent again after a lost answer, it says when it was made, not when it came.
const corrected = 10 * time.Minute

// Once is the id under which it is kept once.
func (in Entry) Once() uuid.UUID { return in.ID }

// Content is what an entry says, without how it came: sent again it may be late, and what was doubted is answered.
func (in Entry) Content() Entry {
	in.Late, in.Confirm, in.HappenedAt, in.Title = false, nil, nil, ""
	if in.Kind != job.Note {
		in.InstrumentID = uuid.Nil
	}
	in.Note = strings.TrimSpace(in.Note)
	return in
}

// Again answers an entry that was kept before, as after a lost answer.
func Again(m *snapshot.Snapshot, in Entry, kept job.Entry) (Logged, error) {
	if slices.Contains(kept.Flags, adrift) || slices.Contains(kept.Flags, ignored) { // it is kept in other words than it came
		return Logged{ID: in.ID, Title: EntryTitle(m, kept), Flags: append([]string{}, kept.Flags...), Moved: []MovedForecast{}}, nil
	}
	same := kept.Kind == in.Kind && (kept.Step == nil || *kept.Step == in.StepID) && (kept.Coat == nil || *kept.Coat == in.Coat)
	if !same {
		return Logged{}, &refuse.Taken{Message: "another entry has this id already"}
	}
	if strings.TrimSpace(in.Note) != kept.Note || (in.HappenedAt != nil && in.HappenedAt.Sub(kept.HappenedAt).Abs() > corrected) {
		return Logged{}, &refuse.Taken{Message: "it reached the log before it was corrected: strike it there, and log it again"}
	}
	return Logged{ID: in.ID, Title: EntryTitle(m, kept), Flags: append([]string{}, kept.Flags...), Moved: []MovedForecast{}}, nil
}

// Record judges an entry and appends it, with what it brings along.
func (w *Unit) Record(ctx context.Context, in Entry, now time.Time) (Logged, error) {
	before := w.Before
	if entryKinds[in.Kind] == nil {
		return Logged{}, refuse.Field("kind", "there is no such entry", in.Kind)
	}
	in, flags, err := in.ownFields()
	if err != nil {
		return Logged{}, err
	}
	entry := job.Entry{Flags: flags, ID: in.ID, Kind: in.Kind, HappenedAt: now, RecordedAt: now, Person: in.PersonID, Device: in.DeviceID,
		DeviceSeq: in.DeviceSeq, Minutes: in.Minutes, Note: strings.TrimSpace(in.Note)}
	if in.HappenedAt != nil {
		entry.HappenedAt = *in.HappenedAt
	}
	if in.Late && !refuse.Plausible(entry.HappenedAt, now) { // it is kept all the same, as of when it came
		entry.HappenedAt, entry.Flags = now, append(entry.Flags, wrongClock)
	}
	if in.Late {
		if in, err = w.asItStands(ctx, in, &entry); err != nil {
			return Logged{}, err
		}
		entry.Kind = in.Kind
	}
	if err := checkEntry(before, in, &entry); err != nil {
		return Logged{}, err
	}
	if err := w.inSitting(ctx, in, &entry); err != nil {
		return Logged{}, err
	}
	r := &recording{in: in, entry: &entry, done: happened{{entry: &entry}}}
	kind := entryKinds[in.Kind]
	if err := kind.record(ctx, w, r); err != nil {
		return Logged{}, err
	}
	for _, h := range r.done {
		if in.Late {
			h.entry.Flags = append(h.entry.Flags, lateFlag)
		}
		if err := w.enter(ctx, *h.entry); err != nil {
			return Logged{}, err
		}
	}
	if err := kind.follow(w, r); err != nil {
		return Logged{}, err
	}
	if err := w.Finish(ctx); err != nil {
		return Logged{}, err
	}
	if w.Changes != nil {
		if err := w.NoteEdits(ctx, w.Changes, entry.Person); err != nil {
			return Logged{}, err
		}
	}
	title := EntryTitle(w.After, entry)
	if more := len(in.Along); more > 0 {
		title += fmt.Sprintf(", and %d more", more)
	}
	if err := w.RecordHistory(ctx, title, r.done); err != nil {
		return Logged{}, err
	}
	return Logged{ID: entry.ID, Title: title, Flags: append([]string{}, entry.Flags...), Moved: Moved(before, w.After), Asked: r.asked}, nil
}

// enter appends an entry.
func (w *Unit) enter(ctx context.Context, e job.Entry) error {
	if c := access.CallerOf(ctx); c.Pairing != uuid.Nil {
		e.Entered = &job.Entered{Pairing: c.Pairing, Device: c.Device, Person: c.Person}
	}
	if err := w.AddEntry(ctx, e); err != nil {
		return err
	}
	if w.log == nil {
		w.log = w.Before.Log.Clone()
	}
	w.touched = append(w.touched, w.log.Add([]job.Entry{e})...)
	return nil
}

// standing is the entry that stands for an event, what was entered so far among them; nil where none does.
func (w *Unit) standing(event job.Event) *job.Entry {
	if w.log != nil {
		return w.log.Standing(event)
	}
	return w.Before.Log.Standing(event)
}

// answer fails with the doubts that a person who is there has not answered yet. Catching up answers for the order
// and the times of what it brings along.
func (in Entry) answer(doubts []refuse.Doubt) error {
	var open []refuse.Doubt
	for _, d := range doubts {
		answered := in.CaughtUp && !slices.Contains([]string{onPurpose, future, string(schedule.StoodOn)}, d.Code)
		if !in.Late && !answered && (!slices.Contains(in.Confirm, d.Code) || (d.Code == onPurpose && strings.TrimSpace(in.Note) == "")) {
			open = append(open, d)
		}
	}
	if len(open) > 0 {
		return &refuse.Doubtful{Doubts: open}
	}
	return nil
}

// flag marks an entry with what was doubtful about it.
func flag(entry *job.Entry, doubts []refuse.Doubt) {
	for _, d := range doubts {
		entry.Flags = append(entry.Flags, d.Code)
	}
}

func taken(m *snapshot.Snapshot, first job.Entry) error {
	return &refuse.Taken{Message: fmt.Sprintf("%s is logged already: %s, %s. Strike that entry first if it is wrong.", EntryTitle(m, first),
		m.PersonName(first.Person), m.Plan.Say(first.HappenedAt))}
}

// voidable is an entry that may be struck.
func voidable(ctx context.Context, tx *store.Tx, id uuid.UUID) (job.Entry, error) {
	entry, err := tx.Entry(ctx, id)
	if errors.Is(err, store.ErrNotFound) {
		return job.Entry{}, refuse.Field("voids", "must be an entry of the log", id)
	}
	if err != nil {
		return job.Entry{}, err
	}
	switch entry.Kind {
	case job.Void:
		return job.Entry{}, refuse.Field("voids", "a struck entry stays struck; log what happened again instead", id)
	case job.Stopped:
		return job.Entry{}, refuse.Field("voids", "a timer that was stopped stays so; start it again instead", id)
	}
	if struck, err := tx.Struck(ctx, id); err != nil {
		return job.Entry{}, err
	} else if struck {
		return job.Entry{}, &refuse.Taken{Message: "that entry has been struck already"}
	}
	return entry, nil
}

// EventRef names an event: a coat of a step, counted from 1.
type EventRef struct {
	StepID uuid.UUID `json:"stepId"`
	Coat   int       `json:"coat"`
}

func Ref(e schedule.Event) EventRef { return EventRef{e.Step, e.Coat} }
