package exchange

import (
	"cmp"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"slices"
	"strings"
	"time"

	"nephelon/core/climate"
	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/record"
	"nephelon/core/record/fact"
	"nephelon/core/record/ledger"
)

// clock returns a time in words, by the clock of the site.
func (h *Handover) clock(t *time.Time) string {
	if t == nil {
		return "not known"
	}
	return h.Units.Time(t.In(h.Zone), "Mon 2 Jan 2006 15:04")
}

// who returns what a person is called in the hand-over.
func (h *Handover) who(name string) string { return cmp.Or(h.Known[name], name) }

func (h *Handover) view() handoverView {
	i, d := &h.Issue, &h.Day
	v := handoverView{Title: "Hand-over: " + i.Name, Parties: strings.Join(nonEmpty(h.Company, h.Client, i.Site),
		" · "),
		Basis: fmt.Sprintf("Plan %d, issued %s to %s.", i.Number, h.clock(&i.At), i.To), Size: "A4",
		Zone: h.Zone.String(),
		Kept: h.Kept, Full: h.Full}
	if h.Letter {
		v.Size = "letter"
	}
	kinds := []material.SurfaceKind{}
	for n := range i.Surfaces {
		s := &i.Surfaces[n]
		v.Areas = append(v.Areas, h.area(s))
		if !slices.Contains(kinds, s.Kind) {
			kinds = append(kinds, s.Kind)
		}
	}
	for _, use := range h.service() {
		from := h.clock(use.at)
		if use.open {
			from = "no date is given"
		}
		v.Uses = append(v.Uses, useView{use.surface, use.name, from})
	}
	for _, kind := range kinds {
		title, lines := care(kind)
		v.Care = append(v.Care, careView{title, lines})
	}
	for _, u := range Upkeep() {
		months := map[bool]string{true: "month", false: "months"}[u.Months == 1]
		v.Upkeep = append(v.Upkeep, fmt.Sprintf("After %d %s: %s", u.Months, months, u.Text))
	}
	for n := range d.Coats {
		if plan := i.Coat(d.Coats[n].ID); d.Coats[n].Begun != nil {
			for _, c := range plan.Product.Cautions {
				if line := plan.Name + ": " + c; !slices.Contains(v.Cautions, line) {
					v.Cautions = append(v.Cautions, line)
				}
			}
		}
	}
	if h.Full {
		h.details(&v)
	}
	for n, photo := range h.Photos {
		v.Photos = append(v.Photos, photoView{photoFile(n), cmp.Or(photo.Caption, "Photograph")})
	}
	v.Signed = "Accepted by: ______________________________    Date: ______________"
	if s := d.Signed; s != nil {
		v.Signature = inked(s.Ink)
		v.Signed = fmt.Sprintf("Accepted by %s, %s; handed over by %s.", s.Text, h.clock(&s.At), h.who(s.By))
	}
	if d.Added > 0 {
		v.Added = fmt.Sprintf("%d later entries of the record are no part of what was signed.", d.Added)
	}
	if h.Log.Head != "" && len(h.Log.Keys) > 0 {
		v.Head = nonEmpty(strings.Split(h.Log.Head, "\n")...)
		v.Key, v.Fingerprint = h.Log.Keys[len(h.Log.Keys)-1], fingerprint(h.Log)
	}
	return v
}

// fingerprint returns the SHA-256 over the entries that the log has of a job, each in its canonical form
// and a line end.
func fingerprint(of ledger.Part) string {
	sum := sha256.New()
	for _, e := range of.Entries {
		text, err := e.Text()
		if err != nil {
			return ""
		}
		sum.Write(append(text, '\n'))
	}
	return hex.EncodeToString(sum.Sum(nil))
}

func (h *Handover) area(s *record.Surface) areaView {
	a := areaView{Name: s.Name, Area: h.Units.Area(s.Area)}
	var last *record.Coat
	var day *record.CoatDay
	for n := range h.Day.Coats {
		c := &h.Day.Coats[n]
		plan := h.Issue.Coat(c.ID)
		if plan.Surface != s.ID || c.Begun == nil {
			continue
		}
		last, day = plan, c
		film := "not measured"
		if c.Used.Film > 0 {
			film = fmt.Sprintf("%s, %s", h.Units.Film(c.Used.Film), h.Units.Film(plan.Wet))
		}
		product := c.Name + color(c.Color)
		if plan.Product.Version > 0 {
			product += fmt.Sprintf(", data sheet edition %d", plan.Product.Version)
		}
		a.Coats = append(a.Coats, coatView{fmt.Sprint(c.Number), product, h.clock(c.Begun),
			h.Units.Mass(c.Used.Mass), film})
	}
	a.Drawing, a.Caption = drawn(s, last, day, h.Day.Faults)
	return a
}

