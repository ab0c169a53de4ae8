package shop

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/settings"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/store"
)

// Beginning is what a shop says about itself before its first instrument.
type Beginning struct {
	Name     string           `json:"name"`
	TimeZone string           `json:"timeZone" doc:"IANA, such as Europe/London"`
	Week     []string         `json:"week" minItems:"7" maxItems:"7" doc:"hours of each day, Sunday first"`
	People   []string         `json:"people" minItems:"1" maxItems:"30"`
	Places   []BeginningPlace `json:"places" minItems:"1" maxItems:"30"`
	Air      []Season         `json:"air" maxItems:"4" doc:"as it usually is, from December on, three months at a time; none where nobody knows"`
	Notation unit.Notation    `json:"notation,omitzero" doc:"how figures are written where a device says nothing else"`
}

// BeginningPlace is somewhere in a shop that begins.
type BeginningPlace struct {
	Name string `json:"name"`
	Kind string `json:"kind" enum:"bench,booth,wheel,drying"`
}

// Season is the usual air of three months, as typed.
type Season struct {
	Months      string `json:"months,omitempty" doc:"December to February"`
	Temperature string `json:"temperature" doc:"18 °C or 64 °F"`
	Humidity    string `json:"humidity" doc:"50 %"`
}

// BeginningView is whether a shop has begun, and what it may begin from.
type BeginningView struct {
	Begun bool        `json:"begun"`
	Hours []HoursWay  `json:"hours"`
	Rooms []RoomWay   `json:"rooms"`
	Airs  []AirWay    `json:"airs"`
	Kinds []PlaceWord `json:"kinds" doc:"what a place may be for"`
	Most  int64       `json:"most" doc:"bytes of the largest backup that a browser may send"`
}

// HoursWay is the week of shops of one manner.
type HoursWay struct {
	ID    string   `json:"id"`
	Title string   `json:"title"`
	Week  []string `json:"week" doc:"hours of each day, Sunday first"`
}

// RoomWay is the places of shops of one manner.
type RoomWay struct {
	ID     string           `json:"id"`
	Title  string           `json:"title"`
	Places []BeginningPlace `json:"places"`
}

// AirWay is the air of rooms of one manner.
type AirWay struct {
	ID    string   `json:"id"`
	Title string   `json:"title"`
	Why   string   `json:"why"`
	Air   []Season `json:"air"`
}

// PlaceWord is a kind of place and what it is for.
type PlaceWord struct {
	Kind  string `json:"kind"`
	Title string `json:"title"`
}

var placeWords = []PlaceWord{{"bench", "a bench: all handwork"}, {"booth", "a booth: spraying"}, {"wheel", "a buffing wheel"},
	{"drying", "a place to dry"}}

// weekWay is a week with the same hours on all weekdays and on both days of the weekend, none where it is closed.
func weekWay(weekdays, weekends []calendar.Hours) []string {
	days, ends := calendar.HoursText(weekdays), calendar.HoursText(weekends)
	return []string{ends, days, days, days, days, days, ends}
}

var roomWays = []RoomWay{
	{"garage", "A garage or shed with one bench", []BeginningPlace{{"the garage", "bench"}}},
	{"bench-and-booth", "A bench and a booth", []BeginningPlace{{"the bench", "bench"}, {"the booth", "booth"}}},
	{"workshop", "A bench, a booth, a buffing wheel and a place to dry",
		[]BeginningPlace{{"the bench", "bench"}, {"the booth", "booth"}, {"the wheel", "wheel"}, {"the drying rack", "drying"}}},
}

// seasonMonths are the months of each season that is asked about: the air of a place is said by months, which
// are the same on both sides of the equator.
var seasonMonths = [4]string{"December to February", "March to May", "June to August", "September to November"}

// defaultAirs are rough: a house, and rooms that follow the weather of a temperate coast.
var defaultAirs = []struct {
	id, title, why string
	air            [4]climate.Air
}{
	{"heated", "Heated all year", "about as a house is: dry while the heating is on",
		[4]climate.Air{{Temperature: 20, Humidity: 40}, {Temperature: 20, Humidity: 50}, {Temperature: 22, Humidity: 60},
			{Temperature: 20, Humidity: 50}}},
	{"when-used", "Heated while somebody works there", "about the mean of day and night: films go on drying when the heater is off",
		[4]climate.Air{{Temperature: 13, Humidity: 65}, {Temperature: 16, Humidity: 60}, {Temperature: 21, Humidity: 60},
			{Temperature: 16, Humidity: 65}}},
	{"unheated", "Not heated", "about as the weather is under a roof; many films cannot be put on in its winter",
		[4]climate.Air{{Temperature: 6, Humidity: 80}, {Temperature: 11, Humidity: 70}, {Temperature: 19, Humidity: 65},
			{Temperature: 12, Humidity: 80}}},
}

// Beginning tells whether the shop has begun, and offers what it may begin from.
func (s Reader) Beginning(ctx context.Context) (BeginningView, error) {
	view := BeginningView{Rooms: roomWays, Kinds: placeWords, Most: mostBytes, Hours: []HoursWay{
		{"evenings", "Evenings and weekends", weekWay([]calendar.Hours{{Open: 19 * 60, Close: 22 * 60}},
			[]calendar.Hours{{Open: 10 * 60, Close: 17 * 60}})},
		{"workdays", "Workshop days", weekWay([]calendar.Hours{{Open: 9 * 60, Close: 18 * 60}}, nil)},
	}}
	for _, way := range defaultAirs {
		shown := AirWay{ID: way.id, Title: way.title, Why: way.why}
		for i, a := range way.air {
			shown.Air = append(shown.Air, Season{seasonMonths[i], a.Temperature.String(), a.Humidity.String()})
		}
		view.Airs = append(view.Airs, shown)
	}
	err := s.store.Read(ctx, func(tx *store.Tx) (err error) {
		view.Begun, err = tx.Begun(ctx)
		return err
	})
	return view, err
}

