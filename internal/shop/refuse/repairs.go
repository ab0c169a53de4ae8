package refuse

import (
	"errors"

	"umberfrost/internal/craft/edit"
)

// FaultAt names the field of a fault of the core where it stands in a request.
func FaultAt(path string, err error) error {
	var wrong *edit.Fault
	if errors.As(err, &wrong) {
		return Field(path+"."+wrong.Field, wrong.Message, nil)
	}
	return err
}
