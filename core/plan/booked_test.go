package plan

import (
	"context"
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"nephelon/core/facts"
	"nephelon/core/job"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/plan/stage"
	"nephelon/core/record"
	"nephelon/core/survey"
	"nephelon/core/work"
)

// workingHours are those of an end of a shift, or of a whole stretch of one, on a weekday.
var workingHours = regexp.MustCompile(`(Mon|Tue|Wed|Thu|Fri) (0[7-9]|1[0-5]):\d\d to (0[7-9]|1[0-6]):\d\d`)

// booked books the pours of a job one after the other, each on its own day and hour.
func booked(f job.File, random *rand.Rand) []facts.Booking {
	var all []facts.Booking
	day := noon().AddDate(0, 0, 3)
	for _, s := range f.Job.Surfaces {
		for _, c := range s.Coats {
			from := day.Add(time.Duration(random.IntN(36)) * 10 * time.Minute)
			one := facts.Booking{Task: string(work.PourID(c.ID)), From: from, Until: from.Add(5 * time.Hour)}
			if random.IntN(2) == 0 {
				one.Ready = &facts.Window{From: from.Add(-20 * time.Hour), Until: from.Add(-19 * time.Hour)}
			}
			all = append(all, one)
			day = day.AddDate(0, 0, 1+random.IntN(2))
		}
	}
	return all
}

// Over all jobs of the demo and random bookings every time of the plan, of what is issued and of the pour rests on
// the booking: the first kit is opened when the crew begins, every later time follows, and no two name another
// for the same thing. A booking of another job changes nothing.
func TestBookingsSetTheClock(t *testing.T) {
	random := rand.New(rand.NewPCG(25, 1))
	coats := 0
	for _, name := range []string{"baggage-hall", "lamp-room", "settling-basin", "seal-nursery", "oyster-bar"} {
		f := demo(t, name)
		bookings := booked(f, random)
		world := facts.Facts{Now: noon(), Bookings: bookings}
		zone, err := f.Job.Place()
		if err != nil {
			t.Fatal(err)
		}
		at := make(map[string]facts.Booking)
		for _, b := range bookings {
			at[b.Task] = b
		}
		p := NewPlanner()
		made, err := p.MakeFor(context.Background(), f, world, measure.Metric)
		if err != nil {
			t.Fatal(err)
		}
		issued, err := p.Issue(context.Background(), f, world, measure.Metric, "")
		if err != nil && !errors.Is(err, ErrNothingToIssue) {
			t.Fatal(err)
		}
		handed := make(map[string]record.Coat)
		for _, c := range issued.Coats {
			handed[c.ID] = c
		}
		for _, s := range made.Surfaces {
			for _, c := range s.Coats {
				b := at[string(work.PourID(c.ID))]
				if c.Train == nil {
					continue
				}
				coats++
				if text, want := c.Ahead[0], measure.Metric.Time(b.From.Add(-20*time.Hour).In(zone), "Mon 15:04"); b.Ready != nil &&
					!strings.Contains(text, want) || b.Ready == nil && !workingHours.MatchString(text) {
					t.Errorf("%s, %s: booked for %v, made ready: %s", name, c.Name, b.From, text)
				}
				leads := c.Times.Start.Sub(b.From)
				if c.Times.Basis != facts.Booked || !c.Times.Begins.Equal(b.From) ||
					math.Abs(float64(-c.Train.Begins-measure.Span(leads.Seconds()))) > 1 {
					t.Errorf("%s, %s: booked for %v, begins %v, first poured %v, by %s", name, c.Name, b.From, c.Times.Begins,
						c.Times.Start, c.Times.Basis)
				}
				if c.Times.End.Before(b.Until) || c.Times.End.Before(c.Train.Ends.After(*c.Times.Start)) {
					t.Errorf("%s, %s: counts as laid from %v, booked until %v", name, c.Name, c.Times.End, b.Until)
				}
				if card := c.Cards[0]; card.Meets != nil && (card.Meets.Before(b.From) ||
					card.Meets.Sub(c.Train.Passages[0].Meets.After(*c.Times.Start)).Abs() > time.Second) {
					t.Errorf("%s, %s: the card has A meet B at %v, the train at %v of %v", name, c.Name, card.Meets,
						c.Train.Passages[0].Meets, c.Times.Start)
				}
				if h := handed[c.ID]; !h.Start.Equal(*c.Times.Start) {
					t.Errorf("%s, %s: handed out for %v, planned for %v", name, c.Name, h.Start, c.Times.Start)
				}
				if poured, err := p.Pour(context.Background(), f, world, measure.Metric, c.ID, 0); err != nil ||
					!poured.Start.Equal(*c.Times.Start) || poured.Run.Ends != c.Train.Ends {
					t.Errorf("%s, %s: the pour begins %v, %v", name, c.Name, poured.Start, err)
				}
			}
		}
	}
	if coats < 12 {
		t.Errorf("%d coats are booked", coats)
	}
}

