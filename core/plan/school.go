package plan

import (
	"nephelon/core/measure"
	"nephelon/core/survey"
)

// Schools are the contractor's ways of working, where the trade disagrees. What
// is left out takes the first of its choices.
type Schools struct {
	survey.Methods
	Kits    string `json:"kits,omitempty" enum:"whole,one,half,third,measured" doc:"How much of a kit is mixed at once"`
	First   string `json:"first,omitempty" enum:"a,b" doc:"What goes into the pail first"`
	Tinting string `json:"tinting,omitempty" enum:"after,before" doc:"Colour after mixing, or into A beforehand"`
	Residue string `json:"residue,omitempty" enum:"second-bucket,scrape,remix,drain" doc:"What happens to what clings to the pail"`
	Laying  string `json:"laying,omitempty" enum:"pour,dip" doc:"Pour and spread, or dip and roll"`
	Warmth  string `json:"warmth,omitempty" enum:"cool,warm" doc:"Keep the resin cool, or warm it to make it flow"`
	Bubbles string `json:"bubbles,omitempty" enum:"leave,torch,alcohol"`
	Thin    string `json:"thin,omitempty" enum:"never,first" doc:"Whether a first coat is thinned"`
	Resting string `json:"resting,omitempty" enum:"sheet,rest,at-once" doc:"Whether a mix stands before use"`
	Texture string `json:"texture,omitempty" enum:"stirred,broadcast" doc:"Grit in the topcoat, or scattered onto it"`
	Doors   string `json:"doors,omitempty" enum:"under,beyond" doc:"Where the coating stops at a door"`
	Shelf   string `json:"shelf,omitempty" enum:"date,sealed" doc:"Whether a sealed pail past its date counts"`
	Session string `json:"session,omitempty" enum:"whole,sections" doc:"The whole floor at once, or sections with tape lines"`
}

// School is one question on which the trade disagrees.
type School struct {
	ID      string         `json:"id"`
	Title   string         `json:"title"`
	Choices []SchoolChoice `json:"choices" doc:"The first is taken where nothing is chosen"`
}

// SchoolChoice is one answer.
type SchoolChoice struct {
	Value       string `json:"value"`
	Name        string `json:"name"`
	Reason      string `json:"reason" doc:"Why people work so"`
	Consequence string `json:"consequence" doc:"What it costs or risks"`
}

