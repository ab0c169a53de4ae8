package sitting

import (
	"fmt"
	"math"
	"time"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/mix"
	"umberfrost/internal/craft/unit"
	"umberfrost/internal/craft/working"
)

// Material is what a sitting needs of one material, in as many mixes as its pot life asks for.
type Material struct {
	Key     string // of the product, or of its family
	Name    string
	Methods []string
	Volume  unit.Millilitre // of all its coats, thinner included, without what stays in cups
	PotLife unit.Minutes    // 0: it does not set
	Recipe  mix.Recipe
	Batches []Batch // none of what comes out of a can that sprays
}

// Batch is one mix, and which works it is for.
type Batch struct {
	mix.Batch
	Working working.Working
	For     []job.Event
	MixedAt time.Time // as planned
}

// materialsOf gathers what coats need, in the order in which each material is first wanted. A mix is made when its
// first coat begins; a coat that would end after it has set is put on from the next, and one that takes longer
// than a mix lasts from several. Rules §6.
func materialsOf(works []Work) ([]Material, error) {
	var list []Material
	byKey := make(map[string]int)
	for _, w := range works {
		if w.Step.Kind != job.Coat || len(w.Step.Material.Family.Methods) == 0 {
			continue
		}
		key := w.Step.Material.Key()
		i, known := byKey[key]
		if !known {
			i = len(list)
			byKey[key] = i
			recipe, err := recipeOf(w)
			if err != nil {
				return nil, err
			}
			list = append(list, Material{Key: key, Name: w.Step.Material.Name, PotLife: w.PotLife, Recipe: recipe})
		}
		if err := list[i].take(w); err != nil {
			return nil, err
		}
	}
	for i := range list {
		if err := list[i].measure(works); err != nil {
			return nil, err
		}
	}
	return list, nil
}

// recipeOf is what a material is mixed of: as its family is usually.
func recipeOf(w Work) (mix.Recipe, error) {
	family := w.Step.Material.Family
	r := mix.Recipe{Name: w.Step.Material.Name, Thin: family.Thin, Density: family.DensityGramsML}
	if w.Thin != nil {
		r.Thin = *w.Thin
	}
	if family.MixRatio == "" {
		return r, nil
	}
	var err error
	if r.Parts, err = mix.ParseParts(family.MixRatio); err != nil {
		return r, fmt.Errorf("family %s: %w", family.ID, err)
	}
	return r, nil
}

// take adds the coat of a work to the mixes of its material.
func (m *Material) take(w Work) error {
	method := string(w.Step.Method)
	wet, source := w.Step.Material.Wet(w.Step.Method)
	volume, _, err := mix.CoatVolume(w.AreaM2, wet, source, method)
	if err != nil {
		return err
	}
	m.Volume += volume
	if len(m.Methods) == 0 || m.Methods[len(m.Methods)-1] != method {
		m.Methods = append(m.Methods, method)
	}
	if method == "aerosol" {
		return nil // out of the can
	}
	times := 1
	if m.PotLife > 0 && w.Minutes > m.PotLife {
		times = int(math.Ceil(float64(w.Minutes) / float64(m.PotLife)))
	}
	for k := range times {
		at := w.Start.Add(time.Duration(k) * time.Duration(m.PotLife) * time.Minute)
		ends := at.Add(time.Duration(w.Minutes) * time.Minute / time.Duration(times))
		last := len(m.Batches) - 1
		if last < 0 || times > 1 || (m.PotLife > 0 && ends.Sub(m.Batches[last].MixedAt) > time.Duration(m.PotLife)*time.Minute) {
			m.Batches = append(m.Batches, Batch{MixedAt: at})
			last++
		}
		b := &m.Batches[last]
		b.Total += volume / unit.Millilitre(times)
		if len(b.For) == 0 || b.For[len(b.For)-1] != w.Event {
			b.For = append(b.For, w.Event)
		}
	}
	return nil
}

// measure makes each mix of what its works take and of what stays in the cup.
func (m *Material) measure(works []Work) error {
	methods := make(map[job.Event]string, len(works))
	for _, w := range works {
		methods[w.Event] = string(w.Step.Method)
	}
	for i := range m.Batches {
		b := &m.Batches[i]
		measured, shown, err := m.Recipe.Measure(b.Total + mix.Stays(methods[b.For[0]]))
		if err != nil {
			return fmt.Errorf("%s: %w", m.Name, err)
		}
		b.Batch, b.Working = measured, shown
	}
	return nil
}