// What is not booked is proposed after what is; the start of the work is not before then. A coat that is booked before
// the film below takes it, and one whose pour takes longer than it is booked, are told.
func TestBookingsThatDoNotFitAreTold(t *testing.T) {
	f := laidJob(t, demoShelf(t), coat("keelbody-100", 300), coat("keelbody-100", 300))
	starting(&f, noon())
	pour := func(n int, from time.Time, lasts time.Duration) facts.Booking {
		return facts.Booking{Task: string(work.PourID(f.Job.Surfaces[0].Coats[n].ID)), From: from, Until: from.Add(lasts)}
	}
	made := func(bookings ...facts.Booking) Plan {
		p, err := NewPlanner().MakeFor(context.Background(), f, facts.Facts{Now: noon(), Bookings: bookings}, measure.Metric)
		if err != nil {
			t.Fatal(err)
		}
		return p
	}
	says := func(p Plan, words string) bool {
		for _, text := range texts(p.Findings) {
			if strings.Contains(text, words) {
				return true
			}
		}
		return false
	}
	day := noon().AddDate(0, 0, 2)
	p := made(pour(0, day, 4*time.Hour))
	first, second := p.Surfaces[0].Coats[0].Times, p.Surfaces[0].Coats[1].Times
	if first.Basis != facts.Booked || second.Basis != facts.Proposed || !second.Start.After(*first.End) ||
		says(p, "is booked") {
		t.Errorf("%s %v, %s %v: %v", first.Basis, first.Start, second.Basis, second.Start, texts(p.Findings))
	}
	if p := made(pour(0, day, 4*time.Hour), pour(1, day.Add(5*time.Hour), 4*time.Hour)); !says(p, "coat 2 is booked for") {
		t.Errorf("booked on a fresh film: %v", texts(p.Findings))
	}
	if p := made(pour(0, day, 20*time.Minute)); !says(p, "coat 1 is booked from") {
		t.Errorf("booked for too short: %v", texts(p.Findings))
	}
	f.Job.Start = ""
	if p := made(pour(0, day, 4*time.Hour)); !p.Surfaces[0].Coats[0].Times.Begins.Equal(day) {
		t.Errorf("without a start of the work it begins %v", p.Surfaces[0].Coats[0].Times.Begins)
	}
}

