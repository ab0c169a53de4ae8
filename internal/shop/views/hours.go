package views

import (
	"cmp"
	"fmt"
	"slices"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/working"
	"umberfrost/internal/shop/snapshot"
	"umberfrost/internal/store"
)

// Hours is how long work took against what was planned, where somebody looked at the clock.
type Hours struct {
	Since       snapshot.DayView `json:"since"`
	Times       int              `json:"times" doc:"how many entries have minutes"`
	Kinds       []HoursLine      `json:"kinds" doc:"by kind of work"`
	People      []HoursLine      `json:"people"`
	Instruments []HoursLine      `json:"instruments"`
	Own         []PaceView       `json:"own" doc:"what the shop's own minutes are by now"`
}

// HoursLine is the hours of some work.
type HoursLine struct {
	ID      uuid.UUID `json:"id,omitzero" doc:"of a person or an instrument"`
	Kind    job.Kind  `json:"kind,omitempty"`
	Label   string    `json:"label"`
	Times   int       `json:"times"`
	Taken   int       `json:"takenMin"`
	Planned int       `json:"plannedMin"`
	Text    string    `json:"text" doc:"3 h 20, planned 2 h 50"`
	Against string    `json:"against" doc:"18 % more than planned"`
}

// PaceView is how long a kind of work takes here against its plan.
type PaceView struct {
	Kind    job.Kind        `json:"kind"`
	Label   string          `json:"label"`
	Text    string          `json:"text" doc:"what is planned with 20 min takes about 24 min here"`
	Times   int             `json:"times" doc:"how many entries stand behind it"`
	Working working.Working `json:"working"`
}

// kindText names a kind of work.
var kindText = map[job.Kind]string{job.Sand: "Sanding", job.Coat: "Coats", job.Scuff: "Scuffing", job.MaskOn: "Masking",
	job.MaskOff: "Tape off",
	job.Level:   "Levelling", job.Buff: "Buffing", job.Inspect: "Checks", job.Gate: "Building"}

func HoursOf(rows []store.Worked) Hours {
	view := Hours{Own: []PaceView{}}
	kinds, people, instruments := make(map[string]HoursLine), make(map[string]HoursLine), make(map[string]HoursLine)
	type sums struct {
		log, square float64
		times       int
	}
	paces := make(map[job.Kind]sums)
	add := func(into map[string]HoursLine, key string, line HoursLine, row store.Worked) {
		if known, there := into[key]; there {
			line = known
		}
		line.Times, line.Taken, line.Planned = line.Times+row.Times, line.Taken+row.Minutes, line.Planned+row.Planned
		into[key] = line
	}
	for _, row := range rows {
		kind := job.Kind(row.Kind)
		view.Times += row.Times
		add(kinds, row.Kind, HoursLine{Kind: kind, Label: kindText[kind]}, row)
		add(people, row.Person.String(), HoursLine{ID: row.Person, Label: row.PersonName}, row)
		add(instruments, row.Instrument.String(), HoursLine{ID: row.Instrument, Label: row.Name}, row)
		p := paces[kind]
		paces[kind] = sums{p.log + row.Log, p.square + row.Square, p.times + row.Times}
	}
	view.Kinds, view.People, view.Instruments = hoursLines(kinds), hoursLines(people), hoursLines(instruments)
	for _, kind := range job.Kinds {
		if p, known := paces[kind]; known {
			view.Own = append(view.Own, paceView(kind, schedule.PaceOf(p.log, p.square, p.times)))
		}
	}
	return view
}

// hoursLines puts what took longest first.
func hoursLines(by map[string]HoursLine) []HoursLine {
	list := make([]HoursLine, 0, len(by))
	for _, line := range by {
		line.Text = unit.Minutes(line.Taken).String() + ", planned " + unit.Minutes(line.Planned).String()
		line.Against = againstText(float64(line.Taken) / float64(line.Planned))
		list = append(list, line)
	}
	slices.SortFunc(list, func(a, b HoursLine) int { return cmp.Or(cmp.Compare(b.Taken, a.Taken), cmp.Compare(a.Label, b.Label)) })
	return list
}

func againstText(ratio float64) string {
	switch percent := unit.Percent(ratio*100 - 100); {
	case percent >= 0.5:
		return percent.String() + " more than planned"
	case percent <= -0.5:
		return (-percent).String() + " less than planned"
	}
	return "as planned"
}

func paceView(kind job.Kind, pace schedule.Pace) PaceView {
	const shown = 20 // minutes, to say it by
	text := fmt.Sprintf("what is planned with %s takes about %s here", unit.Minutes(shown).String(),
		unit.Minutes(shown*pace.Median+0.5).String())
	return PaceView{Kind: kind, Label: kindText[kind], Text: text, Times: pace.Observations,
		Working: working.New("Pace of "+phrase.Lower(kindText[kind]),
			"mean of the logarithms of minutes taken by minutes planned, drawn towards 1 as by three entries",
			fmt.Sprintf("about %.2f times what is planned", pace.Median),
			working.Input{Name: "entries with minutes", Value: fmt.Sprint(pace.Observations), Source: working.Person},
			working.Input{Name: "where nothing is logged", Value: "1, as three entries", Source: working.Rule})}
}