// details adds what the file needs beyond what a client does.
func (h *Handover) details(v *handoverView) {
	d := &h.Day
	for n := range d.Closings {
		c := &d.Closings[n]
		surface, name := closed(&h.Issue, c)
		v.Prepared = append(v.Prepared, []string{surface, name, h.clock(&c.At), h.who(c.By), sawOf(c)})
	}
	for n := range d.Coats {
		c := &d.Coats[n]
		for _, g := range c.Gates {
			state := map[bool]string{true: "closed", false: "open"}[g.Closed]
			if g.Over {
				state = "overridden"
			}
			v.Gates = append(v.Gates, []string{fmt.Sprintf("%s, %d", c.Surface, c.Number), g.Title,
				strings.Join(nonEmpty(state, h.who(g.By), when(g.At, h)), ", "), g.What})
			if g.Over {
				v.Deviations = append(v.Deviations, fmt.Sprintf("%s, coat %d: gate “%s” overridden by %s: %s", c.Surface,
					c.Number,
					g.Title, h.who(g.By), g.What))
			}
		}
		if c.Begun != nil {
			v.Details = append(v.Details, h.detail(c))
		}
	}
	for n := range d.Readings {
		r := &d.Readings[n]
		humidity, margin := "", ""
		if r.Humidity != nil {
			humidity = h.Units.Fraction(*r.Humidity)
		}
		if r.Margin != nil {
			margin = climate.Difference(*r.Margin, h.Units)
		}
		v.Readings = append(v.Readings, []string{h.Units.Time(r.At.In(h.Zone), "Mon 2 Jan 15:04"), h.warm(r.Slab),
			h.warm(r.Air),
			humidity, margin, h.who(r.By)})
	}
	v.Chart, v.ChartCaption = charted(d.Readings, h.Units, h.Zone)
	for _, f := range d.Facts {
		if coat := h.Issue.Coat(f.Coat); f.Deviates() && coat != nil {
			v.Deviations = append(v.Deviations, fmt.Sprintf("%s, coat %d: %s", surfaceName(&h.Issue, coat.Surface),
				coat.Number, f.Text))
		}
	}
	for _, n := range d.Notes {
		decided := ""
		if n.Who != "" {
			decided = fmt.Sprintf(" Decided: %s.", n.Who)
		}
		v.Deviations = append(v.Deviations, fmt.Sprintf("%s, %s: %s.%s", h.clock(&n.At), h.who(n.By),
			strings.TrimSuffix(n.Text, "."), decided))
	}
	for _, l := range d.Late {
		v.Late = append(v.Late, fmt.Sprintf("%s, %s: %s, %s.", h.clock(&l.At), h.who(l.By), record.Words()[l.Kind],
			l.Text))
	}
	for _, w := range d.Hours {
		v.People = append(v.People, []string{h.who(w.Person), measure.Rounded(w.Span/measure.Hour, 1), h.clock(&w.From),
			h.clock(w.To)})
	}
}

func when(t *time.Time, h *Handover) string {
	if t == nil {
		return ""
	}
	return h.clock(t)
}

func (h *Handover) warm(t *measure.Temperature) string {
	if t == nil {
		return ""
	}
	return h.Units.Temperature(*t)
}

// detail returns how a coat was laid, batch by batch.
func (h *Handover) detail(c *record.CoatDay) detailView {
	plan := h.Issue.Coat(c.ID)
	v := detailView{Title: fmt.Sprintf("%s, coat %d: %s", c.Surface, c.Number, c.Name),
		Text: fmt.Sprintf("Laid %s. %s used%s.", h.clock(c.Begun), h.Units.Mass(c.Used.Mass), color(c.Color))}
	if low, high := h.conditions(c); low != nil {
		v.Text += fmt.Sprintf(" Slab from %s to %s while it was laid.", h.Units.Temperature(*low),
			h.Units.Temperature(*high))
	}
	clock := func(t *time.Time) string { return h.clock(t) }
	for k, b := range c.Batches {
		films := make([]string, len(b.Films))
		for n, f := range b.Films {
			films[n] = h.Units.Film(f.Film)
		}
		ratio := ""
		if b.Ratio != nil {
			masses := make([]string, len(b.Masses))
			for n, m := range b.Masses {
				masses[n] = h.Units.Mass(m)
			}
			ratio = fmt.Sprintf("%s, %s off", strings.Join(masses, " + "), h.Units.Fraction(max(b.Ratio.Off, -b.Ratio.Off)))
		}
		lots := strings.Join(nonEmpty(b.Lots...), ", ")
		if b.Expires != "" {
			lots += ", expires " + b.Expires
		}
		v.Batches = append(v.Batches, batchView{fmt.Sprint(b.Number), h.Units.Area(plan.Batches[k].SectionArea()),
			pouredAt(&b, clock), ratio, lots, strings.Join(films, ", ")})
		for _, lost := range b.Lost {
			v.Notes = append(v.Notes, fmt.Sprintf("Batch %d: a pail was lost at %s%s, %s.", b.Number, h.clock(&lost.At),
				strings.Join(nonEmpty("", lost.Text), ", "), h.who(lost.By)))
		}
	}
	for _, f := range h.Day.Facts {
		if f.Coat == c.ID && (f.Key == fact.MissedWindow || f.Key == fact.TooEarly) && !f.So {
			v.Notes = append(v.Notes, f.Text)
		}
	}
	return v
}
