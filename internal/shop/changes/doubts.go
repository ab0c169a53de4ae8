package changes

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
)

// catchingUp is how long after one entry the next is taken for catching up.
const catchingUp = 20 * time.Minute

// doubts are the reasons to ask before an event is taken as done: what the planner
// suspects of its piece at that time, what does not go over what, and the future.
func (w *Unit) doubts(e schedule.Planned, in Entry, entry *job.Entry) []refuse.Doubt {
	m := w.Before
	var doubts []refuse.Doubt
	at, _ := m.Find(e.Step)
	if entry.HappenedAt.After(m.Now.Add(2 * time.Minute)) {
		doubts = append(doubts, refuse.Doubt{Code: future, Message: "That is in the future: " + m.Plan.Clock(entry.HappenedAt) + "."})
	}
	if in.Kind == job.Done && e.Coat == 1 {
		for _, v := range Over(m, at) {
			if v.Needs {
				doubts = append(doubts, refuse.Doubt{Code: onPurpose, Message: v.Text + " Log it only on purpose, and say why."})
				break
			}
		}
	}
	happening := schedule.Happening{Event: e.Event, End: entry.HappenedAt, Skipped: in.Kind == job.Skipped}
	if in.Minutes != nil {
		happening.Minutes = unit.Minutes(*in.Minutes)
	}
	for _, d := range m.Plan.Doubts(happening) {
		asked := refuse.Doubt{Code: string(d.Kind), Message: d.Text}
		if d.Kind == schedule.TooSoon && d.Film != nil {
			catching, settled := caughtUpOn(w.standing(*d.Film), entry)
			if catching {
				entry.Flags = append(entry.Flags, caughtUp)
				asked.Message += " That was logged only just now: if you are catching up, say since when this is done."
			}
			if settled {
				continue // asked once for all that is caught up
			}
		}
		doubts = append(doubts, asked)
	}
	return doubts
}

// caughtUpOn looks whether an entry comes minutes after that of the film it stands on,
// both said to have happened as they were logged: then somebody is catching up. It is
// settled when that was asked and answered already.
func caughtUpOn(below, entry *job.Entry) (catching, settled bool) {
	if below == nil {
		return false, false
	}
	gap := entry.RecordedAt.Sub(below.RecordedAt)
	live := func(e *job.Entry) bool { return e.RecordedAt.Sub(e.HappenedAt).Abs() < catchingUp }
	if gap < 0 || gap > catchingUp || !live(below) || !live(entry) {
		return false, false
	}
	for _, flag := range below.Flags {
		settled = settled || flag == caughtUp
	}
	return true, settled && below.Person == entry.Person
}

// judgeStrike asks before entries are struck that others stand on.
func judgeStrike(m *snapshot.Snapshot, in Entry, entry *job.Entry, voided []job.Entry) error {
	var events []schedule.Event
	for _, v := range voided {
		if v.Kind == job.Done && v.Step != nil {
			events = append(events, schedule.Event{Step: *v.Step, Coat: *v.Coat})
		}
	}
	d, stands := m.Plan.StandsOn(events...)
	if !stands {
		return nil
	}
	doubts := []refuse.Doubt{{Code: string(d.Kind), Message: d.Text}}
	flag(entry, doubts)
	return in.answer(doubts)
}

// catchUp logs what comes before an event on its piece, or on the pieces it joins,
// and is open: done by the same time, each a minute before the next. These entries have the
// entry that they come with for their device.
func (w *Unit) catchUp(ctx context.Context, in Entry, with job.Entry) error {
	open := OpenBefore(w.Before, schedule.Event{Step: in.StepID, Coat: in.Coat})
	for k, event := range open {
		e := job.Entry{ID: uuid.NewSHA1(in.ID, fmt.Appendf(nil, "%s %d", event.Step, event.Coat)), Kind: job.Done, Person: with.Person,
			HappenedAt: with.HappenedAt.Add(-time.Duration(len(open)-k) * time.Minute), RecordedAt: with.RecordedAt, Device: in.ID,
			DeviceSeq: int64(k + 1)}
		at, _ := w.Before.Find(event.Step)
		e.Instrument, e.Step, e.Coat, e.Flags = at.Instrument().ID, &event.Step, &event.Coat, []string{caughtUp}
		if made := at.Planned().Material; made != nil {
			figures := made.Resolve(w.Before.Setting.Margin)
			e.Figures = &figures
		}
		if err := w.enter(ctx, e); err != nil {
			return err
		}
	}
	return nil
}

// OpenBefore lists the events that come before one and are not done, in their order.
func OpenBefore(m *snapshot.Snapshot, event schedule.Event) []schedule.Event {
	var open []schedule.Event
	for _, e := range m.Plan.Before(event) {
		if _, done := m.Facts[e]; !done {
			open = append(open, e)
		}
	}
	return open
}
