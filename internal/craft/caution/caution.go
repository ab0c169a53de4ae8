// Package caution knows the hazards of the work and which of them a step
// brings. It says what to wear and what never to do; it never says that
// something is safe, and it always defers to the product's safety data sheet,
// to local codes and to licensed practice.
package caution

import (
	"bytes"
	_ "embed"
	"errors"
	"fmt"
	"slices"

	"go.yaml.in/yaml/v3"
)

// Caution is one hazard with the words to show for it.
type Caution struct {
	ID          string   `yaml:"id" json:"id"`
	Title       string   `yaml:"title" json:"title"`
	Says        string   `yaml:"says" json:"says"`
	Wear        []string `yaml:"wear" json:"wear"`
	Never       []string `yaml:"never" json:"never"`
	Also        string   `yaml:"also" json:"also" doc:"defers to data sheet, codes and licensed practice; always shown last"`
	AppliesWhen struct {
		Any []group `yaml:"any"`
	} `yaml:"applies_when" json:"-"`
}

type group struct {
	All []condition `yaml:"all"`
}

type condition struct {
	Fact  string `yaml:"fact"`
	Op    string `yaml:"op"`
	Value any    `yaml:"value"`
}

// Facts is what is known about the work at hand, by the fact names of
// cautions.yaml: text, whole numbers or true and false. What is not known is
// left out, and a condition on it does not hold.
type Facts map[string]any

//go:embed cautions.yaml
var text []byte

var cautions, loadError = parse(text)

// Check reports what is wrong with the embedded list, for a start-up check.
func Check() error { return loadError }

// For returns the cautions that any of the given sets of facts brings, in the
// order of the list.
func For(sets ...Facts) []Caution {
	var found []Caution
	for _, c := range cautions {
		if slices.ContainsFunc(sets, c.applies) {
			found = append(found, c)
		}
	}
	return found
}

func (c Caution) applies(facts Facts) bool {
	return slices.ContainsFunc(c.AppliesWhen.Any, func(g group) bool {
		return !slices.ContainsFunc(g.All, func(needed condition) bool { return !needed.holds(facts) })
	})
}

func (c condition) holds(facts Facts) bool {
	fact, known := facts[c.Fact]
	if !known {
		return false
	}
	switch c.Op {
	case "==":
		return fact == c.Value
	case "in":
		return slices.Contains(c.Value.([]any), fact)
	default: // ">=", as parse has checked
		number, isNumber := fact.(int)
		return isNumber && number >= c.Value.(int)
	}
}

func parse(text []byte) ([]Caution, error) {
	var list []Caution
	decoder := yaml.NewDecoder(bytes.NewReader(text))
	decoder.KnownFields(true)
	if err := decoder.Decode(&list); err != nil {
		return nil, fmt.Errorf("cautions: %w", err)
	}
	var faults []error
	seen := make(map[string]bool)
	for _, c := range list {
		if c.ID == "" || c.Says == "" || c.Also == "" || len(c.AppliesWhen.Any) == 0 || seen[c.ID] {
			faults = append(faults, fmt.Errorf("caution %q lacks an id of its own, its words, its closing line or its conditions", c.ID))
		}
		seen[c.ID] = true
		for _, g := range c.AppliesWhen.Any {
			if len(g.All) == 0 {
				faults = append(faults, fmt.Errorf("caution %q has an empty group, which would always hold", c.ID))
			}
			for _, needed := range g.All {
				if err := needed.check(); err != nil {
					faults = append(faults, fmt.Errorf("caution %q: %w", c.ID, err))
				}
			}
		}
	}
	return list, errors.Join(faults...)
}

func (c condition) check() error {
	switch c.Op {
	case "==":
		return nil
	case "in":
		if _, isList := c.Value.([]any); isList {
			return nil
		}
	case ">=":
		if _, isNumber := c.Value.(int); isNumber {
			return nil
		}
	}
	return fmt.Errorf("cannot read the condition %s %s %v", c.Fact, c.Op, c.Value)
}
