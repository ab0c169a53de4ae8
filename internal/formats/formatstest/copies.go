// Package formatstest makes large schedule files for tests and benchmarks.
package formatstest

import (
	"encoding/json"
	"fmt"
	"strings"

	"github.com/google/uuid"

	"umberfrost/internal/craft/job"
	"umberfrost/internal/craft/recipe"
	"umberfrost/internal/formats"
)

// Copies puts so many copies of a file's first instrument in place of its instruments: each
// with ids of its own, promised half a day after the one before and served in turn, with nothing logged
// or pinned.
func Copies(file *formats.File, count int) error {
	original := file.Instruments[0]
	data, err := json.Marshal(original)
	if err != nil {
		return err
	}
	own := []uuid.UUID{original.ID}
	for _, p := range original.Pieces {
		own = append(own, p.ID)
		for _, z := range p.Regions {
			own = append(own, z.ID)
		}
		for _, s := range p.Steps {
			own = append(own, s.ID)
		}
	}
	file.Log, file.Snapshots, file.Order, file.Pins, file.Instruments = nil, nil, nil, nil, nil
	for n := range count {
		text := string(data)
		for _, id := range own {
			text = strings.ReplaceAll(text, id.String(), uuid.NewSHA1(id, fmt.Append(nil, n)).String())
		}
		var copied recipe.Instrument
		if err := json.Unmarshal([]byte(text), &copied); err != nil {
			return err
		}
		copied.Name, copied.Promise = fmt.Sprint("Copy ", n), original.Promise.AddDays(n/2)
		file.Instruments = append(file.Instruments, copied)
	}
	for _, in := range file.Instruments {
		for _, p := range in.Pieces {
			for _, s := range p.Steps {
				for coat := range max(1, s.Coats) {
					file.Order = append(file.Order, job.Event{Step: s.ID, Coat: coat + 1})
				}
			}
		}
	}
	return nil
}
