// Package check knows the checks made between steps: how to look, when it has
// passed, and what to do if not.
package check

import (
	"bytes"
	_ "embed"
	"errors"
	"fmt"
	"strings"

	"go.yaml.in/yaml/v3"
)

// Check is one way of looking at a piece.
type Check struct {
	ID       string   `yaml:"id" json:"id"`
	Title    string   `yaml:"title" json:"title"`
	At       string   `yaml:"at" json:"at"`
	How      string   `yaml:"how" json:"how"`
	PassWhen string   `yaml:"pass_when" json:"passWhen"`
	IfNot    string   `yaml:"if_not" json:"-"`
	Measures *Measure `yaml:"measures" json:"-"`
}

// Measure is what is worth writing down.
type Measure struct {
	Name    string   `yaml:"name"`
	Unit    string   `yaml:"unit"`
	Kind    string   `yaml:"kind"`
	Choices []string `yaml:"choices"`
}

// Otherwise says what to do when the check fails: the list's own words, or the
// fault it points to.
func (c Check) Otherwise() string {
	if strings.ContainsAny(c.IfNot, " .") {
		return c.IfNot
	}
	return "Stop here: this is the fault “" + strings.ReplaceAll(c.IfNot, "-", " ") + "”. Mend it before going on."
}

//go:embed checks.yaml
var text []byte

var checks, loadError = parse(text)

// Valid reports what is wrong with the embedded list, for a start-up check.
func Valid() error { return loadError }

// Find returns the check with this id.
func Find(id string) (Check, error) {
	c, found := checks[id]
	if !found {
		return Check{}, fmt.Errorf("there is no check %q in the list", id)
	}
	return c, nil
}

func parse(text []byte) (map[string]Check, error) {
	var list []Check
	decoder := yaml.NewDecoder(bytes.NewReader(text))
	decoder.KnownFields(true)
	if err := decoder.Decode(&list); err != nil {
		return nil, fmt.Errorf("checks: %w", err)
	}
	byID := make(map[string]Check, len(list))
	var faults []error
	for _, c := range list {
		if _, twice := byID[c.ID]; twice || c.ID == "" || c.How == "" || c.PassWhen == "" || c.IfNot == "" {
			faults = append(faults, fmt.Errorf("check %q lacks an id of its own, how, pass_when or if_not", c.ID))
		}
		byID[c.ID] = c
	}
	return byID, errors.Join(faults...)
}
