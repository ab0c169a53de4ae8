package recipe

import (
	_ "embed"
	"errors"
	"fmt"

	"umberfrost/internal/craft/table"
)

// School is one of several accepted ways of doing the same thing: a row of
// schools.csv.
type School struct {
	Topic      string `json:"topic"`
	Option     string `json:"option"`
	Question   string `json:"question" doc:"what is disagreed about"`
	Way        string `json:"way" doc:"what this school does"`
	Who        string `json:"who"`
	For        string `json:"for"`
	Against    string `json:"against"`
	ChooseWhen string `json:"chooseWhen"`
}

//go:embed schools.csv
var schoolRows string

var schools, schoolError = parseSchools(schoolRows)

// Check reports what is wrong with the embedded table and the steps that may be added, for a start-up check.
func Check() error { return errors.Join(schoolError, checkExtras()) }

// SchoolsOf lists the schools of a topic, in the order of the table.
func SchoolsOf(topic string) []School {
	var list []School
	for _, s := range schools {
		if s.Topic == topic {
			list = append(list, s)
		}
	}
	return list
}

// FindSchool returns one school, named "topic/option" as steps name theirs.
func FindSchool(name string) (School, error) {
	for _, s := range schools {
		if s.Topic+"/"+s.Option == name {
			return s, nil
		}
	}
	return School{}, fmt.Errorf("there is no school %q", name)
}

func parseSchools(text string) ([]School, error) {
	var list []School
	seen := make(map[string]bool)
	err := table.Read("schools", text, func(r table.Row) {
		s := School{Topic: r.Needed("topic"), Option: r.Needed("option"), Question: r.Needed("question"), Way: r.Needed("way"),
			Who: r.Needed("who"),
			For: r.Needed("for"), Against: r.Needed("against"), ChooseWhen: r.Needed("choose_when")}
		if name := s.Topic + "/" + s.Option; seen[name] {
			r.Complain("option", "listed once for its topic")
		} else {
			seen[name] = true
		}
		list = append(list, s)
	})
	return list, err
}

// Stacks that the topics of colour speak of.

// Topic is a question in which schools differ, with each of them.
type Topic struct {
	ID       string   `json:"id"`
	Question string   `json:"question"`
	Ways     []Option `json:"ways"`
}

// Topics lists the questions that stand open in wishes, in the order in which they come up in the work.
func Topics() []Topic {
	var list []Topic
	for _, t := range topics {
		one := Topic{ID: t.id, Ways: []Option{}}
		for _, s := range SchoolsOf(t.id) {
			one.Question = s.Question
			one.Ways = append(one.Ways, Option{s.Option, s.Way})
		}
		if len(one.Ways) > 0 {
			list = append(list, one)
		}
	}
	return list
}
