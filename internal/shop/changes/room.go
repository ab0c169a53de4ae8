package changes

import "time"

// forecastAhead is how far ahead a forecast of the air may speak.
const forecastAhead = 60 * 24 * time.Hour

func Ptr[T any](v T) *T { return &v }
