package mix

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/working"
)

// Parts is a mixing ratio by volume, resin or base first: 4:1, 100:2:2.
type Parts []float64

// ParseParts reads a ratio as it stands on a can. It fails on fewer than two parts and on one that is not above 0.
func ParseParts(text string) (Parts, error) {
	var parts Parts
	for _, one := range strings.Split(text, ":") {
		x, err := strconv.ParseFloat(strings.TrimSpace(one), 64)
		if err != nil || !(x > 0) || math.IsInf(x, 0) {
			return nil, fmt.Errorf("%q is not a mixing ratio; write it like 4:1", text)
		}
		parts = append(parts, x)
	}
	if len(parts) < 2 || len(parts) > 3 {
		return nil, fmt.Errorf("%q is not a mixing ratio of two or three parts; write it like 4:1", text)
	}
	return parts, nil
}

// String prints it as on a can.
func (p Parts) String() string {
	list := make([]string, len(p))
	for i, x := range p {
		list[i] = strconv.FormatFloat(x, 'f', -1, 64)
	}
	return strings.Join(list, ":")
}

// Split divides a volume by the ratio.
func (p Parts) Split(total unit.Millilitre) []unit.Millilitre {
	sum := 0.0
	for _, x := range p {
		sum += x
	}
	list := make([]unit.Millilitre, len(p))
	for i, x := range p {
		list[i] = total * unit.Millilitre(x/sum)
	}
	return list
}

// How a mix is measured (default): a cup is read to 1 mL, a scale to 0.1 g. A ratio that measuring moves by
// more than mostError does not hold; what is less than leastMix cannot be stirred. Rules §6.
const (
	cupStep                    = 1.0
	scaleStep                  = 0.1
	mostError                  = 0.05
	leastSteps                 = 5 // fewer marks of a cup or a scale than that are a guess
	leastMix   unit.Millilitre = 10
	mostMix    unit.Millilitre = 100_000 // no shop mixes more at a time
)

// Recipe is what a mix is made of.
type Recipe struct {
	Name    string  // of the material
	Parts   Parts   // none: it comes ready
	Thin    float64 // thinner by volume, as a share of the mixed material without it
	Density float64 // g/mL of every part; 0: unknown, and then it is never weighed
}

// Batch is one mix as it is measured out.
type Batch struct {
	Total   unit.Millilitre // with its thinner, as measured
	Parts   []Amount
	Weighed bool         // by the scale: a cup would move the ratio too far
	Error   unit.Percent // by which measuring moves the worst part of the ratio
}

// Amount is one part of a batch.
type Amount struct {
	Name   string
	Volume unit.Millilitre // as measured; of what is weighed, what that weight is
	Grams  float64         // of what is weighed
}

// String says what to measure: "200 mL", "12.4 g".
func (a Amount) String() string {
	if a.Grams > 0 {
		return strconv.FormatFloat(a.Grams, 'f', 1, 64) + " g"
	}
	return a.Volume.String()
}

// Measure makes a batch of at least so much, thinner included: rounded up to what can be measured, and never
// less than can be mixed true. It fails on a volume that is not above 0.
func (r Recipe) Measure(wanted unit.Millilitre) (Batch, working.Working, error) {
	if !(wanted > 0) || wanted > mostMix {
		return Batch{}, working.Working{}, fmt.Errorf("a mix of %v mL cannot be measured: above 0 and up to %v mL can", float64(wanted),
			float64(mostMix))
	}
	var batch Batch
	var err float64
	for size := max(wanted, leastMix); ; size *= 1.1 { // so little cannot be measured true: more of it can
		if batch, err = r.measured(size, cupStep, false); err <= mostError {
			break
		}
		if r.Density > 0 {
			if batch, err = r.measured(size, scaleStep/r.Density, true); err <= mostError {
				break
			}
		}
	}
	batch.Error = unit.Percent(err * 100)
	inputs := []working.Input{{Name: "wanted", Value: wanted.String(), Source: working.Rule}}
	formula := "wanted"
	if r.Thin > 0 {
		formula += " ÷ (1 + thinner)"
		inputs = append(inputs, working.Input{Name: "thinner, of the material without it", Value: unit.Percent(r.Thin * 100).String(),
			Source: working.Family})
	}
	if len(r.Parts) > 0 {
		formula += ", by parts " + r.Parts.String()
		inputs = append(inputs, working.Input{Name: "parts by volume", Value: r.Parts.String(), Source: working.Family})
	}
	inputs = append(inputs, working.Input{Name: "measured", Value: map[bool]string{false: "to 1 mL, upwards",
		true: "to 0.1 g"}[batch.Weighed], Source: working.Rule})
	return batch, working.New("Mix of "+r.Name, formula, batch.String(), inputs...), nil
}

// String says what goes into it: "200 mL + 50 mL + 37.5 mL thinner".
func (b Batch) String() string {
	list := make([]string, len(b.Parts))
	for i, a := range b.Parts {
		list[i] = a.String() + " " + a.Name
	}
	return strings.Join(list, " + ")
}

// measured rounds a mix to what can be measured: the first part upwards, the others to what goes with it. It tells
// by how much that moves the worst of them.
func (r Recipe) measured(wanted unit.Millilitre, step float64, weighed bool) (Batch, float64) {
	parts := r.Parts
	if len(parts) == 0 {
		parts = Parts{1}
	}
	mixed := wanted / unit.Millilitre(1+r.Thin)
	volumes := parts.Split(mixed)
	names := r.names()
	if r.Thin > 0 {
		volumes, names = append(volumes, mixed*unit.Millilitre(r.Thin)), append(names, "thinner")
	}
	for first := math.Ceil(float64(volumes[0])/step - 1e-6); ; first++ {
		b, worst := Batch{Weighed: weighed}, 0.0
		for i, v := range volumes {
			exact := first * float64(v/volumes[0])
			steps := math.Floor(exact + 0.5 + 1e-9)
			worst = max(worst, math.Abs(steps/exact-1))
			if steps < leastSteps {
				worst = 1
			}
			amount := Amount{Name: names[i], Volume: unit.Millilitre(steps * step)}
			if weighed {
				amount.Grams = steps * scaleStep
			}
			b.Total += amount.Volume
			b.Parts = append(b.Parts, amount)
		}
		if b.Total >= wanted-1e-6 {
			return b, worst
		}
	}
}

// names are what the parts are called: a two-pack has its hardener.
func (r Recipe) names() []string {
	return append([]string{r.Name}, []string{"hardener", "third part"}[:max(len(r.Parts)-1, 0)]...)
}
