// Package fact names what bears on how a floor comes out, as far as a record tells it.
package fact

// Key names something that bears on how a floor comes out.
type Key string

// The facts that a record can tell.
const (
	OffRatio     Key = "off-ratio"
	MuchHardener Key = "much-hardener"
	UnderMixed   Key = "under-mixed"
	PouredLate   Key = "poured-late"
	HotBucket    Key = "hot-bucket"
	ColdSlab     Key = "cold-slab"
	NearDew      Key = "near-dew-point"
	Damp         Key = "damp-air"
	Warming      Key = "slab-warming"
	JoinedLate   Key = "joined-late"
	SlowSection  Key = "slow-section"
	ThinFilm     Key = "thin-film"
	ThickFilm    Key = "thick-film"
	UnevenFilm   Key = "uneven-film"
	MissedWindow Key = "missed-window"
	TooEarly     Key = "too-early"
	ExpiredLot   Key = "expired-lot"
	OpenSurface  Key = "surface-gate"
	OpenDust     Key = "dust-gate"
	OpenWater    Key = "water-gate"
	OpenForecast Key = "forecast-gate"
	Ambers       Key = "ambers"
	Stood        Key = "stood"
	OverMixed    Key = "over-mixed"
	OtherLots    Key = "different-lots"
	// of the ground, as its survey told
	DampSlab     Key = "damp-slab"
	YoungSlab    Key = "young-slab"
	Contaminated Key = "contaminated"
	WeakSlab     Key = "weak-slab"
	NoProfile    Key = "no-profile"
	OffPH        Key = "ph"
	OpenPores    Key = "open-pores"
)

// Fact is something that the record knows about a coat or one of its batches: that it was so, or that it was not.
type Fact struct {
	Key    Key     `json:"key"`
	Coat   string  `json:"coat"`
	Batch  int     `json:"batch,omitempty" doc:"The whole coat when left out"`
	So     bool    `json:"so" doc:"It was so; else the record shows that it was not"`
	By     float64 `json:"by,omitempty" doc:"How far, in shares of what is allowed: 1 is as much again"`
	Weak   bool    `json:"weak,omitempty" doc:"It rests on a phrase that was touched, not on words or a reading"`
	Ground bool    `json:"ground,omitempty" doc:"What its survey told of the ground: no deviation of the work"`
	Text   string  `json:"text"`
}

// Deviates reports whether a fact is one that the plan did not want.
func (f *Fact) Deviates() bool { return f.So && !f.Ground }
