package changes

import (
	"errors"
	"fmt"

	"umberfrost/internal/shop/refuse"
	"umberfrost/internal/store"
)

// Named says which name of a file is taken in this shop by something else.
func Named(err error, list, name string) error {
	switch {
	case err == nil:
		return nil
	case errors.Is(err, store.ErrConflict):
		return &refuse.Taken{Message: fmt.Sprintf("%s: %q, or its id, belongs to something else in this shop; rename it in the file or here", list, name)}
	}
	return fmt.Errorf("importing %s, %q: %w", list, name, err)
}
