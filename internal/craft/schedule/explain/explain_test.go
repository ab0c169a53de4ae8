package explain

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestSlackInWords(t *testing.T) {
	assert.Equal(t, "47 h", spanText(47*3600e9))
	assert.Equal(t, "2 days 0 h", spanText(48*3600e9))
	assert.Equal(t, "3 days 5 h late", spanText(-77*3600e9))
}
