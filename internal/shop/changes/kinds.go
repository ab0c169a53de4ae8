package changes

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/shop/snapshot"
)

// entryKind is one kind of log entry. Each is a type in a file of its own; one that says nothing of an aspect does not
// compile.
type entryKind interface {
	// fields are those of the API that say something in it, beside those of every entry.
	fields() []string
	// check refuses what is malformed.
	check(c *entryCheck)
	// gone reports whether what it is about is not there any more, or is something else by now, and which instrument it
	// was of; none where nobody can say.
	gone(ctx context.Context, w *Unit, in Entry) (gone bool, instrument uuid.UUID, err error)
	// record says what the entry is about and judges it, with what it brings along.
	record(ctx context.Context, w *Unit, r *recording) error
	// follow does what it asks for once it is kept.
	follow(w *Unit, r *recording) error
	// title says what was logged, in a sentence.
	title(m *snapshot.Snapshot, e *job.Entry) string
	// line says it in the logbook, where work has a title.
	line(m *snapshot.Snapshot, e *job.Entry, title string) string
}

// entryKinds are all of them.
var entryKinds = map[string]entryKind{
	job.Done: doneKind{}, job.Skipped: skippedKind{}, job.Failed: failedKind{}, job.Note: noteKind{}, job.Void: voidKind{},
	job.Moved: movedKind{}, job.Tested: testedKind{}, job.Settled: settledKind{}, job.Timed: timedKind{}, job.Stopped: stoppedKind{},
}

// recording is an entry on its way into the log.
type recording struct {
	in     Entry
	entry  *job.Entry
	done   happened  // what is logged with it, itself first
	voided job.Entry // of a void
	asked  []string  // of a failed check: what it asks for
}

// EntryTitle says what an entry logged, in a sentence.
func EntryTitle(m *snapshot.Snapshot, e job.Entry) string {
	if kind, known := entryKinds[e.Kind]; known {
		return kind.title(m, &e)
	}
	return e.Kind
}

// LineTitle says what an entry logged, in the logbook, where work has a title.
func LineTitle(m *snapshot.Snapshot, e job.Entry, title string) string {
	if kind, known := entryKinds[e.Kind]; known {
		return kind.line(m, &e, title)
	}
	return title
}

// nothingFollows is of kinds that ask for nothing once they are kept.
type nothingFollows struct{}

func (nothingFollows) follow(*Unit, *recording) error { return nil }

// entryCheck gathers what is malformed of an entry.
type entryCheck struct {
	m     *snapshot.Snapshot
	in    Entry
	entry *job.Entry
	bad   refuse.Invalid
}

func (c *entryCheck) fault(path, message string, value any) {
	c.bad.Faults = append(c.bad.Faults, refuse.Field(path, message, value).Faults...)
}

// reason wants a note.
func (c *entryCheck) reason() {
	if c.entry.Note == "" {
		c.fault("note", "say why, in 1 to 2000 characters", c.in.Note)
	}
}

// coat wants one of the coats of a step.
func (c *entryCheck) coat(at snapshot.Located) {
	if c.in.Coat < 1 || c.in.Coat > c.m.MostCoats(at) {
		c.fault("coat", fmt.Sprintf("this step has coats 1 to %d", c.m.MostCoats(at)), c.in.Coat)
	}
}

// work wants an event that can be worked on; wrong says what is wrong with its step for this kind, nil where any will do.
func (c *entryCheck) work(wrong func(at snapshot.Located) bool, path, message string, value any) {
	at, found := c.m.Find(c.in.StepID)
	switch {
	case !found:
		c.fault("stepId", "must be a step of a schedule", c.in.StepID)
	case wrong != nil && wrong(at):
		c.fault(path, message, value)
	case at.Step().Out != "" && !c.in.Late:
		c.fault("stepId", "this step is left out: "+at.Step().Out+". Take it back into the schedule first", c.in.StepID)
	default:
		c.coat(at)
	}
}

// checkEntry refuses what is malformed, and reads what was true of it.
func checkEntry(m *snapshot.Snapshot, in Entry, entry *job.Entry) error {
	c := &entryCheck{m: m, in: in, entry: entry}
	if in.ID == uuid.Nil {
		c.fault("id", "must be a UUID that the device made", in.ID)
	}
	if in.DeviceID == uuid.Nil {
		c.fault("deviceId", "must be the UUID of the device", in.DeviceID)
	}
	if wrong := m.IsOfShop("personId", in.PersonID); wrong != nil {
		c.bad.Faults = append(c.bad.Faults, wrong.Faults...)
	}
	if !refuse.Plausible(entry.HappenedAt, m.Now) {
		c.fault("happenedAt", refuse.DatesAccepted, nil)
	}
	var faults []recipe.Fault
	entry.Actual, faults = readActual(m, in)
	c.bad.Faults = append(c.bad.Faults, faults...)
	c.text("note", in.Note)
	if in.Actual != nil {
		c.text("actual.lot", in.Actual.Lot)
	}
	entryKinds[in.Kind].check(c)
	if len(c.bad.Faults) > 0 {
		return &c.bad
	}
	return nil
}

// text wants what a database can keep.
func (c *entryCheck) text(path, text string) {
	if strings.ContainsRune(text, 0) {
		c.fault(path, "must be text, without a zero byte", "")
	}
}

// goneWork reports whether the event that an entry is about is gone, or is other work by now.
func goneWork(w *Unit, in Entry, other func(at snapshot.Located) bool) (gone bool, instrument uuid.UUID, err error) {
	at, found := w.Before.Find(in.StepID)
	if !found {
		return goneFrom(w, in)
	}
	return in.Coat < 1 || in.Coat > w.Before.MostCoats(at) || (other != nil && other(at)), at.Instrument().ID, nil
}

// goneFrom is where nothing is left of what an entry is about but the instrument that its device names.
func goneFrom(w *Unit, in Entry) (gone bool, instrument uuid.UUID, err error) {
	if slices.ContainsFunc(w.Before.Workshop.Instruments, func(one recipe.Instrument) bool { return one.ID == in.InstrumentID }) {
		return true, in.InstrumentID, nil
	}
	return true, uuid.Nil, nil
}

// workTitle names the event that an entry is about, with its piece; its kind where it is gone.
func workTitle(m *snapshot.Snapshot, e *job.Entry, before string) string {
	at, found := m.Find(*e.Step)
	if !found {
		return e.Kind
	}
	return before + fmt.Sprintf("%s, %s %s", at.Planned().EventTitle(*e.Coat), at.Instrument().Name, at.Piece().Kind)
}
