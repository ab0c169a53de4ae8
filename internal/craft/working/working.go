// Package working is how a figure shows where it came from: the rule in words,
// every input with its source, and the result. The core returns it as data next
// to the figure; a screen only lays it out.
package working

// Source says what an input rests on, the surest first.
type Source string

const (
	Reading   Source = "a reading"
	Person    Source = "entered by a person"
	DataSheet Source = "data sheet"
	Shop      Source = "this shop's setting"
	Profile   Source = "the room's profile"
	Family    Source = "family default"
	Rule      Source = "rule of the trade"
)

// Assumed reports whether a figure that rests on this source is an estimate.
func (s Source) Assumed() bool { return s == Profile || s == Family || s == Rule }

// Input is one number that went into a figure.
type Input struct {
	Name   string `json:"name"`
	Value  string `json:"value" doc:"the number with its unit"`
	Source Source `json:"source"`
}

// Working is the derivation of one figure.
type Working struct {
	Title    string  `json:"title" doc:"what was worked out"`
	Formula  string  `json:"formula" doc:"the rule in words"`
	Inputs   []Input `json:"inputs"`
	Result   string  `json:"result"`
	Estimate bool    `json:"estimate" doc:"true when an input was assumed"`
}

// New gathers a working and marks it as an estimate when any input is assumed.
func New(title, formula, result string, inputs ...Input) Working {
	w := Working{Title: title, Formula: formula, Inputs: inputs, Result: result}
	for _, in := range inputs {
		w.Estimate = w.Estimate || in.Source.Assumed()
	}
	return w
}
