package plan

import (
	"slices"
	"strings"
	"testing"
	"time"

	"nephelon/core/climate"
	"nephelon/core/finding"
	"nephelon/core/job"
	"nephelon/core/measure"
)

// What a forecast or the hours of a site leave in doubt is told with the place of it.
func TestMakeTellsDoubtfulHours(t *testing.T) {
	hour := func(hours int) climate.Hour {
		return climate.Hour{At: noon().Add(time.Duration(hours) * time.Hour), Air: 20, Humidity: 0.5}
	}
	for name, c := range map[string]struct {
		change func(*job.Job)
		path   string
		says   string
	}{
		"hours doubled": {func(j *job.Job) { j.Forecast = &job.Forecast{Hours: []climate.Hour{hour(0), hour(1), hour(1)}} },
			"/job/forecast/hours/2", "less than an hour"},
		"out of order": {func(j *job.Job) { j.Forecast = &job.Forecast{Hours: []climate.Hour{hour(1), hour(0)}} },
			"/job/forecast/hours/1", "order of time"},
		"years apart": {func(j *job.Job) { j.Forecast = &job.Forecast{Hours: []climate.Hour{hour(0), hour(20_000)}} },
			"/job/forecast/hours/1", "there are no hours from"},
		"the year 1": {func(j *job.Job) {
			j.Forecast = &job.Forecast{Hours: []climate.Hour{{At: time.Date(1, 1, 1, 0, 0, 0, 0, time.UTC)}}}
		}, "/job/forecast/hours/0/at", "cannot be planned"},
		"a shift overnight": {func(j *job.Job) {
			j.Hours = &job.Hours{Days: []job.Weekday{job.Monday}, From: "16:00", Until: "07:00"}
		}, "/job/hours/until", "until 07:00 on the next day"},
		"a break over all of it": {func(j *job.Job) {
			j.Hours = &job.Hours{Days: []job.Weekday{job.Monday}, From: "07:00", Until: "16:00",
				Breaks: []job.Break{{From: "07:00", Until: "16:00"}}}
		}, "/job/hours/breaks", "no time to work"},
	} {
		f := laidJob(t, demoShelf(t), coat("keelbody-100", 500))
		c.change(&f.Job)
		found := Make(f, measure.Metric, noon()).Findings
		if !slices.ContainsFunc(found, func(f finding.Finding) bool {
			return f.Path == c.path &&
				strings.Contains(f.Text, c.says)
		}) {
			t.Errorf("%s: %v", name, texts(found))
		}
	}
}
