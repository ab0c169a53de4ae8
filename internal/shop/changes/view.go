package changes

import (
	"github.com/google/uuid"

	"umberfrost/internal/craft/schedule"
)

// EventRef names an event: a coat of a step, counted from 1.
type EventRef struct {
	StepID uuid.UUID `json:"stepId"`
	Coat   int       `json:"coat"`
}

func Ref(e schedule.Event) EventRef { return EventRef{e.Step, e.Coat} }
