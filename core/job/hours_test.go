package job

import (
	"errors"
	"testing"
	"time"

	"nephelon/core/measure"
)

func in(t *testing.T, zone string) *time.Location {
	t.Helper()
	place, err := Job{Zone: zone}.Place()
	if err != nil {
		t.Fatal(err)
	}
	return place
}

// The nights in which clocks change, by the IANA time zone database: in Oslo on
// 28 March 2027 the clock goes from 02:00 to 03:00, on 31 October 2027 from 03:00
// back to 02:00; Halifax does it on 14 March and 7 November 2027, both at 02:00.
func TestALocalTimeIsTheClockOnSite(t *testing.T) {
	for _, c := range []struct {
		zone  string
		local Local
		utc   string
		noted bool
	}{
		{"Europe/Oslo", "2027-01-12T07:00", "2027-01-12T06:00:00Z", false},
		{"Europe/Oslo", "2027-07-12T07:00", "2027-07-12T05:00:00Z", false},
		{"Europe/Oslo", "2027-03-28T01:30", "2027-03-28T00:30:00Z", false},
		{"Europe/Oslo", "2027-03-28T02:30", "2027-03-28T01:30:00Z", true}, // skipped: read as 03:30
		{"Europe/Oslo", "2027-03-28T03:30", "2027-03-28T01:30:00Z", false},
		{"Europe/Oslo", "2027-10-31T01:30", "2027-10-30T23:30:00Z", false},
		{"Europe/Oslo", "2027-10-31T02:30", "2027-10-31T00:30:00Z", true}, // twice: the first
		{"Europe/Oslo", "2027-10-31T03:30", "2027-10-31T02:30:00Z", false},
		{"America/Halifax", "2027-03-14T02:15", "2027-03-14T06:15:00Z", true},
		{"America/Halifax", "2027-11-07T01:15", "2027-11-07T04:15:00Z", true},
		{"", "2027-10-31T02:30", "2027-10-31T02:30:00Z", false},
		{"Europe/Oslo", "2027-01-12T07:00:00+05:00", "2027-01-12T02:00:00Z", false}, // as older files have it
	} {
		got, err := c.local.In(in(t, c.zone))
		if err != nil {
			t.Errorf("%s in %s: %v", c.local, c.zone, err)
			continue
		}
		if utc := got.At.UTC().Format(time.RFC3339); utc != c.utc || (got.Note != "") != c.noted {
			t.Errorf("%s in %q is %s (%q), want %s", c.local, c.zone, utc, got.Note, c.utc)
		}
	}
	for _, bad := range []Local{"", "tomorrow", "2027-02-30T08:00", "2027-01-12"} {
		if _, err := bad.In(time.UTC); err == nil {
			t.Errorf("%q is read", bad)
		} else if e, ok := errors.AsType[*TimeError](err); !ok || e.Field != "/start" || e.Way == "" {
			t.Errorf("%q: %v", bad, err)
		}
	}
	for _, bad := range []string{"Middle/Earth", "Local", "../etc/passwd"} {
		if _, err := (Job{Zone: bad}).Place(); err == nil {
			t.Errorf("%q is a zone", bad)
		}
	}
}

// A night shift over the change of the clock: 22:00 to 06:00 is eight hours on the
// clock, seven in spring and nine in autumn.
func TestAShiftOverTheChangeOfTheClock(t *testing.T) {
	night := Hours{Days: []Weekday{Saturday, Monday}, From: "22:00", Until: "06:00", Breaks: []Break{{"01:00", "01:30"}}}
	if bad := night.Check(); bad != nil {
		t.Fatal(bad)
	}
	if night.Work() != 7.5*measure.Hour {
		t.Errorf("%v s of work", night.Work())
	}
	oslo := in(t, "Europe/Oslo")
	for _, c := range []struct {
		month time.Month
		day   int
		hours float64
		works bool
	}{{time.March, 27, 7, true}, {time.October, 30, 9, true}, {time.October, 23, 8, true}, {time.October, 24, 8, false}} {
		from, until, works := night.Shift(2027, c.month, c.day, oslo)
		if got := until.Sub(from).Hours(); got != c.hours || works != c.works {
			t.Errorf("the night of %d %s lasts %v h, works %v", c.day, c.month, got, works)
		}
	}
	// Sunday 03:30 belongs to Saturday's shift, Monday 05:00 to nobody's.
	open := func(text string) bool {
		at, err := time.ParseInLocation(localMinute, text, oslo)
		if err != nil {
			t.Fatal(err)
		}
		return night.Open(at)
	}
	for text, want := range map[string]bool{"2027-10-31T03:30": true, "2027-10-31T06:00": false, "2027-11-01T05:00": false,
		"2027-11-01T22:00": true, "2027-11-02T05:59": true} {
		if open(text) != want {
			t.Errorf("open at %s: %v", text, !want)
		}
	}
}