// AllSchools lists every question with its answers, their reasons and their
// consequences: common practice, no source.
func AllSchools() []School {
	return []School{
		{"opening", "Opening the surface", []SchoolChoice{
			{"grind", "Grind", "Works on anything hard and leaves a profile that can be seen.", "Silica dust: shroud and HEPA vacuum. Edges take a hand grinder."},
			{"shot-blast", "Shot-blast", "Fast on large floors, with a deep, even profile.", "Leaves tracks that thin films show; edges are still ground."},
			{"screen", "Screen with 60–80 grit", "Gentle, for floors that are open already.", "Does not open a power-trowelled floor."},
			{"etch", "Etch with acid", "Needs no machine.", "Does not work through paint or sealer; must be neutralised, rinsed and dried overnight."},
		}},
		{"acid", "Where acid is used", []SchoolChoice{
			{"muriatic", "Muriatic", "Strong: open in one pass or two.", "Fumes; always acid into water, never near bleach; stains what it reaches."},
			{"citric", "Citric", "Milder on people and metal.", "Slower, more passes."},
		}},
		{"filler", "Filling cracks and holes", []SchoolChoice{
			{"epoxy", "Thickened epoxy", "The strongest.", "Cures overnight."},
			{"body", "Polyester body filler", "Sandable in half an hour, so that work goes on the same day.", "May show through light colours: tint the primer."},
			{"putty", "Coat over wet putty", "No waiting and nothing to sand.", "Only with a putty made for it; deep fills shrink and ripple."},
		}},
		{"kits", "How much is mixed at once", []SchoolChoice{
			{"whole", "Whole kits, several at once where they fit", "Nothing is measured, so the ratio is right; fewer joins.", "Several kits in one pail live shorter than one."},
			{"one", "One kit at a time", "Nothing is measured, and each pail lives as its sheet says.", "More batches, more joins."},
			{"half", "Half kits", "Calmer on hot days and single-handed.", "Every batch is divided by hand."},
			{"third", "Third kits", "For the hottest days and small crews.", "Three chances a kit to miss the ratio."},
			{"measured", "Measured batches", "Equal sections, whatever the kit.", "A clean measure or a scale for every batch."},
		}},
		{"first", "Into the pail first", []SchoolChoice{
			{"a", "A first", "The resin, the larger part, is there already.", "The last of it clings under the hardener."},
			{"b", "B first", "The thin hardener wets the pail, so less resin sticks unmixed to its wall.", "Only where the pail holds both with headroom."},
		}},
		{"tinting", "Colour", []SchoolChoice{
			{"after", "After mixing", "A ratio error cannot hide in the colour.", "Takes minutes of the pot life."},
			{"before", "Into A beforehand", "Saves minutes when they count.", "Pigment adds to A: weigh A without it."},
		}},
		{"residue", "What clings to the pail", []SchoolChoice{
			{"second-bucket", "Pour into a second bucket and mix again", "What clung unmixed stays behind.", "Another bucket for each batch."},
			{"scrape", "One bucket, scraped", "Fewer buckets.", "Rests on whoever scrapes."},
			{"remix", "Scrape out and remix on the surface", "Nothing is lost.", "A soft spot if it was not mixed after all."},
			{"drain", "Hole in the pail, drained", "The last comes out.", "What drains last was mixed least."},
		}},
		{"laying", "Laying a coat", []SchoolChoice{
			{"pour", "Pour and spread", "Levels, and empties the pail at once, so it cannot heat.", "A thin fast paint puddles."},
			{"dip", "Dip and roll", "Even with thin paints.", "A thick coat from a tray comes out in bands, and the tray heats."},
		}},
		{"between", "Between coats", []SchoolChoice{
			{"", "By the window of the sheet", "Only what has closed is abraded.", "The window must be kept or noticed."},
			{"sand", "Sand every coat", "Bonds whatever the hour, and takes nibs off.", "Dust, hours and discs for every coat."},
			{"tacky", "Recoat while tacky", "Coats grow together, nothing to sand.", "The whole system in one run."},
		}},
		{"oldPaint", "Sound old paint", []SchoolChoice{
			{"remove", "Always remove", "The coating holds no better than what is below it.", "Hours of grinding."},
			{"over", "Coat over it when sound", "Saves the grinding.", "A spot that was not sound takes the floor with it."},
		}},
		{"warmth", "Temperature of the parts", []SchoolChoice{
			{"cool", "Keep cool", "Longer pot life.", "Stiff to mix and to spread."},
			{"warm", "Warm to make it flow", "Bubbles leave, it levels.", "About 10 K halve the pot life."},
		}},
		{"bubbles", "Bubbles", []SchoolChoice{
			{"leave", "Leave alone", "Most leave by themselves.", "Not in a fast or cold coat."},
			{"torch", "Torch", "Quick over large tops.", "Never near alcohol or solvent; scorches and ambers if held still."},
			{"alcohol", "Mist of alcohol", "No flame.", "Never with a torch; too much makes veins muddy."},
		}},
		{"thin", "First coat", []SchoolChoice{
			{"never", "Never thin", "The sheet holds.", "A cold coat wets badly."},
			{"first", "Thin the first coat", "Soaks into open surfaces.", "Only solvent-borne products, within their sheet; shrinks and burns."},
		}},
		{"resting", "After mixing", []SchoolChoice{
			{"sheet", "As the sheet says", "The maker knows.", "None."},
			{"rest", "Let it stand", "Solvent-borne two-packs blush less.", "Takes from the pot life."},
			{"at-once", "Use at once", "A 100 % solids mix only ages in the pail.", "Wrong for a product that needs to stand."},
		}},
		{"texture", "Texture", []SchoolChoice{
			{"stirred", "Grit in the topcoat", "Even, one pass.", "Sinks in the pail: keep stirring."},
			{"broadcast", "Grit scattered", "Stands higher.", "As even as the hand that throws it."},
		}},
		{"doors", "At doors", []SchoolChoice{
			{"under", "Stop under the closed door", "The line cannot be seen.", "Needs the door's place to be measured."},
			{"beyond", "Run beyond it", "Wears better at the threshold.", "The edge shows from outside."},
		}},
		{"shelf", "Past its date", []SchoolChoice{
			{"date", "The date counts", "The maker answers for it until then.", "Good pails are thrown away."},
			{"sealed", "Still good if sealed", "A sealed pail changes little.", "Yours alone to answer for: try a cup first."},
		}},
		{"session", "A large floor", []SchoolChoice{
			{"whole", "In one session", "No joins.", "Enough people for the whole of it."},
			{"sections", "Sections with tape lines", "A small crew can.", "Breaks only at joints, doorways and saw cuts."},
		}},
	}
}

// kitShare is how much of a kit this contractor mixes at most at once, 0 where
// as many as fit.
func (s Schools) kitShare() float64 {
	switch s.Kits {
	case "one":
		return 1
	case "half":
		return 0.5
	case "third":
		return 1.0 / 3
	}
	return 0
}

// mixedAgain is how long a mix is stirred again in a second bucket: common
// practice, no source.
const mixedAgain = measure.Minute

// again is how long this contractor mixes a second time.
func (s Schools) again() measure.Span {
	if s.Residue == "" || s.Residue == "second-bucket" {
		return mixedAgain
	}
	return 0
}
