package exchange

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"time"

	"github.com/go-pdf/fpdf"
	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/gofont/goregular"

	"nephelon/core/measure"
	"nephelon/core/record"
)

// Handover holds what a client gets with a finished floor.
type Handover struct {
	Company string
	Client  string
	Issue   record.Issue
	Day     record.Day
	Kept    string // touch-up stock, and where
	Photos  []HandoverPhoto
	Units   measure.System
	Zone    *time.Location
}

// HandoverPhoto is a photograph that was chosen, as JPEG.
type HandoverPhoto struct {
	Caption string
	JPEG    []byte
}

// Care returns what keeps a floor: common practice, no source. The sheets of its products rule.
func Care() []string {
	return []string{
		"Keep water, furniture and vehicles off until the times above.",
		"Sweep or dust-mop; wash with a neutral detergent and clean water. No bleach, no ammonia, no citrus or solvent " +
			"cleaners, no wax.",
		"Mats at the doors, felt under furniture, boards under jacks and ladders.",
		"Wipe spills up, oil, acid and hot fat at once.",
		"Hot tyres and rubber feet may leave marks that cannot be washed out.",
	}
}

// WriteUpkeep writes when somebody should look at a floor again as a calendar (RFC 5545),
// from the day it was handed over.
func WriteUpkeep(to io.Writer, i record.Issue, from time.Time) error {
	var lines []RosterLine
	for _, u := range Upkeep() {
		day := from.AddDate(0, u.Months, 0)
		at := time.Date(day.Year(), day.Month(), day.Day(), 9, 0, 0, 0, from.Location())
		lines = append(lines, RosterLine{ID: fmt.Sprintf("%s/upkeep/%d", i.Job, u.Months), Job: u.Text, Surface: i.Name,
			Task: "Floor maintenance", Place: i.Site, From: at, Until: at.Add(time.Hour), Version: 1})
	}
	return WriteCalendar(to, "Maintenance of "+i.Name, lines, from)
}

// Upkeep returns when somebody should look at a floor again, in months from its hand-over:
// common practice, no source.
func Upkeep() []struct {
	Months int
	Text   string
} {
	return []struct {
		Months int
		Text   string
	}{
		{1, "Look at joints, edges and entrances; repair chips with the touch-up stock."},
		{12, "Look at wear in the lanes; wash thoroughly; ask for a new top coat where gloss is gone."},
		{36, "Abrade lightly and lay a new top coat where it is walked or driven on."},
	}
}

// The page, mm.
const (
	handoverMargin = 18.0
	handoverWide   = 210 - 2*handoverMargin
	handoverLine   = 5.2
)

// handoverPage writes a hand-over.
type handoverPage struct{ *fpdf.Fpdf }

// spaced is text that the fonts have: the narrow space between a figure and its unit is not in them.
func spaced(text string) string { return strings.ReplaceAll(text, "\u202f", " ") }

func (p handoverPage) head(text string) {
	p.Ln(3)
	p.SetFont("go", "B", 12)
	p.MultiCell(handoverWide, 7, spaced(text), "", "L", false)
	p.SetFont("go", "", 10)
}

func (p handoverPage) say(text string, args ...any) {
	p.MultiCell(handoverWide, handoverLine, spaced(fmt.Sprintf(text, args...)), "", "L", false)
}

func (p handoverPage) table(widths []float64, rows [][]string) {
	for n, row := range rows {
		style := ""
		if n == 0 {
			style = "B"
		}
		p.SetFont("go", style, 9)
		for c, cell := range row {
			p.CellFormat(widths[c], 6, spaced(cell), "B", 0, "L", false, 0, "")
		}
		p.Ln(-1)
	}
	p.SetFont("go", "", 10)
}

// WriteHandover writes the hand-over of a floor as PDF: what was laid where with lots and
// films, conditions, when it may be used, care, upkeep, and who signed.
func WriteHandover(to io.Writer, h Handover) error {
	p := handoverPage{fpdf.New("P", "mm", "A4", "")}
	p.AddUTF8FontFromBytes("go", "", goregular.TTF)
	p.AddUTF8FontFromBytes("go", "B", gobold.TTF)
	p.SetMargins(handoverMargin, handoverMargin, handoverMargin)
	p.SetAutoPageBreak(true, handoverMargin)
	p.SetTitle("Hand-over: "+h.Issue.Name, true)
	p.SetCreator("Nephelon", true)
	p.SetCompression(false)
	p.AddPage()
	p.SetFont("go", "B", 18)
	p.MultiCell(handoverWide, 9, spaced("Hand-over: "+h.Issue.Name), "", "L", false)
	p.SetFont("go", "", 10)
	p.say("%s", strings.Join(nonEmpty(h.Company, h.Client, h.Issue.Site, fmt.Sprintf("plan %d", h.Issue.Number)), " · "))
	clock := func(t *time.Time) string {
		if t == nil {
			return "not known"
		}
		return h.Units.Time(t.In(h.Zone), "Mon 2 Jan 2006 15:04")
	}
	for n := range h.Day.Coats {
		p.coat(h, &h.Day.Coats[n], clock)
	}
	p.head("Return to service")
	rows := [][]string{{"Surface", "Use", "From"}}
	for _, use := range h.service() {
		from := clock(use.at)
		if use.open {
			from = "no date is given"
		}
		rows = append(rows, []string{use.surface, use.name, from})
	}
	p.table([]float64{60, 54, 60}, rows)
	p.say("The times follow from the data sheets and the slab as measured; they are no guarantee. Data sheets, local " +
		"codes and licensed practice rule.")
	p.head("Care")
	for _, c := range Care() {
		p.say("– %s", c)
	}
	if h.Kept != "" {
		p.say("Touch-up stock: %s.", h.Kept)
	}
	p.head("Upkeep")
	for _, u := range Upkeep() {
		p.say("After %d months: %s", u.Months, u.Text)
	}
	for n, photo := range h.Photos {
		name := fmt.Sprintf("photo%d", n)
		p.RegisterImageOptionsReader(name, fpdf.ImageOptions{ImageType: "JPEG"}, bytes.NewReader(photo.JPEG))
		p.Ln(4)
		p.ImageOptions(name, handoverMargin, -1, 90, 0, true, fpdf.ImageOptions{ImageType: "JPEG"}, 0, "")
		p.say("%s", photo.Caption)
	}
	p.Ln(8)
	if s := h.Day.Signed; s != nil {
		p.ink(s.Ink)
		p.say("Accepted by %s, %s; handed over by %s.", s.Text, clock(&s.At), s.By)
	} else {
		p.say("Accepted by: ______________________________    Date: ______________")
	}
	if err := errors.Join(p.Error(), p.Output(to)); err != nil {
		return fmt.Errorf("write the hand-over: %w", err)
	}
	return nil
}

