package changes

import "time"

// TimersKept is how long a timer that nobody stops is shown.
const TimersKept = 36 * time.Hour
