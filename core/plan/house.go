package plan

import (
	"nephelon/core/kit"
	"nephelon/core/measure"
	"nephelon/core/survey"
)

// House is how a contractor works: chosen once, and what every new job starts
// from. What is left out is as in a new job.
type House struct {
	Methods  Schools                               `json:"methods,omitzero"`
	Rules    []survey.Own                          `json:"rules,omitempty" maxItems:"40"`
	VOCMax   *measure.Sourced[measure.Content]     `json:"vocMax,omitempty" doc:"kg/m³ (g/L)"`
	Slab     *measure.Sourced[measure.Temperature] `json:"slab,omitempty" doc:"°C"`
	Crew     *Crew                                 `json:"crew,omitempty"`
	Bucket   *kit.Bucket                           `json:"bucket,omitempty"`
	Currency string                                `json:"currency,omitempty" pattern:"^[A-Z]{3}$" doc:"ISO 4217 code"`
}
