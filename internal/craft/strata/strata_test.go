package strata

import (
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"

	"umberfrost/internal/craft/job"
)

func coat(family string, coats int) job.Step {
	return job.Step{Kind: job.Coat, Family: family, Coats: coats}
}
func work(kind job.Kind) job.Step { return job.Step{Kind: kind} }

// lie replays steps; each is named by where it stands, from 0.
func lie(steps ...job.Step) (l Stack[int]) {
	for i := range steps {
		l.Do(&steps[i], i)
	}
	return l
}

func TestWhatLiesOnARegion(t *testing.T) {
	for name, test := range map[string]struct {
		steps []job.Step
		want  Stack[int]
	}{
		"sanded bare wood is bare": {[]job.Step{work(job.Sand)}, nil},
		"coats of one product are one stratum": {[]job.Step{coat("nitro", 3), work(job.Inspect), coat("nitro", 2)},
			Stack[int]{{"nitro", "nitro", 5, 2, false}}},
		"a step that counts none has one coat": {[]job.Step{coat("shellac", 0)}, Stack[int]{{"shellac", "shellac", 1, 0, false}}},
		"another product lies on top": {[]job.Step{coat("dewaxed-shellac", 1), coat("water-clear", 4)},
			Stack[int]{{"dewaxed-shellac", "dewaxed-shellac", 1, 0, false}, {"water-clear", "water-clear", 4, 1, false}}},
		"in turn they are strata in turn": {[]job.Step{coat("finishing-oil", 1), coat("shellac", 1), coat("finishing-oil", 1)},
			Stack[int]{{"finishing-oil", "finishing-oil", 1, 0, false}, {"shellac", "shellac", 1, 1, false},
				{"finishing-oil", "finishing-oil", 1, 2, false}}},
		"a scuff dulls the uppermost": {[]job.Step{coat("water-sealer", 1), coat("water-clear", 1), work(job.Scuff)},
			Stack[int]{{"water-sealer", "water-sealer", 1, 0, false}, {"water-clear", "water-clear", 1, 1, true}}},
		"the next coat shines again": {[]job.Step{coat("nitro", 1), work(job.Scuff), coat("nitro", 1)},
			Stack[int]{{"nitro", "nitro", 2, 2, false}}},
		"levelling dulls": {[]job.Step{coat("nitro", 1), work(job.Level)}, Stack[int]{{"nitro", "nitro", 1, 0, true}}},
		"sanding dulls":   {[]job.Step{coat("nitro", 1), work(job.Sand)}, Stack[int]{{"nitro", "nitro", 1, 0, true}}},
		"what is buffed is not dull": {[]job.Step{coat("nitro", 1), work(job.Level), work(job.Buff)},
			Stack[int]{{"nitro", "nitro", 1, 0, false}}},
		"looking and taping leave it": {[]job.Step{coat("nitro", 1), work(job.Scuff), work(job.MaskOn), work(job.Inspect), work(job.Gate),
			work(job.MaskOff)},
			Stack[int]{{"nitro", "nitro", 1, 0, true}}},
	} {
		assert.Equal(t, test.want, lie(test.steps...), name)
	}
}

func TestAProductIsNotItsFamily(t *testing.T) {
	ebb := uuid.New()
	own := coat("nitro", 1)
	own.Product = &ebb
	l := lie(coat("nitro", 2), own, coat("shellac", 1))
	assert.Len(t, l, 3)
	last, lies := l.LastOf(ebb.String())
	assert.Equal(t, []any{1, true}, []any{last, lies})
	last, lies = l.LastOf("nitro")
	assert.Equal(t, []any{0, true}, []any{last, lies})
	_, lies = l.LastOf("water-clear")
	assert.False(t, lies)
	assert.Equal(t, "shellac", l.Top().Family)
	assert.Empty(t, lie().Top().Family)
}

func TestColourIsOpenUntilItIsShutIn(t *testing.T) {
	assert.False(t, lie().Open())
	assert.False(t, lie(coat("water-clear", 1)).Open())
	assert.True(t, lie(coat("water-dye", 1)).Open())
	assert.True(t, lie(coat("water-dye", 1), coat("water-filler", 2)).Open(), "filler does not shut it in")
	assert.False(t, lie(coat("water-dye", 1), coat("water-sealer", 1)).Open())
	assert.False(t, lie(coat("water-dye", 1), coat("water-sealer", 1), coat("water-filler", 1)).Open())
	assert.False(t, lie(coat("water-filler", 1)).Open(), "there is none")
	assert.True(t, lie(coat("water-dye", 1), coat("water-sealer", 1), coat("water-dye", 1)).Open(), "the one on top")
}

func TestWhatIsCutIsBareAgain(t *testing.T) {
	cut := work(job.Gate)
	cut.Bares = true
	assert.Empty(t, lie(coat("nitro", 3), cut).Top().Family)
	assert.Equal(t, "water-clear", lie(coat("nitro", 3), cut, coat("water-clear", 1)).Top().Family)
	assert.Len(t, lie(coat("nitro", 3), cut, coat("water-clear", 1)), 1)
}
