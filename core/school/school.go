// Package school holds the questions on which the trade disagrees. Each has one
// home here: its answers, their words, what speaks for and against them, and
// which of them stands where nothing was chosen.
package school

// The answers to each question, as they stand in files. An empty one is the
// first of its question.
type (
	// Opening holds how a surface is opened.
	Opening string
	// Acid holds what is etched with.
	Acid string
	// Filler holds what cracks and holes are filled with.
	Filler string
	// Levelling holds what low places are filled with.
	Levelling string
	// Between holds what happens between two coats.
	Between string
	// OldPaint holds what becomes of sound old paint.
	OldPaint string
	// Kits holds how much of a kit is mixed at once.
	Kits string
	// First holds what goes into the pail first.
	First string
	// Tinting holds when a mix is coloured.
	Tinting string
	// Residue holds what happens to what clings to the pail.
	Residue string
	// Vessels holds whether buckets and paddles are used again.
	Vessels string
	// Laying holds how a coat gets onto the surface.
	Laying string
	// Warmth holds whether parts are kept cool or warmed.
	Warmth string
	// Bubbles holds what is done about them.
	Bubbles string
	// Thinning holds whether a first coat is thinned.
	Thinning string
	// Resting holds whether a mix stands before use.
	Resting string
	// Texture holds how grit gets into a coat.
	Texture string
	// Doors holds where a coating stops at a door.
	Doors string
	// Shelf holds whether a sealed pail past its date counts.
	Shelf string
	// Session holds how a large floor is divided over time.
	Session string
)

// The answers.
const (
	Grind     Opening = "grind"
	ShotBlast Opening = "shot-blast"
	Screen    Opening = "screen"
	Etch      Opening = "etch"

	Muriatic Acid = "muriatic"
	Citric   Acid = "citric"

	EpoxyFiller Filler = "epoxy"
	BodyFiller  Filler = "body"
	WetPutty    Filler = "putty"

	SameFiller  Levelling = "filler"
	ResinMortar Levelling = "mortar"

	ByWindow   Between = "window"
	SandEvery  Between = "sand"
	WhileTacky Between = "tacky"

	RemovePaint OldPaint = "remove"
	CoatOver    OldPaint = "over"
	StripGel    OldPaint = "gel"

	WholeKits Kits = "whole"
	OneKit    Kits = "one"
	HalfKits  Kits = "half"
	ThirdKits Kits = "third"
	Measured  Kits = "measured"

	AFirst First = "a"
	BFirst First = "b"

	TintAfter  Tinting = "after"
	TintBefore Tinting = "before"

	SecondBucket Residue = "second-bucket"
	SecondLong   Residue = "second-bucket-long"
	Scrape       Residue = "scrape"
	Remix        Residue = "remix"
	Drain        Residue = "drain"

	PourAndSpread Laying = "pour"
	DipAndRoll    Laying = "dip"
	Trowel        Laying = "trowel" // of a coat, never of a whole job
	Brush         Laying = "brush"
	Spray         Laying = "spray"

	KeepCool Warmth = "cool"
	WarmUp   Warmth = "warm"

	LeaveBubbles Bubbles = "leave"
	Torch        Bubbles = "torch"
	HeatGun      Bubbles = "heat-gun"
	HairDryer    Bubbles = "hair-dryer"
	Alcohol      Bubbles = "alcohol"

	FreshVessels  Vessels = "fresh"
	ReusedVessels Vessels = "reused"

	NeverThin Thinning = "never"
	ThinFirst Thinning = "first"

	RestBySheet Resting = "sheet"
	Rest        Resting = "rest"
	UseAtOnce   Resting = "at-once"

	StirredIn Texture = "stirred"
	Scattered Texture = "broadcast"

	UnderDoor  Doors = "under"
	BeyondDoor Doors = "beyond"

	ByDate     Shelf   = "date"
	IfSealed   Shelf   = "sealed"
	WholeFloor Session = "whole"
	TapeLines  Session = "sections"
)

// Second reports whether a mix is mixed again in a second bucket.
func (r Residue) Second() bool { return r == SecondBucket || r == SecondLong }