// What was logged rules over what was booked: a coat that began two hours late and ended so gives its film, and what is
// not booked yet, later times; one under way ends as its train does from when it began. A booking that is past
// with nothing logged asks whether it was done.
func TestWhatWasLoggedRules(t *testing.T) {
	f := laidJob(t, demoShelf(t), coat("keelbody-100", 300), coat("keelbody-100", 300))
	coats := f.Job.Surfaces[0].Coats
	day := noon().AddDate(0, 0, -2)
	booking := facts.Booking{Task: string(work.PourID(coats[0].ID)), From: day, Until: day.Add(4 * time.Hour)}
	made := func(logged ...facts.Laid) (Plan, [2]*stage.CoatTimes) {
		p, err := NewPlanner().MakeFor(context.Background(), f,
			facts.Facts{Now: noon(), Bookings: []facts.Booking{booking}, Logged: logged}, measure.Metric)
		if err != nil {
			t.Fatal(err)
		}
		return p, [2]*stage.CoatTimes{p.Surfaces[0].Coats[0].Times, p.Surfaces[0].Coats[1].Times}
	}
	asks := func(p Plan) bool {
		for _, text := range texts(p.Findings) {
			if strings.Contains(text, "Was it done?") {
				return true
			}
		}
		return false
	}
	unsaid, before := made()
	if !asks(unsaid) || before[0].Basis != facts.Booked {
		t.Errorf("%s: %v", before[0].Basis, texts(unsaid.Findings))
	}
	booking.Done = true
	if said, _ := made(); asks(said) {
		t.Error("somebody said that it was done, and it is asked again")
	}
	booking.Done = false
	began, ended := day.Add(2*time.Hour), day.Add(7*time.Hour)
	done, late := made(facts.Laid{Coat: coats[0].ID, From: began, Until: &ended})
	if asks(done) || late[0].Basis != facts.Logged || !late[0].Start.Equal(began) || !late[0].End.Equal(ended) {
		t.Errorf("done: %s from %v until %v", late[0].Basis, late[0].Start, late[0].End)
	}
	if before, now := unsaid.Summary(f).Standing, done.Summary(f).Standing; before == OnSite || now != OnSite {
		t.Errorf("stands as %s before anything is logged and as %s then", before, now)
	}
	opens := func(c *stage.CoatTimes) time.Time { return *c.Stage(material.StageRecoatFrom).At }
	if moved := opens(late[0]).Sub(opens(before[0])); moved != ended.Sub(*before[0].End) {
		t.Errorf("the window opens %v later, want %v", moved, ended.Sub(*before[0].End))
	}
	closes := func(c *stage.CoatTimes) time.Time { return *c.Stage(material.StageRecoatUntil).At }
	if moved := closes(late[0]).Sub(closes(before[0])); moved != began.Sub(*before[0].Start) {
		t.Errorf("the window closes %v later, want %v", moved, began.Sub(*before[0].Start))
	}
	if late[1].Basis != facts.Proposed || late[1].Start.Before(opens(late[0])) {
		t.Errorf("coat 2 is %s for %v, its window opens %v", late[1].Basis, late[1].Start, opens(late[0]))
	}
	_, half := made(facts.Laid{Coat: coats[0].ID, From: began})
	if run := half[0].Spread.After(began); !half[0].End.Equal(run) {
		t.Errorf("under way it ends %v, its train %v", half[0].End, run)
	}
}

// A rinse whose booking is over makes what was read before it void; one that is still to come does not.
func TestABookedRinseMakesReadingsVoid(t *testing.T) {
	f := laidJob(t, demoShelf(t), coat("keelbody-100", 300))
	s := &f.Job.Surfaces[0]
	s.Survey = &survey.Survey{Substrate: survey.Concrete, Readings: []survey.Reading{
		{ID: "r", Kind: survey.SlabHumidity, Value: 0.6, At: noon().Add(-3 * time.Hour)}}}
	void := func(until time.Time) bool {
		rinse := facts.Booking{Task: string(work.PrepareID(s.ID, "rinse")), From: until.Add(-time.Hour), Until: until}
		p, err := NewPlanner().MakeFor(context.Background(), f, facts.Facts{Now: noon(), Bookings: []facts.Booking{rinse}},
			measure.Metric)
		if err != nil {
			t.Fatal(err)
		}
		return slices.ContainsFunc(p.Surfaces[0].Survey.Verdicts, func(v survey.Verdict) bool { return v.ID == "wetted" })
	}
	if !void(noon().Add(-time.Hour)) {
		t.Error("a rinse after the reading changes nothing")
	}
	if void(noon().Add(time.Hour)) || void(noon().Add(-4*time.Hour)) {
		t.Error("a rinse to come, or before the reading, makes it void")
	}
}

