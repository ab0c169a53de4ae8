// Package pgbin finds the programs of PostgreSQL that Debian's packages install: one set for each version of the
// server, side by side.
package pgbin

import (
	"errors"
	"fmt"
	"maps"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
)

// ErrNone says that no server is installed; ErrOtherVersion that the one that is asked for is not.
var (
	ErrNone         = errors.New("no PostgreSQL server is installed; install Debian's package: apt-get install postgresql")
	ErrOtherVersion = errors.New("another version of PostgreSQL is needed")
)

// Installed are the versions on this machine, such as 15, each with the folder of its programs.
type Installed map[int]string

// Find looks for them where Debian's packages put them.
func Find() Installed {
	found, _ := filepath.Glob("/usr/lib/postgresql/*/bin/initdb")
	versions := make(Installed, len(found))
	for _, initdb := range found {
		bin := filepath.Dir(initdb)
		if n, err := strconv.Atoi(filepath.Base(filepath.Dir(bin))); err == nil {
			versions[n] = bin
		}
	}
	return versions
}

// Of is the folder of a version's programs.
func (i Installed) Of(version int) (string, error) {
	if len(i) == 0 {
		return "", ErrNone
	}
	if bin, there := i[version]; there {
		return bin, nil
	}
	return "", fmt.Errorf("%w: %d, and installed here is %s; install Debian's package: apt-get install postgresql-%d", ErrOtherVersion,
		version, i, version)
}

// Newest is the folder of the newest version's programs.
func (i Installed) Newest() (string, error) {
	if len(i) == 0 {
		return "", ErrNone
	}
	return i[slices.Max(slices.Collect(maps.Keys(i)))], nil
}

func (i Installed) String() string {
	var list []string
	for _, version := range slices.Sorted(maps.Keys(i)) {
		list = append(list, strconv.Itoa(version))
	}
	return strings.Join(list, ", ")
}
