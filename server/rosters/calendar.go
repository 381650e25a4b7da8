package rosters

import (
	"bytes"
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/base64"
	"encoding/hex"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"time"

	"nephelon/server/api"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"nephelon/core/days"
	"nephelon/core/job"
	"nephelon/core/record/wait"
	"nephelon/exchange"
	"nephelon/store"
)

// CalendarAddress is a private address at which days are read.
type CalendarAddress struct {
	ID     uuid.UUID `json:"id" format:"uuid"`
	Crew   string    `json:"crew,omitempty" doc:"Without a person, too, everybody's"`
	Person string    `json:"person,omitempty" doc:"Name of a person, in whichever crew"`
	MadeBy string    `json:"madeBy"`
	MadeAt time.Time `json:"madeAt"`
	Path   string    `json:"path,omitempty" doc:"Told once, when it is made"`
}

// secretBytes is the length of an address's secret.
const secretBytes = 24

// calendarBytes bounds a calendar that is read.
const calendarBytes = 5 << 20

// calendarEnds are between which times a calendar is read, from now.
const (
	calendarBack  = 7 * 24 * time.Hour
	calendarAhead = 52 * 7 * 24 * time.Hour
)

func (s *Service) calendarRoutes() {
	api.Register(s.API, huma.Operation{OperationID: "calendarAddresses", Summary: "List calendar subscriptions",
		Method: http.MethodGet,
		Path:   "/api/calendar-addresses", Description: "The private addresses at which days are read"},
		func(ctx context.Context, _ *struct{}) (*api.Body[[]CalendarAddress], error) {
			links, err := s.store.CalendarLinks(ctx, api.Person(ctx).CompanyID)
			if err != nil {
				return nil, s.Fail(ctx, "list calendar addresses", err)
			}
			all := make([]CalendarAddress, len(links))
			for i, l := range links {
				all[i] = CalendarAddress{ID: l.ID, Crew: l.Crew, Person: l.Member, MadeBy: l.MadeBy, MadeAt: l.MadeAt}
			}
			return api.Answer(all), nil
		})
	api.Register(s.API, huma.Operation{OperationID: "addCalendarAddress", Summary: "Create a calendar subscription",
		Method: http.MethodPost,
		Path:   "/api/calendar-addresses", Description: "Creates an address that anyone who has it can read, until it is " +
			"revoked"},
		s.addAddress)
	api.Register(s.API, huma.Operation{OperationID: "revokeCalendarAddress", Summary: "Revoke a calendar subscription",
		Method: http.MethodDelete,
		Path:   "/api/calendar-addresses/{address}", Description: "Revokes an address: nothing can be read there afterwards"},
		func(ctx context.Context, in *struct {
			Address uuid.UUID `path:"address" format:"uuid"`
		}) (*struct{}, error) {
			err := s.store.RevokeCalendarLink(ctx, api.Person(ctx).CompanyID, in.Address)
			if errors.Is(err, store.ErrNotFound) {
				return nil, huma.Error404NotFound("This address is revoked already.")
			}
			if err != nil {
				return nil, s.Fail(ctx, "revoke a calendar address", err)
			}
			return nil, nil
		})
	api.Register(s.API, huma.Operation{OperationID: "readCalendar", Summary: "Read a subscribed calendar",
		Method: http.MethodGet, Path: "/calendar/{secret}",
		Description: "What is booked, for whoever has the address"}, s.readCalendar)
	api.Register(s.API, huma.Operation{OperationID: "readBusy", Summary: "Read busy times from a calendar file",
		Method: http.MethodPost, Path: "/api/busy",
		MaxBodyBytes: calendarBytes, Description: "Reads the times at which somebody is taken from an iCalendar file; " +
			"stores nothing"},
		func(ctx context.Context, in *struct{ RawBody []byte }) (*api.Body[[]job.Busy], error) {
			house, err := s.house(ctx, api.Person(ctx).CompanyID)
			if err != nil {
				return nil, s.Fail(ctx, "read the house", err)
			}
			now := time.Now()
			times, err := exchange.ReadBusy(in.RawBody, job.ZoneOf(house), now.Add(-calendarBack), now.Add(calendarAhead))
			if refused, ok := errors.AsType[*exchange.CalendarError](err); ok {
				return nil, huma.Error422UnprocessableEntity(refused.Text)
			}
			if err != nil {
				return nil, s.Fail(ctx, "read a calendar", err)
			}
			return api.Answer(times), nil
		})
}

