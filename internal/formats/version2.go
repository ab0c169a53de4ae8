package formats

import (
	"encoding/json"

	"umberfrost/internal/craft/looks"
)

// fromVersion2 is a document of version 2, valid by its schema, in the words of version 3: a piece of
// a wish had one look, texture and wax, regions were plain or not, and the slots of steps named no layer.
func fromVersion2(document any) (any, error) {
	head := document.(map[string]any)
	head["version"] = 3
	for _, instrument := range objects(head["instruments"]) {
		var wish *looks.Wish
		if kept, is := instrument["wish"]; is {
			data, err := json.Marshal(kept)
			if err != nil {
				return nil, err
			}
			layered, err := looks.Translate(data)
			if err != nil {
				return nil, err
			}
			wish, instrument["wish"] = &layered, json.RawMessage(layered.JSON)
		}
		for _, piece := range objects(instrument["pieces"]) {
			for _, region := range objects(piece["regions"]) {
				delete(region, "plain")
			}
			for _, step := range objects(piece["steps"]) {
				if slot, is := step["slot"].(string); is {
					step["slot"] = wish.Slot(slot)
				}
			}
		}
	}
	return head, nil
}
