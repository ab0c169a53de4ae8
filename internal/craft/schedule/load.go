package schedule

// load is how much of something is in use over time: pieces at a place, hooks,
// fresh coats or dust in an air. It is kept as the times at which the count
// changes. The zero load is empty.
type load struct {
	at    []minute
	count []int32 // from at[i] until at[i+1]; before at[0] it is 0
}

// holding is the index of the stretch that holds t, -1 before the first.
func (l *load) holding(t minute) int {
	low, high := 0, len(l.at)
	for low < high {
		if mid := (low + high) / 2; l.at[mid] > t {
			high = mid
		} else {
			low = mid + 1
		}
	}
	return low - 1
}

// add counts n more over a span; n may be negative to take back.
func (l *load) add(s span, n int32) {
	if s.start >= s.end {
		return
	}
	from, to := l.split(s.start), 0
	to = l.split(s.end)
	for i := from; i < to; i++ {
		l.count[i] += n
	}
	l.join(to)
	l.join(from)
}

// split makes t the beginning of a stretch and returns its index.
func (l *load) split(t minute) int {
	i := l.holding(t)
	if i >= 0 && l.at[i] == t {
		return i
	}
	count := int32(0)
	if i >= 0 {
		count = l.count[i]
	}
	l.at, l.count = append(l.at, 0), append(l.count, 0)
	copy(l.at[i+2:], l.at[i+1:])
	copy(l.count[i+2:], l.count[i+1:])
	l.at[i+1], l.count[i+1] = t, count
	return i + 1
}

// join merges stretch i into the one before it when nothing changes there.
func (l *load) join(i int) {
	before := int32(0)
	if i > 0 {
		before = l.count[i-1]
	}
	if l.count[i] == before {
		l.at = append(l.at[:i], l.at[i+1:]...)
		l.count = append(l.count[:i], l.count[i+1:]...)
	}
}

// next is the first start at or after t from which, for so long, fewer than most
// are in use.
func (l *load) next(t, length minute, most int32) minute {
	i := max(l.holding(t), 0)
	for ; i < len(l.at) && l.at[i] < t+length; i++ {
		if l.count[i] < most {
			continue
		}
		end := minute(1 << 60)
		if i+1 < len(l.at) {
			end = l.at[i+1]
		}
		if end > t && l.at[i] < t+length {
			t = end
		}
	}
	return t
}

// until is how long from t on fewer than most are in use; t itself when they are not.
func (l *load) until(t minute, most int32) minute {
	for i := max(l.holding(t), 0); i < len(l.at); i++ {
		if l.count[i] >= most && (i+1 >= len(l.at) || l.at[i+1] > t) {
			return max(t, l.at[i])
		}
	}
	return 1 << 60
}

// lastFree is the latest end at or before t of so many minutes in which fewer
// than most are in use.
func (l *load) lastFree(t, length minute, most int32) minute {
	for i := l.holding(t - 1); i >= 0; i-- {
		end := minute(1 << 60)
		if i+1 < len(l.at) {
			end = l.at[i+1]
		}
		if end <= t-length {
			break
		}
		if l.count[i] >= most && l.at[i] < t {
			t = l.at[i]
		}
	}
	return t
}

// freeSince is since when, up to t, fewer than most have been in use.
func (l *load) freeSince(t minute, most int32) minute {
	for i := l.holding(t); i >= 0; i-- {
		if l.count[i] >= most {
			return min(t, l.at[i+1])
		}
	}
	return -1 << 60
}