// ink draws a signature.
func (p handoverPage) ink(strokes string) {
	const scale, high = 0.07, 300 // mm to a point; points
	left, top := p.GetX(), p.GetY()
	x, y := 0.0, 0.0
	for _, point := range strings.FieldsFunc(strings.NewReplacer("M", "|M", "L", "|L").Replace(strokes),
		func(r rune) bool { return r == '|' }) {
		var toX, toY float64
		if _, err := fmt.Sscanf(point[1:], "%f %f", &toX, &toY); err != nil {
			continue
		}
		if point[0] == 'L' {
			p.Line(left+x*scale, top+y*scale, left+toX*scale, top+toY*scale)
		}
		x, y = toX, toY
	}
	if strokes != "" {
		p.Ln(high * scale)
	}
}

// coat returns what was laid of a coat, and how.
func (p handoverPage) coat(h Handover, c *record.CoatDay, clock func(*time.Time) string) {
	if c.Begun == nil {
		return
	}
	plan := h.Issue.Coat(c.ID)
	p.head(fmt.Sprintf("%s, coat %d: %s", c.Surface, c.Number, c.Name))
	p.say("Laid %s. %s used%s; %s wet on average, %s planned.", clock(c.Begun), h.Units.Mass(c.Used.Mass), color(c.Color),
		h.Units.Film(c.Used.Film), h.Units.Film(plan.Wet))
	rows := [][]string{{"Batch", "Section", "Poured", "Lots", "Wet film"}}
	for k, b := range c.Batches {
		films := make([]string, len(b.Films))
		for n, f := range b.Films {
			films[n] = h.Units.Film(f.Film)
		}
		rows = append(rows, []string{fmt.Sprint(b.Number), h.Units.Area(plan.Batches[k].Card.Area), pouredAt(&b, clock),
			strings.Join(nonEmpty(b.Lots...), ", "), strings.Join(films, ", ")})
	}
	p.table([]float64{16, 26, 52, 50, 30}, rows)
	low, high := h.conditions(c)
	if low != nil {
		p.say("Slab from %s to %s while it was laid.", h.Units.Temperature(*low), h.Units.Temperature(*high))
	}
}

// pouredAt says when a batch was poured: as logged, else as touches of other batches show.
func pouredAt(b *record.BatchDay, clock func(*time.Time) string) string {
	if at, shown := b.Shown[record.Poured]; shown {
		return "about " + clock(&at)
	}
	return clock(b.Poured)
}

// conditions are the coldest and the warmest slab that was read around a coat.
func (h Handover) conditions(c *record.CoatDay) (low, high *measure.Temperature) {
	for n := range h.Day.Readings {
		r := &h.Day.Readings[n]
		on := h.Issue.Coat(r.Coat)
		if on == nil || on.Surface != h.Issue.Coat(c.ID).Surface || r.Slab == nil || r.At.Before(c.Begun.Add(-2*time.Hour)) ||
			r.At.After(c.Ends.Add(2*time.Hour)) {
			continue
		}
		if low == nil || *r.Slab < *low {
			low = r.Slab
		}
		if high == nil || *r.Slab > *high {
			high = r.Slab
		}
	}
	return low, high
}

type use struct {
	surface, name string
	at            *time.Time
	open          bool // its last coat is not laid
}

// service returns from when each surface may be used, by its last coat; a surface whose last
// coat was not laid to its end is named as not finished.
func (h Handover) service() []use {
	var all []use
	for _, s := range h.Issue.Surfaces {
		if !slices.ContainsFunc(h.Issue.Coats, func(c record.Coat) bool { return c.Surface == s.ID && c.Last }) {
			all = append(all, use{surface: s.Name, name: "not finished", open: true})
		}
	}
	for n := range h.Day.Coats {
		c := &h.Day.Coats[n]
		if plan := h.Issue.Coat(c.ID); !plan.Last {
			continue
		}
		if c.Done == nil {
			all = append(all, use{surface: c.Surface, name: "not finished", open: true})
			continue
		}
		for _, s := range c.Stages {
			switch s.Stage {
			case "foot", "furniture", "vehicle", "water", "full":
				at := s.Comes
				if at == nil {
					at = s.Promised
				}
				all = append(all, use{surface: c.Surface, name: s.Name, at: at})
			}
		}
	}
	return all
}

func color(c string) string {
	if c == "" || strings.HasPrefix(c, "#") {
		return ""
	}
	return ", " + c
}

func nonEmpty(all ...string) []string {
	var out []string
	for _, s := range all {
		if strings.TrimSpace(s) != "" {
			out = append(out, s)
		}
	}
	return out
}
