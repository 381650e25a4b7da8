package kit

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strconv"

	"nephelon/core/material"
	"nephelon/core/measure"
)

// Work holds what of a plan the tools and consumables are counted by.
type Work struct {
	People int
	Sites  []Site
	Heater string // the id of what drives bubbles out by heat: torch, heat-gun or hair-dryer; empty where nothing does
	Mist   bool   // alcohol is misted, against bubbles or as an accent
	Second bool   // a mix is mixed again in a second bucket
	Reused bool   // buckets and paddles serve all batches of a coat
}

// Site is one surface.
type Site struct {
	Place     material.SurfaceKind
	Area      measure.Area
	Ground    measure.Area // of it, that is ground
	Perimeter measure.Length
	Doors     measure.Length
	Coats     []CoatWork
	Counted   []string // ids of tools that its preparation counts
}

// CoatWork is one coat over one surface.
type CoatWork struct {
	Kind    material.Kind
	Area    measure.Area
	Batches int
	Mixed   bool // of several parts
	Cups    int  // of colour, over all batches
	Stones  bool // they are trowelled, neither rolled nor raked
}

// Tool holds how much of a tool or consumable the work takes.
type Tool struct {
	ID     string         `json:"id"`
	Name   string         `json:"name"`
	Need   float64        `json:"need" doc:"Pieces or metres"`
	Packs  int            `json:"packs" doc:"Packs to buy"`
	Pack   string         `json:"pack"`
	Why    string         `json:"why"`
	Cost   *float64       `json:"cost,omitempty"`
	Source measure.Source `json:"source"`
}

// rolledCoats are rolled, or back-rolled after they are poured, thickCoats raked:
// common practice, no source.
func rolledCoats() []material.Kind {
	return []material.Kind{"primer", "moisture-barrier", "body", "binder", "grout", "clear", "paint", "pool-paint",
		"urethane", "polyaspartic"}
}

func thickCoats() []material.Kind {
	return []material.Kind{"moisture-barrier", "body", "metallic", "flood", "binder"}
}

// UsualTools returns what a job takes where the contractor's shelf says nothing
// else: common practice, no source, to be edited.
func UsualTools() []material.Medium {
	tool := func(id, name, pack string, packed float64, per string, amount float64,
		kinds ...material.Kind) material.Medium {
		return material.Medium{
			ID: id, Name: name, Kind: "tool", Packs: []material.Pack{{Name: pack, Amount: packed}},
			Use: &material.ToolUse{Per: per, Amount: amount, Kinds: kinds, Source: measure.RuleOfThumb},
		}
	}
	on := func(m material.Medium, places ...material.SurfaceKind) material.Medium {
		m.Use.On = places
		return m
	}
	return []material.Medium{
		on(tool("tool-roller-cover", "Roller covers, non-shed, solvent-resistant", "piece", 1, "coat-area", 1.0/60,
			rolledCoats()...), "floor", "pool"),
		on(tool("tool-foam-cover", "Foam roller covers", "piece", 1, "coat", 1), "top"),
		on(tool("tool-frame", "Roller frames and poles", "piece", 1, "person", 1), "floor", "pool"),
		tool("tool-brush", "Brushes for cutting in", "piece", 1, "coat", 1),
		on(tool("tool-blade", "Notched blades or rake teeth", "piece", 1, "coat", 1, thickCoats()...), "floor"),
		on(tool("tool-spiked-roller", "Spiked rollers", "piece", 1, "coat", 1, "body", "metallic"), "floor"),
		on(tool("tool-spikes", "Spiked shoes", "pair", 1, "person", 1), "floor"),
		tool("tool-tape", "Masking tape, m", "roll of 50 m", 50, "perimeter", 1.1),
		on(tool("tool-caulk", "Caulk along the walls", "cartridge", 1, "perimeter", 1.0/12), "floor"),
		on(tool("tool-dam", "Release strip as a dam in doorways, m", "metre", 1, "doors", 1), "floor"),
		tool("tool-bucket", "Mixing buckets", "piece", 1, "batch", 1),
		tool("tool-spare-bucket", "Spare buckets", "piece", 1, "job", 2),
		tool("tool-stick", "Sticks and paddles", "piece", 1, "batch", 1),
		tool("tool-strainer", "Paint strainers", "piece", 1, "batch", 1, "urethane", "polyaspartic", "paint", "pool-paint"),
		tool("tool-cup", "Graduated cups", "piece", 1, "batch", 2, "metallic", "flood", "deep-pour"),
		tool("tool-cloth", "Lint-free cloths", "piece", 1, "coat-area", 1.0/15),
		tool("tool-alcohol", "Alcohol for cleaning, L", "litre", 1, "coat-area", 0.01),
		tool("tool-gloves", "Gloves", "pair", 1, "person", 3),
		tool("tool-cartridge", "Respirator cartridges", "pair", 1, "person", 1),
		tool("tool-disc", "Grinding discs or segments", "piece", 1, "ground-area", 1.0/80),
		tool("tool-pad", "Sanding screens and pads", "piece", 1, "coat-area", 1.0/40),
	}
}

