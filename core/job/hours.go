package job

import (
	"cmp"
	"fmt"
	"slices"
	"time"

	"nephelon/core/measure"
)

// Local is a time by the clock on site, such as 2026-11-30T07:00. Files from
// before a job had a time zone hold an offset behind it, which fixes the instant.
type Local string

// The forms of a local time.
const (
	localMinute = "2006-01-02T15:04"
	localSecond = "2006-01-02T15:04:05"
)

// TimeError says why a time or a zone of a job cannot be.
type TimeError struct {
	Field string // JSON Pointer inside the job
	Text  string
	Way   string
}

func (e *TimeError) Error() string { return e.Text + " " + e.Way }

// The years of which times are planned.
const (
	firstYear = 1970
	lastYear  = 2399
)

// CheckYear returns an error for a time outside the years that can be planned.
func CheckYear(at time.Time) error {
	if y := at.Year(); y < firstYear || y > lastYear {
		return fmt.Errorf("the year %d cannot be planned; enter one from %d to %d", y, firstYear, lastYear)
	}
	return nil
}

// Reading is an instant as it was read off a clock on site.
type Reading struct {
	At   time.Time
	Note string // where the clock was being changed: which of its hours is meant
}

// In is the instant at which a clock in a zone shows the time. In the night in
// which the clock is put back an hour comes twice: the first is taken. In the one
// in which it is put forward an hour is missing: the time is read as if it had
// not been changed yet. Both are noted.
func (l Local) In(zone *time.Location) (Reading, error) {
	r, err := l.read(zone)
	if err == nil && CheckYear(r.At) != nil {
		return Reading{}, &TimeError{"/start", fmt.Sprintf("The year of “%s” cannot be planned.", string(l)),
			fmt.Sprintf("Enter a year from %d to %d.", firstYear, lastYear)}
	}
	return r, err
}

func (l Local) read(zone *time.Location) (Reading, error) {
	if t, err := time.Parse(time.RFC3339Nano, string(l)); err == nil {
		if zone == time.UTC {
			return Reading{At: t}, nil // as the file has it, offset and all
		}
		return Reading{At: t.In(zone)}, nil
	}
	wall, err := time.Parse(localMinute, string(l))
	if err != nil {
		wall, err = time.Parse(localSecond, string(l))
	}
	if err != nil {
		return Reading{}, &TimeError{"/start", fmt.Sprintf("“%s” is not a day and a time.", string(l)),
			"Write it like 2026-11-30T07:00."}
	}
	return shown(wall, zone), nil
}

// shown is the instant at which a clock in a zone shows what a clock in UTC shows at wall.
func shown(wall time.Time, zone *time.Location) Reading {
	shows := func(offset int) (time.Time, bool) {
		t := wall.Add(-time.Duration(offset) * time.Second).In(zone)
		_, is := t.Zone()
		return t, is == offset
	}
	guess := time.Date(wall.Year(), wall.Month(), wall.Day(), wall.Hour(), wall.Minute(), wall.Second(), 0, zone)
	_, before := guess.Add(-24 * time.Hour).Zone()
	_, after := guess.Add(24 * time.Hour).Zone()
	first, once := shows(before)
	second, again := shows(after)
	switch {
	case once && again && !first.Equal(second):
		return Reading{first, fmt.Sprintf("%s comes twice that night, since the clock is put back; the first is meant.",
			wall.Format("15:04"))}
	case once:
		return Reading{At: first}
	case again:
		return Reading{At: second}
	}
	return Reading{first, fmt.Sprintf("The clock does not show %s that night, since it is put forward; %s is meant.",
		wall.Format("15:04"), first.Format("15:04"))}
}

// In returns the file with a time zone where its job names none.
func (f File) In(zone string) File {
	f.Job.Zone = cmp.Or(f.Job.Zone, zone)
	return f
}

// Place is the job's time zone, UTC where none is named.
func (j Job) Place() (*time.Location, error) {
	zone, err := time.LoadLocation(j.Zone)
	if err != nil || j.Zone == "Local" {
		return time.UTC, &TimeError{"/zone", fmt.Sprintf("“%s” is not a time zone.", j.Zone),
			"Name it as IANA does, such as Europe/Oslo or America/Halifax."}
	}
	return zone, nil
}

// Weekday is a day of the week, as mon to sun.
type Weekday string

// The days of the week.
const (
	Monday    Weekday = "mon"
	Tuesday   Weekday = "tue"
	Wednesday Weekday = "wed"
	Thursday  Weekday = "thu"
	Friday    Weekday = "fri"
	Saturday  Weekday = "sat"
	Sunday    Weekday = "sun"
)

func weekday(d time.Weekday) Weekday {
	return [...]Weekday{Sunday, Monday, Tuesday, Wednesday, Thursday, Friday, Saturday}[d]
}

// Clock is a time of day, as 07:00.
type Clock string

