package pgbin_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/pgbin"
)

func TestProgramsOfTheVersionThatIsAskedFor(t *testing.T) {
	here := pgbin.Installed{9: "/nine", 15: "/fifteen", 17: "/seventeen"}
	bin, err := here.Of(15)
	require.NoError(t, err)
	assert.Equal(t, "/fifteen", bin, "not the newest")
	bin, err = here.Newest()
	require.NoError(t, err)
	assert.Equal(t, "/seventeen", bin, "by number, not by letter")

	_, err = here.Of(16)
	require.ErrorIs(t, err, pgbin.ErrOtherVersion)
	assert.ErrorContains(t, err, "16, and installed here is 9, 15, 17; install Debian's package: apt-get install postgresql-16")
	_, err = pgbin.Installed{}.Newest()
	require.ErrorIs(t, err, pgbin.ErrNone)
	_, err = pgbin.Installed{}.Of(15)
	require.ErrorIs(t, err, pgbin.ErrNone)
}
