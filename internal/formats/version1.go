package formats

import "fmt"

// isVersion1 reports whether a document says that it is a schedule file of version 1.
func isVersion1(document any) bool {
	head, is := document.(map[string]any)
	return is && fmt.Sprint(head["version"]) == "1"
}

// fromVersion1 is a document of version 1, valid by its schema, in the words of version 2: the
// regions of a piece, of a step and of a wish were called zones.
func fromVersion1(document any) any {
	head := document.(map[string]any)
	head["version"] = 2
	for _, instrument := range objects(head["instruments"]) {
		for _, piece := range objects(instrument["pieces"]) {
			zonesAreRegions(piece)
			for _, step := range objects(piece["steps"]) {
				zonesAreRegions(step)
			}
		}
		if wish, is := instrument["wish"].(map[string]any); is {
			for _, piece := range objects(wish["pieces"]) {
				zonesAreRegions(piece)
			}
		}
	}
	return head
}

func objects(list any) []map[string]any {
	items, _ := list.([]any)
	var all []map[string]any
	for _, item := range items {
		if object, is := item.(map[string]any); is {
			all = append(all, object)
		}
	}
	return all
}

func zonesAreRegions(object map[string]any) {
	if zones, is := object["zones"]; is {
		delete(object, "zones")
		object["regions"] = zones
	}
}
