package formats

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

// objects are the objects of a list.
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