// Tools counts the tools and consumables of a job. What the contractor keeps
// under the same id stands before the usual.
func Tools(w Work, own []material.Medium, units measure.System) []Tool {
	all := append(UsualTools(), w.stoneTools()...)
	if cups := w.colourCups(); cups > 0 {
		all = append(all, material.Medium{ID: "tool-colour-cup", Name: "Cups and sticks for colours", Kind: "tool",
			Use: &material.ToolUse{Per: "job", Amount: float64(cups), Source: measure.RuleOfThumb}})
	}
	for _, m := range own {
		if m.Kind != "tool" || m.Use == nil {
			continue
		}
		if at := slices.IndexFunc(all, func(u material.Medium) bool { return u.ID == m.ID }); at >= 0 {
			all[at] = m
		} else {
			all = append(all, m)
		}
	}
	if w.Heater != "" {
		name := map[string]string{"torch": "Gas torch with a full cartridge", "heat-gun": "Heat gun",
			"hair-dryer": "Hair dryer"}[w.Heater]
		all = append(all, material.Medium{ID: "tool-" + w.Heater, Name: name, Kind: "tool",
			Use:      &material.ToolUse{Per: "job", Amount: 1, Source: measure.RuleOfThumb},
			Cautions: []string{"Never near alcohol or solvent."}})
	}
	if w.Mist {
		all = append(all, material.Medium{ID: "tool-mist", Name: "Alcohol in a mist bottle, L", Kind: "tool",
			Use: &material.ToolUse{Per: "coat-area", Amount: 0.01, Source: measure.RuleOfThumb}})
	}
	tools := make([]Tool, 0, len(all))
	for _, m := range all {
		if t := w.tool(m, units); t.Need > 0 {
			tools = append(tools, t)
		}
	}
	return tools
}

// stoneTools returns what laying wetted stones takes: common practice, no source.
func (w Work) stoneTools() []material.Medium {
	if !slices.ContainsFunc(w.Sites, func(s Site) bool {
		return slices.ContainsFunc(s.Coats, func(c CoatWork) bool { return c.Stones })
	}) {
		return nil
	}
	tool := func(id, name, per string, amount float64) material.Medium {
		return material.Medium{ID: id, Name: name, Kind: "tool",
			Use: &material.ToolUse{Per: per, Amount: amount, Source: measure.RuleOfThumb}}
	}
	return []material.Medium{
		tool("tool-drum", "Forced-action mixers", "job", 1),
		tool("tool-trowel", "Steel trowels", "person", 1),
		tool("tool-board", "Kneeling boards", "person", 2),
		tool("tool-screed", "Screed boards or gauge rails", "job", 2),
	}
}

func (w Work) tool(m material.Medium, units measure.System) Tool {
	t := Tool{ID: m.ID, Name: m.Name, Source: m.Use.Source}
	counted, kind, what := w.counted(m.ID, *m.Use)
	t.Need = counted * m.Use.Amount
	all := units.Format(kind, counted) + " " + what
	if m.Use.Amount >= 1 {
		t.Why = fmt.Sprintf("%.4g for each, over %s", m.Use.Amount, all)
		if kind == measure.KindLength {
			t.Why = fmt.Sprintf("%s times %s", strconv.FormatFloat(m.Use.Amount, 'g', 4, 64), all)
		}
	} else {
		t.Why = fmt.Sprintf("1 for %s, over %s", units.Format(kind, 1/m.Use.Amount), all)
	}
	pack := material.Pack{Name: "piece", Amount: 1}
	if len(m.Packs) > 0 {
		pack = slices.MinFunc(m.Packs, func(a, b material.Pack) int { return cmp.Compare(a.Amount, b.Amount) })
	}
	t.Pack = pack.Name
	t.Packs = int(math.Ceil(t.Need / pack.Amount * (1 - slack)))
	if pack.Price != nil {
		cost := *pack.Price * float64(t.Packs)
		t.Cost = &cost
	}
	return t
}