// Begin gives an empty database its first settings. It fails with *Invalid naming each field, and with *Taken
// where the shop has begun already.
func (s Decider) Begin(ctx context.Context, in Beginning) (BeginningView, error) {
	start, people, err := in.start()
	if err != nil {
		return BeginningView{}, err
	}
	prepared, err := s.Prepare(ctx, start, people...)
	if err == nil && !prepared {
		err = &refuse.Taken{Message: "this shop has begun already; what it says about itself is changed under Shop"}
	}
	if err != nil {
		return BeginningView{}, err
	}
	return Reader(s).Beginning(ctx)
}

func (in *Beginning) start() (Start, []string, error) {
	var bad refuse.Invalid
	fault := func(field, message string, value any) {
		bad.Faults = append(bad.Faults, refuse.Field(field, message, value).Faults...)
	}
	start := Start{Setting: settings.Setting{Name: strings.TrimSpace(in.Name), TimeZone: in.TimeZone, Margin: schedule.DefaultMargin,
		Notation: in.Notation}}
	if n := len([]rune(start.Name)); n < 1 || n > 80 {
		fault("name", "give it a name of 1 to 80 characters", in.Name)
	}
	if _, err := time.LoadLocation(in.TimeZone); err != nil || in.TimeZone == "" || in.TimeZone == "Local" {
		fault("timeZone", "write an IANA time zone, such as Europe/London", in.TimeZone)
	}
	week, err := changes.ParseWeek(in.Week, "week")
	var wrong *refuse.Invalid
	if errors.As(err, &wrong) {
		bad.Faults = append(bad.Faults, wrong.Faults...)
	} else {
		start.Week = *week
	}
	people := make([]string, len(in.People))
	for i, name := range in.People {
		people[i] = strings.TrimSpace(name)
		switch n := len([]rune(people[i])); {
		case n < 1 || n > 60:
			fault(fmt.Sprintf("people[%d]", i), "a name of 1 to 60 characters", name)
		case slices.Contains(people[:i], people[i]):
			fault(fmt.Sprintf("people[%d]", i), "somebody else here has that name already", name)
		}
	}
	usual := in.air(fault)
	for i, p := range in.Places {
		place := settings.PlaceVersion{Name: strings.TrimSpace(p.Name), Kind: settings.PlaceKind(p.Kind), Profile: usual}
		if n := len([]rune(place.Name)); n < 1 || n > 60 {
			fault(fmt.Sprintf("places[%d].name", i), "give it a name of 1 to 60 characters", p.Name)
		}
		if !slices.Contains(changes.PlaceKinds, p.Kind) {
			fault(fmt.Sprintf("places[%d].kind", i), "choose one of "+strings.Join(changes.PlaceKinds, ", "), p.Kind)
		}
		start.Places = append(start.Places, StartPlace(uuid.NewString(), place))
	}
	if len(bad.Faults) > 0 {
		return start, nil, &bad
	}
	hangUp(start.Places)
	return start, people, nil
}

// hangUp lets pieces of every other place hang where there is a place to dry, which comes first among them.
func hangUp(places []settings.Place) {
	dries := func(p settings.Place) bool { return p.Versions[0].Kind == settings.Drying }
	at := slices.IndexFunc(places, dries)
	if at < 0 {
		return
	}
	drying := places[at].ID
	for i := range places {
		if !dries(places[i]) {
			places[i].Versions[0].HangsIn = &drying
		}
	}
	slices.SortStableFunc(places, func(a, b settings.Place) int {
		switch {
		case dries(a) == dries(b):
			return 0
		case dries(a):
			return -1
		}
		return 1
	})
}

// air is the usual air through the year: the mean of the seasons, and how each month differs from it. Without
// any it is nil: nobody has said what the air is like.
func (in *Beginning) air(fault func(field, message string, value any)) *settings.Profile {
	if len(in.Air) == 0 {
		return nil
	}
	if len(in.Air) != len(seasonMonths) {
		fault("air", "say what the air is like in each of the four seasons, or in none", nil)
		return nil
	}
	var seasons [4]climate.Air
	var mean climate.Air
	sound := true
	for i, season := range in.Air {
		temperature, err := unit.ParseCelsius(season.Temperature)
		if err == nil {
			err = climate.Air{Temperature: temperature, Humidity: 50}.Check()
		}
		if err != nil {
			fault(fmt.Sprintf("air[%d].temperature", i), err.Error(), season.Temperature)
		}
		humidity, damp := unit.ParsePercent(season.Humidity)
		if damp == nil {
			damp = climate.Air{Humidity: humidity}.Check()
		}
		if damp != nil {
			fault(fmt.Sprintf("air[%d].humidity", i), damp.Error(), season.Humidity)
		}
		sound = sound && err == nil && damp == nil
		seasons[i] = climate.Air{Temperature: temperature, Humidity: humidity}
		mean.Temperature += seasons[i].Temperature / 4
		mean.Humidity += seasons[i].Humidity / 4
	}
	if !sound {
		return nil
	}
	var months [12]climate.Shift
	for month := range months {
		season := seasons[(month+1)%12/3] // December begins the first
		months[month] = climate.Shift{Temperature: season.Temperature - mean.Temperature, Humidity: season.Humidity - mean.Humidity}
	}
	return &settings.Profile{Knots: []climate.Knot{{Air: mean}}, Months: &months}
}
