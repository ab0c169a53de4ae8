package changes

import (
	"context"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/shop/snapshot"
)

// testedKind is a film that was tested for a milestone.
type testedKind struct{ nothingFollows }

func (testedKind) fields() []string {
	return []string{"stepId", "coat", "milestone", "passed", "minutes", "actual"}
}

func noFilm(at snapshot.Located) bool { return at.Step().Family == "" }

func (testedKind) check(c *entryCheck) {
	unsaid := func(at snapshot.Located) bool { return c.in.Milestone == "" || c.in.Passed == nil || noFilm(at) }
	c.work(unsaid, "milestone", "say of which coat, for which milestone, and whether it passed", c.in.Milestone)
}

func (testedKind) gone(_ context.Context, w *Unit, in Entry) (bool, uuid.UUID, error) {
	return goneWork(w, in, noFilm)
}

func (testedKind) record(_ context.Context, w *Unit, r *recording) error {
	about(w.Before, r.entry, EventRef{r.in.StepID, r.in.Coat})
	r.entry.Milestone, r.entry.Passed = r.in.Milestone, r.in.Passed
	return nil
}

func (testedKind) title(m *snapshot.Snapshot, e *job.Entry) string {
	return workTitle(m, e, testText(e)+": ")
}

func (testedKind) line(_ *snapshot.Snapshot, e *job.Entry, title string) string {
	return testText(e) + ": " + title
}

// testText says what a test of a film came to.
func testText(e *job.Entry) string {
	if *e.Passed {
		return "Tested " + e.Milestone.Text()
	}
	return "Not yet " + e.Milestone.Text()
}
