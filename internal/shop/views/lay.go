package views

import (
	"fmt"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/sitting"
	"umberfrost/internal/craft/working"
	"umberfrost/internal/shop/snapshot"
)

// LayView is what to lay out for a sitting.
type LayView struct {
	Materials []LayMaterial `json:"materials"`
	Grits     []string      `json:"grits" doc:"coarse ones first"`
	Tools     []string      `json:"tools" doc:"tape among them"`
}

// LayMaterial is a material to lay out, and how it is mixed.
type LayMaterial struct {
	Name    string      `json:"name"`
	Methods string      `json:"methods" doc:"sprayed"`
	Volume  string      `json:"volume" doc:"of all its coats, without what stays in cups"`
	PotLife string      `json:"potLife,omitempty" doc:"of its mix; absent: it does not set"`
	Batches []BatchView `json:"batches" doc:"none of what comes out of a can"`
}

// BatchView is one mix.
type BatchView struct {
	Title   string          `json:"title" doc:"Batch 1 of 2"`
	Mix     string          `json:"mix" doc:"200 mL resin + 50 mL hardener"`
	Total   string          `json:"total"`
	For     []string        `json:"for" doc:"the pieces it is put on"`
	Use     string          `json:"use,omitempty" doc:"within how long it is put on"`
	Working working.Working `json:"working"`
	first   job.Event       // that it is mixed for
}

func layView(m *snapshot.Snapshot, lay sitting.Lay) LayView {
	view := LayView{Materials: []LayMaterial{}, Grits: []string{}, Tools: append([]string{}, lay.Tools...)}
	for _, key := range lay.Grits {
		view.Grits = append(view.Grits, snapshot.LadderText([]string{key}))
	}
	if lay.Tape {
		view.Tools = append(view.Tools, "tape")
	}
	for _, made := range lay.Materials {
		view.Materials = append(view.Materials, layMaterial(m, made))
	}
	return view
}

func layMaterial(m *snapshot.Snapshot, made sitting.Material) LayMaterial {
	var methods []string
	for _, name := range made.Methods {
		methods = append(methods, snapshot.Method(material.Method(name)))
	}
	view := LayMaterial{Name: made.Name, Methods: phrase.List(methods), Volume: made.Volume.String(), Batches: []BatchView{}}
	if made.PotLife > 0 {
		view.PotLife = made.PotLife.String()
	}
	for k, b := range made.Batches {
		batch := BatchView{Title: "Mix", Mix: b.String(), Total: b.Total.String(), For: []string{}, Working: b.Working, first: b.For[0]}
		if len(made.Batches) > 1 {
			batch.Title = fmt.Sprintf("Batch %d of %d", k+1, len(made.Batches))
		}
		if made.PotLife > 0 {
			batch.Use = "used up within " + made.PotLife.String() + " of mixing"
		}
		for _, event := range b.For {
			at, _ := m.Find(event.Step)
			batch.For = append(batch.For, at.Instrument().Name+" "+string(at.Piece().Kind))
		}
		view.Batches = append(view.Batches, batch)
	}
	return view
}
