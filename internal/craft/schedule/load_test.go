package schedule

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"umberfrost/internal/proptest"
)

// counted is a load as a list of counts, minute by minute.
type counted [200]int32

func (c *counted) add(s span, n int32) {
	for m := s.start; m < s.end; m++ {
		c[m] += n
	}
}

func (c *counted) free(t, length minute, most int32) bool {
	for m := t; m < t+length; m++ {
		if m >= 0 && m < 200 && c[m] >= most {
			return false
		}
	}
	return true
}

func drawLoad(t *rapid.T) (*load, *counted) {
	l, c := &load{}, &counted{}
	var taken []span
	for range rapid.IntRange(0, 25).Draw(t, "changes") {
		if len(taken) > 0 && rapid.IntRange(0, 3).Draw(t, "back") == 0 {
			s := taken[len(taken)-1]
			taken = taken[:len(taken)-1]
			l.add(s, -1)
			c.add(s, -1)
			continue
		}
		from := minute(rapid.IntRange(0, 190).Draw(t, "from"))
		s := span{from, min(200, from+minute(rapid.IntRange(0, 60).Draw(t, "long")))}
		taken = append(taken, s)
		l.add(s, 1)
		c.add(s, 1)
	}
	return l, c
}

func TestALoadCountsLikeAList(t *testing.T) {
	proptest.Check(t, func(t *rapid.T) {
		l, c := drawLoad(t)
		from, length := minute(rapid.IntRange(0, 199).Draw(t, "t")), minute(rapid.IntRange(1, 50).Draw(t, "length"))
		most := int32(rapid.IntRange(1, 4).Draw(t, "most"))

		want := from
		for !c.free(want, length, most) {
			want++
		}
		require.Equal(t, want, l.next(from, length, most), "next")

		until := from
		for until < 200 && c[until] < most {
			until++
		}
		if got := l.until(from, most); until < 200 {
			require.Equal(t, until, got, "until")
		} else {
			require.GreaterOrEqual(t, got, minute(200), "until: for good")
		}

		end := from
		for end-length >= 0 && !c.free(end-length, length, most) {
			end--
		}
		if got := l.lastFree(from, length, most); end-length >= 0 {
			require.Equal(t, end, got, "lastFree")
		} else {
			require.Less(t, got-length, minute(1), "lastFree: not since it began")
		}

		since := from
		for since > 0 && c[since-1] < most && c[since] < most {
			since--
		}
		if c[from] < most && since > 0 {
			require.Equal(t, since, l.freeSince(from, most), "freeSince")
		}
	})
}

func TestALoadKeepsNoMoreThanItNeeds(t *testing.T) {
	var l load
	l.add(span{10, 20}, 1)
	l.add(span{20, 30}, 1)
	assert.Equal(t, []minute{10, 30}, l.at, "two stretches of one count are one")
	l.add(span{10, 30}, -1)
	assert.Empty(t, l.at, "what is taken back leaves nothing")
	l.add(span{5, 5}, 1)
	assert.Empty(t, l.at, "nothing is not counted")
}
