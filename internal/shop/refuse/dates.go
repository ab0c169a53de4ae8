package refuse

import (
	"fmt"
	"reflect"
	"slices"
	"strings"
	"time"

	"umberfrost/internal/craft/calendar"
	"umberfrost/internal/craft/recipe"
)

// A date that a shop speaks of lies between the year 2000 and ten years from now: what lies elsewhere was mistyped, or
// comes of a clock that is wrong. It is one rule for what a person enters, what a device sends and what a file brings.
const (
	firstYear  = 2000
	yearsAhead = 10

	DatesAccepted = "a date from the year 2000 to ten years from now is accepted"
)

func Plausible(at, now time.Time) bool {
	return at.UTC().Year() >= firstYear && !at.After(now.AddDate(yearsAhead, 0, 0))
}

func PlausibleDay(day calendar.Day, now time.Time) bool {
	return Plausible(day.At(12*60, time.UTC), now)
}

// judged is the tag of a field whose date is judged where it is used.
const judged = "judged"

// Implausible names every date in what is entered that no shop speaks of; nil where there is none. Dates that nobody
// has given are left out.
func Implausible(entered any, now time.Time) error {
	d := dates{now: now}
	d.walk(reflect.ValueOf(entered), "")
	if len(d.bad.Faults) > 0 {
		return &d.bad
	}
	return nil
}

type dates struct {
	now time.Time
	bad Invalid
}

// mostDates is how many are named at a time.
const mostDates = 50

func (d *dates) fault(path string) {
	if len(d.bad.Faults) < mostDates {
		d.bad.Faults = append(d.bad.Faults, recipe.Fault{Path: path, Message: DatesAccepted})
	}
}

func (d *dates) walk(v reflect.Value, path string) {
	switch v.Kind() {
	case reflect.Pointer, reflect.Interface:
		if !v.IsNil() {
			d.walk(v.Elem(), path)
		}
	case reflect.Slice, reflect.Array:
		if v.Type().Elem().Kind() == reflect.Uint8 {
			return // an id, or bytes
		}
		for i := range v.Len() {
			d.walk(v.Index(i), fmt.Sprintf("%s[%d]", path, i))
		}
	case reflect.Map:
		keys := v.MapKeys()
		slices.SortFunc(keys, func(a, b reflect.Value) int { return strings.Compare(fmt.Sprint(a), fmt.Sprint(b)) })
		for _, key := range keys {
			name := fmt.Sprint(key)
			if day, err := calendar.ParseDay(name); err == nil && !PlausibleDay(day, d.now) {
				d.fault(path + "." + name)
			}
			d.walk(v.MapIndex(key), path+"."+name)
		}
	case reflect.Struct:
		d.walkStruct(v, path)
	}
}

func (d *dates) walkStruct(v reflect.Value, path string) {
	if v.CanInterface() { // what is embedded without being exported cannot, and its fields can
		switch t := v.Interface().(type) {
		case time.Time:
			if !t.IsZero() && !Plausible(t, d.now) {
				d.fault(path)
			}
			return
		case calendar.Day:
			if t != (calendar.Day{}) && !PlausibleDay(t, d.now) {
				d.fault(path)
			}
			return
		}
	}
	for i := range v.NumField() {
		field := v.Type().Field(i)
		if (!field.IsExported() && !field.Anonymous) || field.Tag.Get("date") == judged {
			continue
		}
		name, _, _ := strings.Cut(field.Tag.Get("json"), ",")
		switch {
		case name == "" && field.Anonymous:
			d.walk(v.Field(i), path)
			continue
		case name == "" || name == "-":
			name = field.Name
		}
		d.walk(v.Field(i), strings.TrimPrefix(path+"."+name, "."))
	}
}