// addAddress makes a calendar address, whose secret is told only now.
func (s *Service) addAddress(ctx context.Context, in *api.Body[struct {
	Crew   string `json:"crew,omitempty" maxLength:"60"`
	Person string `json:"person,omitempty" maxLength:"60" doc:"Name of a person: what the crew does in which this person is then"`
}]) (*api.Body[CalendarAddress], error) {
	who := api.Person(ctx)
	house, err := s.house(ctx, who.CompanyID)
	if err != nil {
		return nil, s.Fail(ctx, "read the crews", err)
	}
	if in.Body.Crew != "" && !slices.ContainsFunc(job.CrewsOf(house),
		func(c job.StandingCrew) bool { return c.ID == in.Body.Crew }) {
		return nil, huma.Error422UnprocessableEntity(
			"There is no such crew. Name one that is on the roster, or none for everybody.")
	}
	if _, there := house.CrewOf(in.Body.Person); in.Body.Person != "" && (!there || in.Body.Crew != "") {
		return nil, huma.Error422UnprocessableEntity(
			"There is nobody of that name in a crew, or a crew is named besides. Name one person who is on the roster.")
	}
	secret := make([]byte, secretBytes)
	_, _ = rand.Read(secret) // never fails
	told := base64.RawURLEncoding.EncodeToString(secret)
	id, err := s.store.AddCalendarLink(ctx, who.CompanyID,
		store.CalendarLink{Crew: in.Body.Crew, Member: in.Body.Person}, who.ID, hashed(told))
	if errors.Is(err, store.ErrTooManyLinks) {
		return nil, huma.Error422UnprocessableEntity(
			"The company has the largest number of calendar addresses. Revoke one that is not used.")
	}
	if err != nil {
		return nil, s.Fail(ctx, "make a calendar address", err)
	}
	return api.Answer(CalendarAddress{ID: id, Crew: in.Body.Crew, Person: in.Body.Person, MadeBy: who.Name,
		MadeAt: time.Now(), Path: "/calendar/" + told + ".ics"}), nil
}

// hashed returns what is kept of a secret.
func hashed(secret string) []byte {
	sum := sha256.Sum256([]byte(secret))
	return sum[:]
}

