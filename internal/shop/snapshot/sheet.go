package snapshot

import (
	"umberfrost/internal/craft/abrasive"
	"umberfrost/internal/craft/material"
)

func LadderText(keys []string) string {
	ladder, err := abrasive.LadderOf(keys...)
	if err != nil {
		return err.Error()
	}
	return ladder.Text()
}

// Method names a method inside a sentence.
func Method(m material.Method) string {
	return map[material.Method]string{"spray": "sprayed", "aerosol": "from the can", "brush": "brushed", "wipe": "wiped", "pad": "padded",
		"pour": "poured", "drop": "dropped in"}[m]
}
