package web

import (
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
)

// noticesFile is where the built interface has the licences of all that is shipped, made by scripts/notices.
const noticesFile = "notices.json"

// Notices are the licences of all that is shipped in the binary.
type Notices struct {
	Parts []Part   `json:"parts"`
	Texts []string `json:"texts" doc:"of the licences, each once"`
}

// Part is something that is shipped, made by others.
type Part struct {
	Kind    string `json:"kind" enum:"go,npm,font"`
	Name    string `json:"name"`
	Version string `json:"version"`
	Licence string `json:"licence" doc:"its short name, such as MIT; empty where only its text says it"`
	Text    int    `json:"text" doc:"which of the texts is its own; -1: it ships none"`
}

// About is which Umberfrost this is, and what it is made of.
type About struct {
	Version string `json:"version"`
	Commit  string `json:"commit" doc:"what it was built from; empty where nobody knows"`
	Notices
}

// aboutOf reads the notices that were made when the interface was built; there are none before that.
func aboutOf(files fs.FS, commit string) (About, error) {
	about := About{Version: Version, Commit: commit, Notices: Notices{Parts: []Part{}, Texts: []string{}}}
	data, err := fs.ReadFile(files, noticesFile)
	if errors.Is(err, fs.ErrNotExist) {
		return about, nil
	}
	if err == nil {
		err = json.Unmarshal(data, &about.Notices)
	}
	if err != nil {
		return about, fmt.Errorf("%s: %w", noticesFile, err)
	}
	return about, nil
}