// readCalendar writes what is booked for whoever has an address. It works nothing out, so
// that it may be asked often.
func (s *Service) readCalendar(ctx context.Context, in *struct {
	Secret string `path:"secret" maxLength:"80"`
	Known  string `header:"If-None-Match" maxLength:"400"`
}) (*feed, error) {
	ctx, cancel := context.WithTimeout(ctx, feedTime)
	defer cancel()
	secret, named := bytes.CutSuffix([]byte(in.Secret), []byte(".ics"))
	link, err := s.store.CalendarLink(ctx, hashed(string(secret)))
	if errors.Is(err, store.ErrNotFound) || !named {
		return nil, huma.Error404NotFound("This address does not exist, or was revoked.")
	}
	if err != nil {
		return nil, s.Fail(ctx, "read a calendar address", err)
	}
	stands, err := s.store.Roster(ctx, link.Company)
	if err != nil {
		return nil, s.Fail(ctx, "read the roster", err)
	}
	house, err := s.house(ctx, link.Company)
	if err != nil {
		return nil, s.Fail(ctx, "read the house", err)
	}
	open, err := s.store.OpenSites(ctx, link.Company)
	if err != nil {
		return nil, s.Fail(ctx, "read the jobs", err)
	}
	jobs := make(map[string]store.OpenSite, len(open))
	for _, j := range open {
		jobs[j.ID.String()] = j
	}
	name, crews := "Roster", make(map[string]string)
	for _, c := range job.CrewsOf(house) {
		if crews[c.ID] = c.Name; c.ID == link.Crew {
			name = c.Name
		}
	}
	only := link.Crew != "" || link.Member != ""
	if link.Member != "" { // whoever has left all crews has no days
		crew, _ := house.CrewOf(link.Member)
		link.Crew, name = crew.ID, link.Member
	}
	lines := []exchange.RosterLine{}
	bookings, err := s.asLogged(ctx, link.Company, stands.Bookings, open, time.Now())
	if err != nil {
		return nil, s.Fail(ctx, "read what was laid", err)
	}
	for _, b := range days.WithReady(bookings) {
		on, there := jobs[b.Job]
		if !there || only && (b.Crew != link.Crew || b.Crew == "") {
			continue
		}
		lines = append(lines, exchange.RosterLine{ID: b.Job + "/" + b.Task, Job: on.Name, Task: b.Title, Crew: crews[b.Crew],
			Place: on.Site, From: b.From, Until: b.Until, Version: b.Changed})
	}
	due, err := s.due(ctx, link.Company, func(id string) bool {
		return !only || slices.ContainsFunc(bookings, func(b days.Booked) bool {
			return b.Job == id && b.Crew == link.Crew && b.Crew != ""
		})
	})
	if err != nil {
		return nil, s.Fail(ctx, "read what comes due", err)
	}
	lines = append(lines, due...)
	var text bytes.Buffer
	if err := exchange.WriteCalendar(&text, name, lines, stands.ChangedAt); err != nil {
		return nil, s.Fail(ctx, "write the calendar", err)
	}
	return fed(text.Bytes(), name, stands.ChangedAt, in.Known), nil
}

// fed answers with a calendar, or with nothing where whoever asks has it already.
func fed(text []byte, name string, changed time.Time, has string) *feed {
	sum := sha256.Sum256(text)
	out := feed{Status: http.StatusOK, Tag: `"` + hex.EncodeToString(sum[:16]) + `"`,
		Changed: changed.UTC().Format(http.TimeFormat)}
	if changed.IsZero() {
		out.Changed = ""
	}
	for _, known := range strings.Split(has, ",") {
		if known = strings.TrimPrefix(strings.TrimSpace(known), "W/"); known == out.Tag || known == "*" {
			out.Status = http.StatusNotModified
			return &out
		}
	}
	file := api.Attached("text/calendar; charset=utf-8", name+".ics", text)
	out.Type, out.Disposition, out.Body = file.Type, file.Disposition, file.Body
	return &out
}

// due returns what comes due on the jobs of a company that somebody works at: tape, drying, windows, first use; each
// with an alarm.
func (s *Service) due(ctx context.Context, company uuid.UUID, at func(job string) bool) ([]exchange.RosterLine, error) {
	now := time.Now()
	jobs, err := s.store.Underway(ctx, company, now.Add(-wait.Lately))
	if err != nil {
		return nil, err
	}
	var lines []exchange.RosterLine
	for _, j := range jobs {
		if !at(j.Job.String()) {
			continue
		}
		for _, w := range wait.OfJob(j.Issues, j.Events, now, s.lives) {
			what := sha256.Sum256([]byte(w.Place + w.Text))
			line := exchange.RosterLine{ID: fmt.Sprintf("%s/wait/%x", j.Job, what[:6]), Job: j.Name, Surface: w.Place,
				Task: strings.ToUpper(w.Text[:1]) + w.Text[1:],
				Crew: strings.Join(w.Who, ", "), From: w.Due, Until: w.Due, Version: int64(len(j.Events)), Alarm: true}
			if w.Otherwise != "" {
				line.Note = "If nobody comes: " + w.Otherwise
			}
			lines = append(lines, line)
		}
	}
	return lines, nil
}

// feedTime is the longest that a calendar that is subscribed to waits for the database.
const feedTime = 10 * time.Second

// feed is a calendar that is asked for again and again.
type feed struct {
	Status      int
	Type        string `header:"Content-Type"`
	Disposition string `header:"Content-Disposition"`
	Tag         string `header:"ETag"`
	Changed     string `header:"Last-Modified"`
	Body        []byte
}