// Methods are a contractor's answers.
type Methods struct {
	Opening    Opening   `json:"opening,omitempty" doc:"How a surface is opened"`
	Acid       Acid      `json:"acid,omitempty" doc:"What is etched with"`
	AcidInPool bool      `json:"acidInPool,omitempty" doc:"Etching in pools and on plaster is allowed; refused when left out"`
	Filler     Filler    `json:"filler,omitempty" doc:"Thickened epoxy, polyester body filler, or a putty that is coated wet"`
	Levelling  Levelling `json:"levelling,omitempty" doc:"Low places, holes and falls with the filler of cracks, or with a resin mortar"`
	Between    Between   `json:"between,omitempty" doc:"How coats follow each other: by the sheet's window, sanding every coat, or while it is tacky"`
	OldPaint   OldPaint  `json:"oldPaint,omitempty" doc:"Whether sound old paint stays"`
	Kits       Kits      `json:"kits,omitempty" doc:"How much of a kit is mixed at once"`
	First      First     `json:"first,omitempty" doc:"What goes into the pail first"`
	Tinting    Tinting   `json:"tinting,omitempty" doc:"Colour after mixing, or into A beforehand"`
	Residue    Residue   `json:"residue,omitempty" doc:"What happens to what clings to the pail"`
	Vessels    Vessels   `json:"vessels,omitempty" doc:"Whether buckets and paddles are used again for the next batch of a coat"`
	Laying     Laying    `json:"laying,omitempty" enum:"pour,dip" doc:"Pour and spread, or dip and roll"`
	Warmth     Warmth    `json:"warmth,omitempty" doc:"Keep the resin cool, or warm it to make it flow"`
	Bubbles    Bubbles   `json:"bubbles,omitempty"`
	Thin       Thinning  `json:"thin,omitempty" doc:"Whether a first coat is thinned"`
	Resting    Resting   `json:"resting,omitempty" doc:"Whether a mix stands before use"`
	Texture    Texture   `json:"texture,omitempty" doc:"Grit in the topcoat, or scattered onto it"`
	Doors      Doors     `json:"doors,omitempty" doc:"Where the coating stops at a door"`
	Shelf      Shelf     `json:"shelf,omitempty" doc:"Whether a sealed pail past its date counts"`
	Session    Session   `json:"session,omitempty" doc:"The whole floor at once, or sections with tape lines"`
}

// Key names a question: the field of Methods that answers it.
type Key string

// The questions that other packages ask about.
const (
	KeyOpening   Key = "opening"
	KeyFiller    Key = "filler"
	KeyLevelling Key = "levelling"
	KeyBetween   Key = "between"
	KeyOldPaint  Key = "oldPaint"
)

// Choice is one answer to a question.
type Choice struct {
	Value       string `json:"value"`
	Name        string `json:"name"`
	Reason      string `json:"reason" doc:"Why people work so"`
	Consequence string `json:"consequence" doc:"What it costs or risks"`
}

// Part of the work that a question is about.
type Part string

const (
	Preparation Part = "preparation"
	Mixing      Part = "mixing"
	Application Part = "application"
)

// Values returns all values, in the order in which they are shown.
func (Part) Values() []Part { return []Part{Preparation, Mixing, Application} }

// Question is one on which the trade disagrees.
type Question struct {
	ID      Key      `json:"id"`
	Title   string   `json:"title"`
	Part    Part     `json:"part" doc:"Part of the work that the question is about"`
	Choices []Choice `json:"choices" doc:"The first is taken where nothing is chosen"`

	chosen func(*Methods) string
	choose func(*Methods, string)
}

// Chosen is the answer that stands: the first where none was given.
func (q Question) Chosen(m Methods) string {
	if v := q.chosen(&m); v != "" {
		return v
	}
	return q.Choices[0].Value
}

// With is a contractor's methods with another answer to this question.
func (q Question) With(m Methods, value string) Methods {
	q.choose(&m, value)
	return m
}

// Filled answers every open question with the first of its choices.
func (m Methods) Filled() Methods { return m.FilledFrom(Questions()) }

// FilledFrom is the same for whoever has the questions at hand.
func (m Methods) FilledFrom(questions []Question) Methods {
	for _, q := range questions {
		if q.chosen(&m) == "" {
			q.choose(&m, q.Choices[0].Value)
		}
	}
	return m
}

