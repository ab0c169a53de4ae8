package views

import "umberfrost/internal/craft/outline"

// OwnOutline is an outline of an instrument's own, as it is drawn.
type OwnOutline struct {
	Path string     `json:"path" doc:"SVG path data"`
	Box  [4]float64 `json:"box" doc:"what holds it: left, top, width, length, in the path's own measure"`
}

// OutlineOf is an outline as it is drawn; nil where the instrument has none of its own.
func OutlineOf(path string) *OwnOutline {
	shape, err := outline.Parse(path)
	if path == "" || err != nil {
		return nil
	}
	return &OwnOutline{path, shape.Box()}
}
