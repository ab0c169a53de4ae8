package internal_test

import (
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// may is which rooms of the house each room may use, besides itself:
// cmd → web → shop → store, and everything down to craft, never back.
var may = map[string][]string{
	"umberfrost/internal/craft":   {},
	"umberfrost/internal/formats": {"umberfrost/internal/craft", "umberfrost/docs/formats"}, // the published schemas
	"umberfrost/docs/formats":     {},
	"umberfrost/internal/pgbin":   {},
	"umberfrost/internal/store":   {"umberfrost/internal/craft", "umberfrost/internal/pgbin"},
	"umberfrost/internal/shop": {"umberfrost/internal/craft", "umberfrost/internal/store", "umberfrost/internal/pgbin",
		"umberfrost/internal/formats",
		"umberfrost/docs/formats"},
	"umberfrost/internal/web": {"umberfrost/internal/craft", "umberfrost/internal/store", "umberfrost/internal/pgbin",
		"umberfrost/internal/formats",
		"umberfrost/docs/formats", "umberfrost/internal/shop"},
	"umberfrost/internal/demo": {"umberfrost/internal/craft", "umberfrost/internal/store", "umberfrost/internal/pgbin",
		"umberfrost/internal/formats",
		"umberfrost/docs/formats", "umberfrost/internal/shop"},
	"umberfrost/internal/localpg": {"umberfrost/internal/craft", "umberfrost/internal/pgbin", "umberfrost/internal/store"},
	// store for its test helper
	"umberfrost/internal/trust": {},
	"umberfrost/ui":             {},
}

// floors is the order inside craft: a package may use only lower floors.
var floors = []string{
	"unit working table phrase looks",
	"calendar",
	"wood material abrasive labour pore mix check caution outline colour mask glue",
	"climate film layering leaf resin part surface aging",
	"cure job flake settings",
	"strata",
	"schedule recipe",
	"schedule/search schedule/explain edit timer sitting workshop",
	"repair",
}

// rooms is the order inside the shop, the lowest first: a package may use only lower ones.
var rooms = []string{"access refuse", "snapshot", "planner", "changes", "views"}

func TestTheShopIsBuiltInRooms(t *testing.T) {
	floor := map[string]int{"umberfrost/internal/shop": len(rooms)}
	for level, names := range rooms {
		for _, name := range strings.Fields(names) {
			floor["umberfrost/internal/shop/"+name] = level
		}
	}
	for pkg, imports := range list(t, "Imports", "../internal/shop/...") {
		level, known := floor[pkg]
		assert.True(t, known, "%s stands on no floor: add it to this test", pkg)
		for _, dep := range imports {
			if below, ours := floor[dep]; ours && dep != pkg {
				assert.Less(t, below, level, "%s imports %s, which is not below it", pkg, dep)
			}
			if dep == "umberfrost/internal/formats" {
				assert.Equal(t, "umberfrost/internal/shop", pkg, "%s names the file: only export and import do", pkg)
			}
		}
	}
}

func TestImportsPointOneWay(t *testing.T) {
	for room, allowed := range may {
		for pkg, deps := range list(t, "Deps", "../"+strings.TrimPrefix(room, "umberfrost/")+"/...") {
			for _, dep := range deps {
				if strings.HasPrefix(dep, "umberfrost/") && !under(dep, append(allowed, room)) {
					t.Errorf("%s imports %s, which points the wrong way", pkg, dep)
				}
			}
		}
	}
}

func TestCraftIsPureAndBuiltInFloors(t *testing.T) {
	floor := make(map[string]int)
	for level, names := range floors {
		for _, name := range strings.Fields(names) {
			floor["umberfrost/internal/craft/"+name] = level
		}
	}
	for pkg, imports := range list(t, "Imports", "../internal/craft/...") {
		if strings.HasSuffix(pkg, "test") { // helpers of tests
			continue
		}
		level, known := floor[pkg]
		assert.True(t, known, "%s stands on no floor: add it to this test", pkg)
		for _, dep := range imports {
			// math/rand/v2 only draws from the seed that it is given; the old one has a seed of its own.
			assert.False(t, strings.HasPrefix(dep, "umberfrost") && strings.HasSuffix(dep, "test"), "%s imports %s, which is for tests",
				pkg, dep)
			assert.NotContains(t, []string{"database/sql", "net", "net/http", "math/rand", "os", "os/exec"}, dep, pkg)
			if below, ours := floor[dep]; ours && dep != pkg {
				assert.Less(t, below, level, "%s imports %s, which is not below it", pkg, dep)
			}
		}
	}
}

// changed lets the test run again whenever a Go file has changed: it asks another program for what it
// tests, and a kept result would not know.
func changed(t *testing.T) {
	t.Helper()
	for _, room := range []string{"../internal", "../cmd"} {
		require.NoError(t, filepath.WalkDir(room, func(path string, d fs.DirEntry, err error) error {
			if err == nil && strings.HasSuffix(path, ".go") {
				_, err = os.Stat(path)
			}
			return err
		}))
	}
}

// list returns the packages of a pattern with what they import (Imports) or all
// they depend on (Deps), tests left out.
func list(t *testing.T, field, pattern string) map[string][]string {
	t.Helper()
	changed(t)
	out, err := exec.Command("go", "list", "-f", "{{.ImportPath}} {{join ."+field+` " "}}`, pattern).Output()
	require.NoError(t, err)
	packages := make(map[string][]string)
	for line := range strings.Lines(string(out)) {
		words := strings.Fields(line)
		packages[words[0]] = words[1:]
	}
	require.NotEmpty(t, packages)
	return packages
}

func under(pkg string, rooms []string) bool {
	for _, room := range rooms {
		if pkg == room || strings.HasPrefix(pkg, room+"/") {
			return true
		}
	}
	return false
}
