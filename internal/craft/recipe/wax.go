package recipe

import (
	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/material"
)

// wax ends everything: nothing sticks to it.
func (w *writer) wax() {
	for _, l := range w.p.layers(EffectWax) {
		w.of(l).put(line{slot: "wax", kind: job.Coat, title: "Wax", role: "wax", family: "paste-wax", method: material.Wipe,
			how: "As little as will spread, left to haze, wiped off with a clean cloth. Free of silicone.",
			why: "Wax too soon stops a film curing, and nothing sticks to it afterwards: it is the last."})
	}
}
