// Package published holds the schemas of the open formats, as they are published
// beside this file.
package published

import _ "embed"

// ScheduleSchema is the JSON Schema of the schedule file, version 1.
//
//go:embed schedule-1.schema.json
var ScheduleSchema []byte

// PlanSchema is the JSON Schema of what `plan --json` prints, version 1.
//
//go:embed plan-1.schema.json
var PlanSchema []byte