// minutes since midnight; false where it is no time of day.
func (c Clock) minutes() (int, bool) {
	t, err := time.Parse("15:04", string(c))
	return t.Hour()*60 + t.Minute(), err == nil
}

// In returns the time of day as somebody reads it; as it is where it is none.
func (c Clock) In(units measure.System) string {
	t, err := time.Parse("15:04", string(c))
	if err != nil {
		return string(c)
	}
	return units.Time(t, "15:04")
}

// Break is a rest within a shift.
type Break struct {
	From  Clock `json:"from" pattern:"^([01][0-9]|2[0-3]):[0-5][0-9]$"`
	Until Clock `json:"until" pattern:"^([01][0-9]|2[0-3]):[0-5][0-9]$"`
}

// On returns when the break lies on the day of a time; it may end on the next.
func (b Break) On(day time.Time) (from, until time.Time) {
	at := func(c Clock) time.Time {
		minutes, _ := c.minutes()
		return time.Date(day.Year(), day.Month(), day.Day(), 0, minutes, 0, 0, day.Location())
	}
	from, until = at(b.From), at(b.Until)
	if !until.After(from) {
		until = until.AddDate(0, 0, 1)
	}
	return from, until
}

// Hours holds when people work. A shift whose end is not after its start runs into
// the next day.
type Hours struct {
	Days   []Weekday `json:"days" minItems:"1" maxItems:"7"`
	From   Clock     `json:"from" pattern:"^([01][0-9]|2[0-3]):[0-5][0-9]$" doc:"From, by the clock on site"`
	Until  Clock     `json:"until" pattern:"^([01][0-9]|2[0-3]):[0-5][0-9]$"`
	Breaks []Break   `json:"breaks,omitempty" maxItems:"6"`
}

// UsualHours stand in where nobody said: common practice, no source.
func UsualHours() Hours {
	return Hours{
		Days: []Weekday{Monday, Tuesday, Wednesday, Thursday, Friday},
		From: "07:00", Until: "16:00", Breaks: []Break{{"12:00", "12:30"}},
	}
}

// Check names what the hours cannot be, or nil. Field is relative to the hours.
func (h Hours) Check() *TimeError {
	from, okFrom := h.From.minutes()
	until, okUntil := h.Until.minutes()
	if !okFrom || !okUntil {
		return &TimeError{"/from", "The shift has no start or no end.", "Write them like 07:00 and 16:00."}
	}
	length := shiftLength(from, until)
	before := 0
	for i, b := range h.Breaks {
		start, okStart := b.From.minutes()
		end, okEnd := b.Until.minutes()
		start, end = (start-from+day)%day, (end-from+day)%day
		if !okStart || !okEnd || start >= end || end > length || start < before {
			return &TimeError{fmt.Sprintf("/breaks/%d", i),
				fmt.Sprintf("The break from %s to %s is not within the shift, after the one before.", b.From, b.Until),
				"Order the breaks, each inside the shift."}
		}
		before = end
	}
	if h.Work() <= 0 {
		return &TimeError{"/breaks", "The breaks leave no time to work.", "Shorten them, or take one out."}
	}
	return nil
}

// Overnight reports whether the shift ends on the day after it begins.
func (h Hours) Overnight() bool {
	from, _ := h.From.minutes()
	until, _ := h.Until.minutes()
	return until <= from
}

const day = 24 * 60 // minutes

func shiftLength(from, until int) int {
	if until <= from {
		until += day
	}
	return until - from
}

// Work returns how long a shift is, its breaks left out, on a day on which the clock
// is not changed.
func (h Hours) Work() measure.Span {
	from, _ := h.From.minutes()
	until, _ := h.Until.minutes()
	minutes := shiftLength(from, until)
	for _, b := range h.Breaks {
		start, _ := b.From.minutes()
		end, _ := b.Until.minutes()
		minutes -= (end - start + day) % day
	}
	return measure.Span(minutes) * measure.Minute
}

// Shift is the working time that begins on a day, as instants, and whether
// anybody works then. Over a change of the clock it is an hour longer or shorter
// than the clock says.
func (h Hours) Shift(year int, month time.Month, date int, zone *time.Location) (from, until time.Time, works bool) {
	start, _ := h.From.minutes()
	end, _ := h.Until.minutes()
	on := time.Date(year, month, date, 12, 0, 0, 0, time.UTC)
	at := func(d time.Time, minutes int) time.Time {
		return shown(time.Date(d.Year(), d.Month(), d.Day(), 0, minutes, 0, 0, time.UTC), zone).At
	}
	last := on
	if end <= start {
		last = on.AddDate(0, 0, 1)
	}
	return at(on, start), at(last, end), slices.Contains(h.Days, weekday(on.Weekday()))
}

// Open reports whether people work at an instant, breaks counting as work.
func (h Hours) Open(t time.Time) bool {
	_, open := h.Closes(t)
	return open
}

