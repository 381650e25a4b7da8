package job

import (
	"nephelon/core/kit"
	"nephelon/core/measure"
	"nephelon/core/school"
	"nephelon/core/survey"
)

// House is how a contractor works: chosen once, and what every new job starts
// from. What is left out is as in a new job.
type House struct {
	Methods  school.Methods                        `json:"methods,omitzero"`
	Rules    []survey.Own                          `json:"rules,omitempty" maxItems:"40"`
	VOCMax   *measure.Sourced[measure.Content]     `json:"vocMax,omitempty" doc:"kg/m³ (g/L)"`
	Slab     *measure.Sourced[measure.Temperature] `json:"slab,omitempty" doc:"°C"`
	Crew     *Crew                                 `json:"crew,omitempty"`
	Bucket   *kit.Bucket                           `json:"bucket,omitempty"`
	Zone     string                                `json:"zone,omitempty" maxLength:"60" doc:"IANA time zone where the company works"`
	Hours    *Hours                                `json:"hours,omitempty" doc:"When its people work"`
	Currency string                                `json:"currency,omitempty" pattern:"^[A-Z]{3}$" doc:"ISO 4217 code"`
}