// KitShare returns how much of a kit is mixed at most at once, 0 where as many as fit.
func (m Methods) KitShare() float64 {
	switch m.Kits {
	case OneKit:
		return 1
	case HalfKits:
		return 0.5
	case ThirdKits:
		return 1.0 / 3
	}
	return 0
}

func ask[T ~string](part Part, id Key, title string, field func(*Methods) *T, choices ...Choice) Question {
	return Question{
		ID: id, Title: title, Part: part, Choices: choices,
		chosen: func(m *Methods) string { return string(*field(m)) },
		choose: func(m *Methods, v string) { *field(m) = T(v) },
	}
}

func answer[T ~string](value T, name, reason, consequence string) Choice {
	return Choice{string(value), name, reason, consequence}
}

// Values returns all values, in the order in which they are shown.
func (Acid) Values() []Acid {
	return []Acid{Muriatic, Citric}
}

// Values returns all values, in the order in which they are shown.
func (Between) Values() []Between {
	return []Between{ByWindow, SandEvery, WhileTacky}
}

// Values returns all values, in the order in which they are shown.
func (Bubbles) Values() []Bubbles {
	return []Bubbles{LeaveBubbles, Torch, HeatGun, HairDryer, Alcohol}
}

// Heats reports whether they are driven out by what lights vapour.
func (b Bubbles) Heats() bool { return b == Torch || b == HeatGun || b == HairDryer }

// Values returns all values, in the order in which they are shown.
func (Doors) Values() []Doors {
	return []Doors{UnderDoor, BeyondDoor}
}

// Values returns all values, in the order in which they are shown.
func (Vessels) Values() []Vessels {
	return []Vessels{FreshVessels, ReusedVessels}
}

// Values returns all values, in the order in which they are shown.
func (Filler) Values() []Filler {
	return []Filler{EpoxyFiller, BodyFiller, WetPutty}
}

// Values returns all values, in the order in which they are shown.
func (Levelling) Values() []Levelling {
	return []Levelling{SameFiller, ResinMortar}
}

// Values returns all values, in the order in which they are shown.
func (First) Values() []First {
	return []First{AFirst, BFirst}
}

// Values returns all values, in the order in which they are shown.
func (Kits) Values() []Kits {
	return []Kits{WholeKits, OneKit, HalfKits, ThirdKits, Measured}
}

// Values returns all values, in the order in which they are shown.
func (Laying) Values() []Laying {
	return []Laying{PourAndSpread, DipAndRoll, Trowel, Brush, Spray}
}

// Values returns all values, in the order in which they are shown.
func (OldPaint) Values() []OldPaint {
	return []OldPaint{RemovePaint, CoatOver, StripGel}
}

// Values returns all values, in the order in which they are shown.
func (Opening) Values() []Opening {
	return []Opening{Grind, ShotBlast, Screen, Etch}
}

// Values returns all values, in the order in which they are shown.
func (Residue) Values() []Residue {
	return []Residue{SecondBucket, SecondLong, Scrape, Remix, Drain}
}

// Values returns all values, in the order in which they are shown.
func (Resting) Values() []Resting {
	return []Resting{RestBySheet, Rest, UseAtOnce}
}

// Values returns all values, in the order in which they are shown.
func (Session) Values() []Session {
	return []Session{WholeFloor, TapeLines}
}

// Values returns all values, in the order in which they are shown.
func (Shelf) Values() []Shelf {
	return []Shelf{ByDate, IfSealed}
}

// Values returns all values, in the order in which they are shown.
func (Texture) Values() []Texture {
	return []Texture{StirredIn, Scattered}
}

// Values returns all values, in the order in which they are shown.
func (Thinning) Values() []Thinning {
	return []Thinning{NeverThin, ThinFirst}
}

// Values returns all values, in the order in which they are shown.
func (Tinting) Values() []Tinting {
	return []Tinting{TintAfter, TintBefore}
}

// Values returns all values, in the order in which they are shown.
func (Warmth) Values() []Warmth {
	return []Warmth{KeepCool, WarmUp}
}