// The people of a pour have the names of the crew that is booked for it, the mixer first, unless the job names its own
// or that crew has too few; who they are changes nothing else.
func TestTheBookedCrewIsNamed(t *testing.T) {
	f := demo(t, "lamp-room")
	f.Job.Crew.Team = nil
	coat := f.Job.Surfaces[0].Coats[0]
	from := noon().Add(24 * time.Hour)
	p := NewPlanner()
	planned := func(f job.File, people ...string) CoatPlan {
		t.Helper()
		made, err := p.MakeFor(context.Background(), f, facts.Facts{Now: noon(), Bookings: []facts.Booking{{
			Task: string(work.PourID(coat.ID)), From: from, Until: from.Add(3 * time.Hour), Crew: "Skerry crew",
			People: people}}}, measure.Metric)
		if err != nil {
			t.Fatal(err)
		}
		return made.Surfaces[0].Coats[0]
	}
	names := func(c CoatPlan) string {
		var all []string
		for _, person := range c.Crew {
			all = append(all, person.Name)
		}
		return strings.Join(all, ", ")
	}
	plain := planned(f)
	need := len(plain.Crew)
	crew := []string{"Tess", "Bo", "Ketil", "Ylva", "Oda", "Per", "Nils", "Siv"}[:need]
	named := planned(f, crew...)
	if names(named) != strings.Join(crew, ", ") || !named.Crew[0].Plays(work.Mixer) || named.Booked != "Skerry crew" ||
		named.Train.Ends != plain.Train.Ends {
		t.Errorf("%s, booked %q", names(named), named.Booked)
	}
	again := planned(f, append([]string{"Runa"}, crew[1:]...)...)
	if names(again) != "Runa, "+strings.Join(crew[1:], ", ") {
		t.Errorf("another crew: %s", names(again))
	}
	if few := planned(f, crew[1:]...); names(few) != names(plain) {
		t.Errorf("one too few: %s", names(few))
	}
	f.Job.Crew.Team = append([]work.Person{}, plain.Crew...)
	f.Job.Crew.Team[0].Name = "Eskil"
	if own := planned(f, crew...); own.Crew[0].Name != "Eskil" {
		t.Errorf("the job names its own: %s", names(own))
	}
}

// A film that dries and was read thicker than planned takes longer to what begins, by the square, and no longer to
// what ends; one that only reacts keeps its times. By hand, at 20 °C: 5 h at 1.5 times the film are 11.25 h, at five
// times no more than four times as long.
func TestAThickFilmDriesLonger(t *testing.T) {
	f := laidJob(t, demoShelf(t), coat("firstlight-lb", 150), coat("keelbody-100", 900), coat("gullwing-ur", 100))
	for n := range f.Job.Surfaces[0].Coats {
		f.Job.Surfaces[0].Coats[n].ID = fmt.Sprint("c", n+1)
	}
	from := noon().Add(-24 * time.Hour)
	until := from.Add(time.Hour)
	made := func(coat string, thick float64) Plan {
		p, err := NewPlanner().MakeFor(context.Background(), f, facts.Facts{Now: noon(),
			Logged: []facts.Laid{{Coat: coat, From: from, Until: &until, Thick: thick}}}, measure.Metric)
		if err != nil {
			t.Fatal(err)
		}
		return p
	}
	span := func(p Plan, n int, key material.StageKey) float64 {
		return float64(p.Surfaces[0].Coats[n].Times.Stage(key).After / measure.Hour)
	}
	for _, k := range []struct {
		thick, hours float64
		told         bool
	}{{0, 5, false}, {1.5, 11.25, true}, {5, 20, true}} {
		p := made("c1", k.thick)
		if got := span(p, 0, material.StageRecoatFrom); math.Abs(got-k.hours) > 1e-6 {
			t.Errorf("%g times as thick: recoat from %g h, by hand %g", k.thick, got, k.hours)
		}
		if (saying(p, "as thick as planned") != nil) != k.told {
			t.Errorf("%g times as thick: told %v", k.thick, !k.told)
		}
		if next := p.Surfaces[0].Coats[1].Times; next.Start.Before(until.Add(time.Duration(k.hours * float64(time.Hour)))) {
			t.Errorf("%g times as thick: the next is poured %v", k.thick, next.Start)
		}
	}
	thin, thick := made("c3", 1), made("c3", 1.5)
	for _, key := range []material.StageKey{material.StageWorking, material.StageRecoatUntil} {
		if span(thick, 2, key) != span(thin, 2, key) {
			t.Errorf("%s is put off by a thick film", key)
		}
	}
	if thin, thick := made("c2", 1), made("c2", 1.5); span(thick, 1, material.StageRecoatFrom) !=
		span(thin, 1, material.StageRecoatFrom) || saying(thick, "as thick as planned") != nil {
		t.Error("a film that only reacts is put off by its thickness")
	}
}
