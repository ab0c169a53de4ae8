// Command notices gathers the licences of all that is shipped in the binary: Go with its standard library, Go modules,
// npm packages and fonts. It writes them as JSON into a file, which the interface shows.
package main

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"maps"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"runtime"
	"slices"
	"strings"

	"umberfrost/internal/web"
)

func main() {
	if err := run(os.Args[1:]); err != nil {
		fmt.Fprintln(os.Stderr, "notices:", err)
		os.Exit(1)
	}
}

func run(args []string) error {
	if len(args) != 3 {
		return errors.New("usage: notices PACKAGE UI-FOLDER FILE")
	}
	var found gathered
	for _, gather := range []func() error{func() error { return found.goParts(args[0]) }, func() error { return found.npmParts(args[1]) }} {
		if err := gather(); err != nil {
			return err
		}
	}
	data, err := json.Marshal(found.notices)
	if err != nil {
		return err
	}
	return os.WriteFile(args[2], data, 0o644)
}

// gathered are the parts found so far; each text is kept once.
type gathered struct {
	notices web.Notices
	texts   map[string]int
}

// add notes a part with the licence texts that lie in its folder. It fails where there are none and nobody says what
// licence it is under.
func (g *gathered) add(part web.Part, folder string) error {
	text, err := licenceIn(folder)
	if err != nil {
		return err
	}
	if part.Licence == "" {
		part.Licence = licenceOf(text)
	}
	if part.Licence == "" && text == "" {
		return fmt.Errorf("%s %s says nothing of its licence", part.Name, part.Version)
	}
	part.Text = -1
	if text != "" {
		if g.texts == nil {
			g.texts = make(map[string]int)
		}
		at, known := g.texts[text]
		if !known {
			at = len(g.notices.Texts)
			g.texts[text], g.notices.Texts = at, append(g.notices.Texts, text)
		}
		part.Text = at
	}
	g.notices.Parts = append(g.notices.Parts, part)
	return nil
}

// goParts are Go itself and the modules that a package is made of.
func (g *gathered) goParts(pkg string) error {
	root, err := exec.Command("go", "env", "GOROOT").Output()
	if err != nil {
		return err
	}
	version := strings.TrimPrefix(runtime.Version(), "go")
	if err := g.add(web.Part{Kind: "go", Name: "Go and its standard library", Version: version},
		strings.TrimSpace(string(root))); err != nil {
		return err
	}
	list, err := exec.Command("go", "list", "-deps", "-json=Module", pkg).Output()
	if err != nil {
		return fmt.Errorf("go list: %w", err)
	}
	type module struct {
		Path, Version, Dir string
		Main               bool
	}
	modules := make(map[string]module)
	for decoder := json.NewDecoder(bytes.NewReader(list)); decoder.More(); {
		var p struct{ Module *module }
		if err := decoder.Decode(&p); err != nil {
			return err
		}
		if p.Module != nil && !p.Module.Main {
			modules[p.Module.Path] = *p.Module
		}
	}
	for _, path := range slices.Sorted(maps.Keys(modules)) {
		if err := g.add(web.Part{Kind: "go", Name: path, Version: modules[path].Version}, modules[path].Dir); err != nil {
			return err
		}
	}
	return nil
}

// npmParts are the packages that the interface is made of, without those that only build it.
func (g *gathered) npmParts(ui string) error {
	data, err := os.ReadFile(filepath.Join(ui, "package-lock.json"))
	if err != nil {
		return err
	}
	var lock struct {
		Packages map[string]struct {
			Version  string
			Dev      bool
			Optional bool
		}
	}
	if err := json.Unmarshal(data, &lock); err != nil {
		return err
	}
	for _, at := range slices.Sorted(maps.Keys(lock.Packages)) {
		locked, folder := lock.Packages[at], filepath.Join(ui, at)
		if at == "" || locked.Dev {
			continue
		}
		text, err := os.ReadFile(filepath.Join(folder, "package.json"))
		if errors.Is(err, fs.ErrNotExist) && locked.Optional {
			continue // not for this machine
		}
		var pkg struct{ Name, License string }
		if err := errors.Join(err, json.Unmarshal(text, &pkg)); err != nil {
			return fmt.Errorf("%s: %w", at, err)
		}
		kind := "npm"
		if strings.HasPrefix(pkg.Name, "@fontsource") {
			kind = "font"
		}
		if err := g.add(web.Part{Kind: kind, Name: pkg.Name, Version: locked.Version, Licence: pkg.License}, folder); err != nil {
			return err
		}
	}
	return nil
}

var licenceName = regexp.MustCompile(`(?i)^(un)?licen[cs]e|^copying|^notice`)

// licenceIn is the licence texts of a folder.
func licenceIn(folder string) (string, error) {
	files, err := os.ReadDir(folder)
	if err != nil {
		return "", err
	}
	var texts []string
	for _, f := range files {
		if f.Type().IsRegular() && licenceName.MatchString(f.Name()) && !strings.HasSuffix(f.Name(), ".go") {
			data, err := os.ReadFile(filepath.Join(folder, f.Name()))
			if err != nil {
				return "", err
			}
			texts = append(texts, strings.TrimSpace(strings.ToValidUTF8(string(data), "")))
		}
	}
	return strings.Join(texts, "\n\n"), nil
}

// licenceOf is the name of a licence by words that stand in it only.
func licenceOf(text string) string {
	words := strings.Join(strings.Fields(text), " ")
	for _, known := range []struct{ words, name string }{
		{"Apache License", "Apache-2.0"},
		{"Mozilla Public License Version 2.0", "MPL-2.0"},
		{"Permission is hereby granted, free of charge", "MIT"},
		{"Permission to use, copy, modify, and/or distribute this software for any purpose", "ISC"},
		{"Permission to use, copy, modify, and distribute this software for any purpose", "ISC"},
		{"Neither the name of", "BSD-3-Clause"},
		{"Redistribution and use in source and binary forms", "BSD-2-Clause"},
		{"free and unencumbered software released into the public domain", "Unlicense"},
	} {
		if strings.Contains(words, known.words) {
			return known.name
		}
	}
	return ""
}
