package recipe

import (
	"fmt"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/phrase"
	"umberfrost/internal/craft/surface"
	"umberfrost/internal/craft/unit"
)

// mends puts damage right before the ladder.
func (w *writer) mends() {
	for _, l := range w.p.layers(EffectMend) {
		m, err := surface.FindMend(l.Of)
		if err != nil {
			continue // refused by the check
		}
		w := w.of(l)
		count := max(l.Coats, 1)
		how := m.Repair + ". " + m.Note
		if m.Ready != "" {
			how += " Then wait: " + m.Ready + "."
		}
		if m.Flush != "" {
			how += fmt.Sprintf(" Taken level with %s.", grit(m.Flush))
		}
		title := "Mend: " + phrase.Lower(m.Damage)
		if count > 1 {
			title = fmt.Sprintf("Mend %d: %s", count, phrase.Lower(m.Damage))
		}
		w.add(line{slot: "mend", kind: job.Gate, title: title, fixed: unit.Minutes(count) * m.Minutes, rest: m.Wait, check: "mend-flush",
			how: how,
			why: "Every coat after it shows what is not level and sound now."})
		if w.dyedAbove(l) && (m.Dye == "no" || m.Dye == "less" || m.Dye == "more" || m.Dye == "tone") {
			w.add(line{slot: "mend-dye", kind: job.Inspect, title: "How the mend takes dye", check: "mend-takes-dye",
				how: "A drop of the dye on it and beside it, on scrap mended the same way.",
				why: map[string]string{"no": "It takes none: tone it in a coat later, or hide it under hardware.",
					"less": "It takes less than the wood round it: tone it later.",
					"more": "It takes more: weaken the dye there, or seal it first.",
					"tone": "It is coloured in the coat, not by the dye."}[m.Dye]})
		}
	}
}

// dyedAbove reports whether colour that goes into the wood is wished above a layer.
func (w *writer) dyedAbove(l *Layer) bool {
	return w.p.find(func(o *Layer) bool { return w.p.inWood(o) && o.meets(l) }) != nil
}
