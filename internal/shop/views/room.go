package views

import (
	"fmt"
	"time"

	"github.com/google/uuid"

	"umberfrost/internal/craft/climate"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/schedule"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/shop/changes"
	"umberfrost/internal/shop/snapshot"
)

// RoomNow is the air of the shop's places, and what may be put on in it.
type RoomNow struct {
	Places   []PlaceNow    `json:"places" doc:"those whose air somebody has said anything about"`
	Verdicts []RoomVerdict `json:"verdicts" doc:"of each product that is due today, where it is put on"`
}

// PlaceNow is the air of one place.
type PlaceNow struct {
	ID          uuid.UUID             `json:"id"`
	Name        string                `json:"name"`
	Temperature string                `json:"temperature" doc:"18.6 °C"`
	Humidity    string                `json:"humidity" doc:"52 %"`
	Dew         string                `json:"dew" doc:"dew point: 8.6 °C"`
	Source      string                `json:"source" doc:"read 4 min ago, or its usual air"`
	Read        bool                  `json:"read" doc:"a reading says so"`
	Past        []AirAt               `json:"past" doc:"the last day, hour by hour"`
	Readings    []changes.ReadingLine `json:"readings" doc:"the last ones, the newest first; those that are struck too"`
}

// AirAt is the air at a moment.
type AirAt struct {
	At          time.Time `json:"at"`
	Temperature float64   `json:"temperatureC"`
	Humidity    float64   `json:"humidityPct"`
}

// RoomVerdict says whether a product may be put on now.
type RoomVerdict struct {
	Product string `json:"product"`
	Place   string `json:"place"`
	Verdict string `json:"verdict" enum:"go,go with care,wait"`
	Text    string `json:"text" doc:"go, dries at 0.9 speed; or wait until 14:20"`
	Reason  string `json:"reason"`
}

// recently is how old a reading may be and still be called the air now.
const recently = climate.MaxGap

func roomNow(m *snapshot.Snapshot) RoomNow {
	room := RoomNow{Places: []PlaceNow{}, Verdicts: []RoomVerdict{}}
	for _, p := range m.Input.Shop.Places {
		if p.Room != nil {
			room.Places = append(room.Places, placeNow(m, p))
		}
	}
	seen := make(map[string]bool)
	today, _, _ := today(m)
	for _, e := range today {
		at, _ := m.Find(e.Step)
		made := at.Planned().Material
		place := m.Input.Shop.PlaceOf(new(at.Planned()))
		if made == nil || place.Room == nil || seen[made.Key()+place.Name] {
			continue
		}
		seen[made.Key()+place.Name] = true
		room.Verdicts = append(room.Verdicts, verdict(m, *made, place, at.Planned().HandsOnMin))
	}
	return room
}

func placeNow(m *snapshot.Snapshot, p schedule.Place) PlaceNow {
	air, source, read := airOf(m, p)
	now := PlaceNow{ID: p.ID, Name: p.Name, Temperature: air.Temperature.String(), Humidity: air.Humidity.String(),
		Dew: air.DewPoint().String(), Source: source, Read: read, Past: []AirAt{}, Readings: changes.LastReadings(m, p.ID)}
	for h := 24; h >= 0; h-- {
		at := m.Now.Add(-time.Duration(h) * time.Hour)
		past, _ := p.Room.At(at)
		if h == 0 {
			past = air
		}
		now.Past = append(now.Past, AirAt{at.UTC(), float64(past.Temperature), float64(past.Humidity)})
	}
	return now
}

// airOf is the air of a place now: the last reading while it is recent, else
// what the profile says.
func airOf(m *snapshot.Snapshot, p schedule.Place) (air climate.Air, source string, read bool) {
	air, _ = p.Room.At(m.Now)
	source = "its usual air"
	var last time.Time
	for _, r := range m.Workshop.Shop.Readings {
		if r.Place == p.ID && r.StruckAt == nil && !r.At.After(m.Now) && m.Now.Sub(r.At) <= recently && !r.At.Before(last) {
			air, last, read = r.Air, r.At, true
			source = "read " + m.Plan.Say(r.At)
		}
	}
	return air, source, read
}

func verdict(m *snapshot.Snapshot, made material.Material, p schedule.Place, work unit.Minutes) RoomVerdict {
	air, _, read := airOf(m, p)
	limits := climate.LimitsOf(made)
	surface := p.Room.Surface(m.Now)
	fit := limits.Judge(air, surface)
	v := RoomVerdict{Product: made.Name, Place: p.Name, Verdict: fit.Verdict.Text(), Reason: fit.Reason}
	speed := climate.DryingOf(made.Family, material.Recoat).Rate(air)
	v.Text = fmt.Sprintf("%s, dries at %.1f speed", v.Verdict, speed)
	if fit.Verdict == climate.Wait {
		v.Text = "wait"
		long := time.Duration(work+made.Family.Flash) * time.Minute
		next, found := p.Room.NextFit(limits, m.Now, long, 14*24*time.Hour)
		switch {
		case found && next.After(m.Now):
			v.Text = "wait until " + m.Plan.Clock(next)
		case !found:
			v.Text = notBefore(m, limits, p.Room, long)
		case read:
			v.Text = "wait for the room" // its usual air would do; what was read now does not
		}
	}
	return v
}

// notBefore answers when a product could be put on here at all: the first month
// with a day on which the air is fit while the shop is open.
func notBefore(m *snapshot.Snapshot, limits climate.Limits, room *climate.Room, long time.Duration) string {
	opens, closes := 24, 0
	for _, hours := range m.Setting.Week {
		for _, h := range hours {
			opens, closes = min(opens, h.Open/60), max(closes, (h.Close+59)/60)
		}
	}
	month, found := room.FirstMonth(limits, m.Now, long, opens, closes)
	if !found {
		return "not in this room"
	}
	return "not before " + month.In(m.Plan.Zone).Format("January")
}
