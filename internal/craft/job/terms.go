package job

import (
	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/unit"
)

// Terms are what some steps ask beyond the plain: rules §9. They are stored and
// exchanged as JSON.
type Terms struct {
	Divide  *Divide  `json:"divide,omitempty"`
	Within  *Within  `json:"within,omitempty"`
	Repeat  *Repeat  `json:"repeat,omitempty"`
	Arrival *Arrival `json:"arrival,omitempty"`
	Glue    *Glue    `json:"glue,omitempty"`
	PerDay  *PerDay  `json:"perDay,omitempty"`
	Box     *Box     `json:"box,omitempty"`
	Strings bool     `json:"strings,omitempty"` // the first stringing: it waits until films may be buffed and handled, and for a glue's full strength
	Follows bool     `json:"follows,omitempty"` // it may come after the day of showing
	Clean   bool     `json:"clean,omitempty"`   // it makes no dust although such work usually does
	Bares   bool     `json:"bares,omitempty"`   // it cuts: its regions are bare wood again
	Dusty   bool     `json:"dusty,omitempty"`   // it makes dust although such work usually does not
}

// Divide says that handwork may be spread over several sittings, and the
// smallest useful stretch of it. Without it, handwork of more than an hour is
// divided into stretches of at least half an hour.
type Divide struct {
	LeastMin unit.Minutes `json:"leastMin"`
}

// Within says that a step belongs to the same sitting as the one before it on
// its piece: it begins at least AfterMin and at most BeforeMin after that ends.
type Within struct {
	AfterMin  unit.Minutes `json:"afterMin"`
	BeforeMin unit.Minutes `json:"beforeMin"`
}

// Repeat says that a step is done in rounds until a check is passed. Coats is
// how many are expected; the log settles it.
type Repeat struct {
	Least int `json:"least"`
	Most  int `json:"most"`
}

// Arrival says that a gate waits for something on order.
type Arrival struct {
	Expected   calendar.Day  `json:"expected"`
	SpreadDays int           `json:"spreadDays"`         // how much later it may well come
	Fallback   *calendar.Day `json:"fallback,omitempty"` // the day from which one goes on without it
}

// Glue says that a gate is a glue-up, with the glue's own clock: minutes at the
// reference climate, run like a two-pack's.
type Glue struct {
	ClampMin         unit.Minutes `json:"clampMin"` // until the clamps come off
	SqueezeAfterMin  unit.Minutes `json:"squeezeAfterMin"`
	SqueezeBeforeMin unit.Minutes `json:"squeezeBeforeMin"` // 0: no squeeze-out to take off
	HandleMin        unit.Minutes `json:"handleMin"`        // until the joint may be worked on
	FullMin          unit.Minutes `json:"fullMin"`          // until full strength, which strings wait for
}

// PerDay sets more coats in a day than the product allows, on purpose.
type PerDay struct {
	Coats  int    `json:"coats"`
	Reason string `json:"reason"`
}

// Box is a climate of a step's own for some time after it: a dryer, a warm box.
type Box struct {
	climate.Air
	Minutes unit.Minutes `json:"minutes"`
}
