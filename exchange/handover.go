package exchange

import (
	"bytes"
	"crypto/sha256"
	_ "embed"
	"fmt"
	"html/template"
	"io"
	"slices"
	"strings"
	"testing/fstest"
	"time"

	"github.com/carlos7ags/folio/document"
	"github.com/carlos7ags/folio/font"
	"github.com/carlos7ags/folio/html"
	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/gofont/goregular"

	"nephelon/core/material"
	"nephelon/core/measure"
	"nephelon/core/record"
	"nephelon/core/record/ledger"
)

// Handover holds what is handed over with a finished floor.
type Handover struct {
	Company string
	Client  string
	Issue   record.Issue
	Day     record.Day
	Kept    string // touch-up stock, and where
	Photos  []HandoverPhoto
	Units   measure.System
	Zone    *time.Location
	Full    bool              // everything, for the file; else what a client needs
	Letter  bool              // on paper of 8.5 by 11 in; else A4
	Known   map[string]string // what people are called in it, by their names, where names are kept back
	Log     ledger.Part
	At      time.Time // when the record was as it is here
}

// HandoverPhoto is a photograph that was chosen, as JPEG.
type HandoverPhoto struct {
	Caption string
	JPEG    []byte
}

// care holds what keeps a kind of surface: common practice, no source. The sheets of its products rule.
func care(of material.SurfaceKind) (title string, lines []string) {
	switch of {
	case "top":
		return "Care of the tops", []string{
			"Things may stand on them from the time above; pads under what is hot, a board under every knife.",
			"Wipe with a soft cloth, water and a little neutral detergent. No bleach, no ammonia, no abrasives, no solvents.",
			"Wipe spills up, wine, oil, acid and colours at once.",
			"Lift what stands on them, do not push it; felt under what stands there always.",
		}
	case "pool":
		return "Care of the pool", []string{
			"No water before the time above. Fill without a break, so that no line is left.",
			"Balance the water from the first day, as the data sheet says; acid and chlorine go into moving water, never onto " +
				"the wall.",
			"Brush with nylon, never with steel. No pressure washer closer than the data sheet allows.",
			"Never empty it while ground water stands behind the walls.",
		}
	}
	return "Care of the floor", []string{
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

//go:embed handover.html
var handoverPage string

// The view of the page: everything is text, but for drawings.
type (
	handoverView struct {
		Title, Parties, Basis, Size, Zone, Kept string
		Full                                    bool
		Areas                                   []areaView
		Uses                                    []useView
		Care                                    []careView
		Upkeep, Cautions, Deviations, Late      []string
		Details                                 []detailView
		Chart                                   template.HTML
		ChartCaption                            string
		Readings, Prepared, Gates, People       [][]string
		Photos                                  []photoView
		Signature                               template.HTML
		Signed, Added, Fingerprint, Key         string
		Head                                    []string
	}
	areaView struct {
		Name, Area, Caption string
		Drawing             template.HTML
		Coats               []coatView
	}
	coatView struct{ Number, Product, Laid, Used, Film string }
	useView  struct{ Surface, Use, From string }
	careView struct {
		Title string
		Lines []string
	}
	photoView  struct{ Name, Caption string }
	detailView struct {
		Title, Text string
		Batches     []batchView
		Notes       []string
	}
	batchView struct{ Number, Section, Poured, Ratio, Lots, Film string }
)

// spaced is text that the fonts have: the narrow space between a figure and its unit is not in them.
func spaced(text string) string { return strings.ReplaceAll(text, "\u202f", " ") }

// WriteHandover writes the hand-over of a job as a tagged PDF/A-2a: what was laid where, when it may
// be used, care, upkeep and who signed; in full with lots, ratios, films, conditions, gates, decisions
// and people. The same record gives the same bytes.
func WriteHandover(to io.Writer, h Handover) error {
	page, err := template.New("handover").Parse(handoverPage)
	if err != nil {
		return fmt.Errorf("read the page of the hand-over: %w", err)
	}
	var text bytes.Buffer
	if err := page.Execute(&text, h.view()); err != nil {
		return fmt.Errorf("fill the hand-over: %w", err)
	}
	files := fstest.MapFS{"regular.ttf": {Data: goregular.TTF}, "bold.ttf": {Data: gobold.TTF}}
	for n, photo := range h.Photos {
		files[photoFile(n)] = &fstest.MapFile{Data: photo.JPEG}
	}
	size := document.PageSizeA4
	if h.Letter {
		size = document.PageSizeLetter
	}
	d := document.NewDocument(size)
	d.SetTagged(true)
	d.SetPdfA(document.PdfAConfig{Level: document.PdfA2A})
	d.Info.Title, d.Info.Language, d.Info.Creator = "Hand-over: "+h.Issue.Name, "en", "Nephelon"
	d.Info.CreationDate, d.Info.ModDate = h.At.UTC(), h.At.UTC()
	letters, err := font.ParseFont(goregular.TTF)
	if err != nil {
		return fmt.Errorf("read the font of the hand-over: %w", err)
	}
	d.SetFooter(numbered(font.NewEmbeddedFont(letters), h.Issue.Name))
	id := sha256.Sum256(text.Bytes())
	d.SetFileID(id[:16])
	if err := d.AddHTML(spaced(text.String()), &html.Options{BaseFS: files, StrictAssets: true}); err != nil {
		return fmt.Errorf("lay the hand-over out: %w", err)
	}
	if _, err := d.WriteTo(to); err != nil {
		return fmt.Errorf("write the hand-over: %w", err)
	}
	return nil
}

// numbered draws the name of the job and the number of the page, which are no part of the text.
func numbered(letters *font.EmbeddedFont, name string) document.PageDecorator {
	const size, left, bottom = 8, 46, 30
	return func(at document.PageContext, page *document.Page) {
		page.ContentStream().BeginMarkedContent("Artifact")
		page.AddTextEmbedded(fmt.Sprintf("%s, page %d of %d", name, at.PageIndex+1, at.TotalPages), letters, size,
			left, bottom)
		page.ContentStream().EndMarkedContent()
	}
}

func photoFile(n int) string { return fmt.Sprintf("photo%d.jpg", n) }

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
		if on == nil || on.Surface != h.Issue.Coat(c.ID).Surface || r.Slab == nil ||
			r.At.Before(c.Begun.Add(-2*time.Hour)) ||
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
