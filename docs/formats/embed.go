// Package published holds the schemas of the open formats, as they are published
// beside this file.
package published

import _ "embed"

// ScheduleSchema is the JSON Schema of the schedule file, version 4.
//
//go:embed schedule-4.schema.json
var ScheduleSchema []byte

// ScheduleSchema3 is that of version 3, in which nothing was left out or moved by hand, and the log did not
// say what had been planned. It is read, and never changed.
//
//go:embed schedule-3.schema.json
var ScheduleSchema3 []byte

// ScheduleSchema2 is that of version 2, in which a piece had a look and no layers. It is read, and
// never changed.
//
//go:embed schedule-2.schema.json
var ScheduleSchema2 []byte

// ScheduleSchema1 is that of version 1, in which regions were called zones. It is read, and
// never changed.
//
//go:embed schedule-1.schema.json
var ScheduleSchema1 []byte

// PlanSchema is the JSON Schema of what `plan --json` prints, version 2.
//
//go:embed plan-2.schema.json
var PlanSchema []byte
