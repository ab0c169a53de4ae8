package shop

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/unit"
)

// catchingUp is how long after one entry the next is taken for catching up.
const catchingUp = 20 * time.Minute

// doubts are the reasons to ask before an event is taken as done: what the planner
// suspects of its piece at that time, what does not go over what, and the future.
func (w *unitOfWork) doubts(e schedule.Planned, in Entry, entry *job.Entry) []Doubt {
	m := w.before
	var doubts []Doubt
	at, _ := m.find(e.Step)
	if entry.HappenedAt.After(m.now.Add(2 * time.Minute)) {
		doubts = append(doubts, Doubt{future, "That is in the future: " + m.plan.Clock(entry.HappenedAt) + "."})
	}
	if in.Kind == job.Done && e.Coat == 1 {
		for _, v := range m.over(at) {
			if v.Needs {
				doubts = append(doubts, Doubt{onPurpose, v.Text + " Log it only on purpose, and say why."})
				break
			}
		}
	}
	happening := schedule.Happening{Event: e.Event, End: entry.HappenedAt, Skipped: in.Kind == job.Skipped}
	if in.Minutes != nil {
		happening.Minutes = unit.Minutes(*in.Minutes)
	}
	for _, d := range m.plan.Doubts(happening) {
		asked := Doubt{string(d.Kind), d.Text}
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
func (m *moment) judgeStrike(in Entry, entry *job.Entry, voided []job.Entry) error {
	var events []schedule.Event
	for _, v := range voided {
		if v.Kind == job.Done && v.Step != nil {
			events = append(events, schedule.Event{Step: *v.Step, Coat: *v.Coat})
		}
	}
	d, stands := m.plan.StandsOn(events...)
	if !stands {
		return nil
	}
	doubts := []Doubt{{string(d.Kind), d.Text}}
	flag(entry, doubts)
	return in.answer(doubts)
}

// catchUp logs what comes before an event on its piece, or on the pieces it joins,
// and is open: done by the same time, each a minute before the next. These entries have the
// entry that they come with for their device.
func (w *unitOfWork) catchUp(ctx context.Context, in Entry, with job.Entry) error {
	open := w.before.openBefore(schedule.Event{Step: in.StepID, Coat: in.Coat})
	for k, event := range open {
		e := job.Entry{ID: uuid.NewSHA1(in.ID, fmt.Appendf(nil, "%s %d", event.Step, event.Coat)), Kind: job.Done, Person: with.Person,
			HappenedAt: with.HappenedAt.Add(-time.Duration(len(open)-k) * time.Minute), RecordedAt: with.RecordedAt, Device: in.ID,
			DeviceSeq: int64(k + 1)}
		at, _ := w.before.find(event.Step)
		e.Instrument, e.Step, e.Coat, e.Flags = at.instrument().ID, &event.Step, &event.Coat, []string{caughtUp}
		if made := at.planned().Material; made != nil {
			figures := made.Resolve(w.before.setting.Margin)
			e.Figures = &figures
		}
		if err := w.enter(ctx, e); err != nil {
			return err
		}
	}
	return nil
}

// openBefore lists the events that come before one and are not done, in their order.
func (m *moment) openBefore(event schedule.Event) []schedule.Event {
	var open []schedule.Event
	for _, e := range m.plan.Before(event) {
		if _, done := m.facts[e]; !done {
			open = append(open, e)
		}
	}
	return open
}