// Closes returns when the shift ends in which people work at an instant, and whether they do.
func (h Hours) Closes(t time.Time) (time.Time, bool) {
	_, until, open := h.Around(t)
	return until, open
}

// Around returns the shift in which people work at an instant, and whether they do.
func (h Hours) Around(t time.Time) (from, until time.Time, open bool) {
	for _, back := range []int{0, -1} {
		d := t.AddDate(0, 0, back)
		from, until, works := h.Shift(d.Year(), d.Month(), d.Day(), t.Location())
		if works && !t.Before(from) && t.Before(until) {
			return from, until, true
		}
	}
	return time.Time{}, time.Time{}, false
}

// Next returns when people next work: the instant itself where they do, else the beginning of
// the shift after it.
func (h Hours) Next(t time.Time) time.Time {
	if h.Open(t) {
		return t
	}
	return h.Begins(t)
}

// Before returns the last stretch of work so long that ends by an instant, at the end of a shift or at
// that instant: at the longest a whole shift. False where nobody works in the week before.
func (h Hours) Before(t time.Time, long measure.Span) (from, until time.Time, found bool) {
	const back = 8 // some day of a week is worked
	for n := range back {
		d := t.AddDate(0, 0, -n)
		start, end, works := h.Shift(d.Year(), d.Month(), d.Day(), t.Location())
		if !works || !start.Before(t) {
			continue
		}
		if end.After(t) {
			end = t
		}
		if from = (-long).After(end); from.Before(start) {
			if n == 0 && end.Equal(t) {
				continue // the day has only begun: the one before
			}
			from = start
		}
		return from, end, true
	}
	return from, until, false
}

// Back returns when work so long has to begin to end by an instant, done in shifts and not in their breaks:
// the instant itself less the work where nobody works in the weeks before.
func (h Hours) Back(t time.Time, long measure.Span) time.Time {
	const days = 120
	at, left := t, long
	for n := 0; n < days && left > 0; n++ {
		d := t.AddDate(0, 0, -n)
		from, until, works := h.Shift(d.Year(), d.Month(), d.Day(), t.Location())
		if !works || !from.Before(t) {
			continue
		}
		stretches := [][2]time.Time{{from, until}}
		for _, rest := range h.Rests(from) {
			last := len(stretches) - 1
			stretches = append(stretches, [2]time.Time{rest[1], stretches[last][1]})
			stretches[last][1] = rest[0]
		}
		for _, s := range slices.Backward(stretches) {
			if s[1].After(t) {
				s[1] = t
			}
			worked := min(left, measure.Span(s[1].Sub(s[0]).Seconds()))
			if worked <= 0 {
				continue
			}
			at, left = (-worked).After(s[1]), left-worked
		}
	}
	if left > 0 {
		return (-long).After(t)
	}
	return at
}

// Begins is the beginning of the first shift after an instant.
func (h Hours) Begins(t time.Time) time.Time {
	const ahead = 8 // some day of a week is worked
	for n := range ahead {
		d := t.AddDate(0, 0, n)
		if from, _, works := h.Shift(d.Year(), d.Month(), d.Day(), t.Location()); works && from.After(t) {
			return from
		}
	}
	return t
}

// Rests are the breaks of the shift in which people work at an instant, as instants; none
// where nobody works then.
func (h Hours) Rests(t time.Time) [][2]time.Time {
	until, open := h.Closes(t)
	if !open {
		return nil
	}
	end, _ := h.Until.minutes()
	rests := make([][2]time.Time, len(h.Breaks))
	for i, b := range h.Breaks {
		before := func(c Clock) time.Time {
			minutes, _ := c.minutes()
			return until.Add(-time.Duration((end-minutes+2*day)%day) * time.Minute)
		}
		rests[i] = [2]time.Time{before(b.From), before(b.Until)}
	}
	return rests
}

// Words returns the hours in a line.
func (h Hours) Words(units measure.System) string {
	names := map[Weekday]string{Monday: "Mon", Tuesday: "Tue", Wednesday: "Wed", Thursday: "Thu", Friday: "Fri",
		Saturday: "Sat", Sunday: "Sun"}
	order := []Weekday{Monday, Tuesday, Wednesday, Thursday, Friday, Saturday, Sunday}
	text := ""
	for i := 0; i < len(order); i++ {
		if !slices.Contains(h.Days, order[i]) {
			continue
		}
		last := i
		for last+1 < len(order) && slices.Contains(h.Days, order[last+1]) {
			last++
		}
		if text != "" {
			text += ", "
		}
		text += names[order[i]]
		if last > i {
			text += "–" + names[order[last]]
		}
		i = last
	}
	return fmt.Sprintf("%s %s–%s", text, h.From.In(units), h.Until.In(units))
}

// Values returns all values, in the order in which they are shown.
func (Weekday) Values() []Weekday {
	return []Weekday{Monday, Tuesday, Wednesday, Thursday, Friday, Saturday, Sunday}
}