// counted returns how many of what a use counts there are.
func (w Work) counted(id string, u material.ToolUse) (float64, measure.Kind, string) {
	sites := slices.DeleteFunc(slices.Clone(w.Sites), func(s Site) bool {
		return len(u.On) > 0 && !slices.Contains(u.On, s.Place) || slices.Contains(s.Counted, id)
	})
	there := min(1, float64(len(sites)))
	over := func(of func(Site) float64) float64 {
		total := 0.0
		for _, s := range sites {
			total += of(s)
		}
		return total
	}
	sum := func(of func(CoatWork) float64) float64 {
		return over(func(s Site) float64 {
			total := 0.0
			for _, c := range s.Coats {
				if len(u.Kinds) == 0 || !c.Stones && slices.Contains(u.Kinds, c.Kind) {
					total += of(c)
				}
			}
			return total
		})
	}
	switch u.Per {
	case "area":
		return over(func(s Site) float64 { return float64(s.Area) }), measure.KindArea, "of surface"
	case "ground-area":
		return over(func(s Site) float64 { return float64(s.Ground) }), measure.KindArea, "that are ground"
	case "coat-area":
		return sum(func(c CoatWork) float64 { return float64(c.Area) }), measure.KindArea, "of coats"
	case "perimeter":
		return over(func(s Site) float64 { return float64(s.Perimeter) }), measure.KindLength, "of walls"
	case "doors":
		return over(func(s Site) float64 { return float64(s.Doors) }), measure.KindLength, "of doorways"
	case "person":
		return there * float64(w.People), measure.KindCount, "people"
	case "batch":
		if id == "tool-bucket" || id == "tool-stick" {
			return sum(w.vessels), measure.KindCount, w.vesselWords()
		}
		return sum(func(c CoatWork) float64 { return float64(c.Batches) }), measure.KindCount, "batches"
	case "coat":
		return sum(func(CoatWork) float64 { return 1 }), measure.KindCount, "coats"
	}
	return there, measure.KindCount, "job"
}

// colourCups counts the cups that batches are divided into by colour.
func (w Work) colourCups() int {
	n := 0
	for _, s := range w.Sites {
		for _, c := range s.Coats {
			n += c.Cups
		}
	}
	return n
}

// vessels counts the buckets, or the paddles, that a coat is mixed with.
func (w Work) vessels(c CoatWork) float64 {
	n := c.Batches
	if w.Reused {
		n = min(n, 1)
	}
	if w.Second && c.Mixed {
		n *= 2
	}
	return float64(n)
}

// vesselWords names what buckets and paddles are counted by.
func (w Work) vesselWords() string {
	words := "batches"
	if w.Reused {
		words = "coats"
	}
	if w.Second {
		words += ", mixed again in a second bucket"
	}
	return words
}

// Packs chooses packs of a medium for a mass or volume at least cost.
func Packs(need float64, packs []material.Pack) (lines []PackLine, cost *float64) {
	if len(packs) == 0 || need <= 0 {
		return []PackLine{}, nil
	}
	priced := !slices.ContainsFunc(packs, func(p material.Pack) bool { return p.Price == nil })
	sizes := make([]Size, len(packs))
	for i, p := range packs {
		sizes[i] = Size{Name: p.Name, Volume: measure.Volume(p.Amount), Cost: int64(math.Round(p.Amount * 1e6))}
		if priced {
			sizes[i].Cost = int64(math.Round(*p.Price * 100))
		}
	}
	lines = []PackLine{}
	if priced {
		cost = new(float64)
	}
	for i, n := range LeastCost(measure.Volume(need), sizes) {
		if n > 0 {
			lines = append(lines, PackLine{packs[i].Name, n})
			if priced {
				*cost += *packs[i].Price * float64(n)
			}
		}
	}
	return lines, cost
}

// PackLine holds how many of a pack to buy.
type PackLine struct {
	Pack  string `json:"pack"`
	Count int    `json:"count"`
}