func TestHoursThatCannotBe(t *testing.T) {
	if bad := UsualHours().Check(); bad != nil {
		t.Error(bad)
	}
	if w := UsualHours().Words(measure.Metric); w != "Mon–Fri 07:00–16:00" {
		t.Errorf("usual: %s", w)
	}
	odd := Hours{Days: []Weekday{Sunday, Monday, Tuesday, Thursday}, From: "06:00", Until: "14:00"}
	if w := odd.Words(measure.Metric); w != "Mon–Tue, Thu, Sun 06:00–14:00" {
		t.Errorf("odd: %s", w)
	}
	for name, h := range map[string]Hours{
		"no times":      {Days: []Weekday{Monday}},
		"break outside": {Days: []Weekday{Monday}, From: "07:00", Until: "12:00", Breaks: []Break{{"12:30", "13:00"}}},
		"break turned":  {Days: []Weekday{Monday}, From: "07:00", Until: "16:00", Breaks: []Break{{"13:00", "12:00"}}},
		"breaks mixed": {Days: []Weekday{Monday}, From: "07:00", Until: "16:00",
			Breaks: []Break{{"13:00", "13:30"}, {"09:00", "09:15"}}},
	} {
		if bad := h.Check(); bad == nil || bad.Way == "" {
			t.Errorf("%s: %v", name, bad)
		}
	}
}

// The last stretch of work before an instant lies at the end of a shift, or ends at that instant; it is never at
// night, and a weekend is gone over. By hand, for 07:00 to 16:00 on weekdays; 1 March 2027 is a Monday.
func TestTheLastWorkBefore(t *testing.T) {
	hours := UsualHours()
	at := func(day, hour, minute int) time.Time { return time.Date(2027, 3, day, hour, minute, 0, 0, time.UTC) }
	for _, k := range []struct{ before, from, until time.Time }{
		{at(2, 19, 0), at(2, 15, 20), at(2, 16, 0)},
		{at(2, 3, 10), at(1, 15, 20), at(1, 16, 0)},
		{at(7, 19, 0), at(5, 15, 20), at(5, 16, 0)},
		{at(3, 10, 0), at(3, 9, 20), at(3, 10, 0)},
		{at(3, 7, 10), at(2, 15, 20), at(2, 16, 0)}, // ten minutes of a day are not enough
	} {
		from, until, found := hours.Before(k.before, 40*measure.Minute)
		if !found || !from.Equal(k.from) || !until.Equal(k.until) {
			t.Errorf("before %v: %v to %v", k.before, from, until)
		}
	}
	from, until, _ := hours.Before(at(2, 19, 0), 30*measure.Hour)
	if !from.Equal(at(2, 7, 0)) || !until.Equal(at(2, 16, 0)) {
		t.Errorf("more than a shift: %v to %v", from, until)
	}
	if _, _, found := (Hours{}).Before(at(2, 19, 0), measure.Hour); found {
		t.Error("nobody works, and a time is found")
	}
}

// Work is counted back through shifts, without their breaks, nights and weekends. By hand, for 07:00 to 16:00 on
// weekdays with half an hour at noon; 1 March 2027 is a Monday.
func TestWorkIsCountedBack(t *testing.T) {
	at := func(day, hour, minute int) time.Time { return time.Date(2027, 3, day, hour, minute, 0, 0, time.UTC) }
	for _, k := range []struct {
		before time.Time
		long   measure.Span
		begins time.Time
	}{
		{at(3, 10, 0), 2 * measure.Hour, at(3, 8, 0)},
		{at(3, 14, 0), 2 * measure.Hour, at(3, 11, 30)},   // over noon
		{at(3, 12, 15), 1 * measure.Hour, at(3, 11, 0)},   // until the break
		{at(3, 8, 0), 90 * measure.Minute, at(2, 15, 30)}, // over night
		{at(8, 7, 0), 17 * measure.Hour, at(4, 7, 0)},     // two whole shifts before the weekend
		{at(3, 10, 0), 0, at(3, 10, 0)},
	} {
		if got := UsualHours().Back(k.before, k.long); !got.Equal(k.begins) {
			t.Errorf("%v of work before %v begins %v, by hand %v", k.long, k.before, got, k.begins)
		}
	}
	night := Hours{Days: []Weekday{Monday, Tuesday}, From: "20:00", Until: "04:00"}
	if got := night.Back(at(3, 2, 0), 7*measure.Hour); !got.Equal(at(2, 3, 0)) {
		t.Errorf("by night: %v", got)
	}
	if got := (Hours{}).Back(at(3, 10, 0), measure.Hour); !got.Equal(at(3, 9, 0)) {
		t.Errorf("nobody works: %v", got)
	}
}
