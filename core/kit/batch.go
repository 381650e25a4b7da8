package kit

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"nephelon/core/measure"
)

// Bucket is the pail a batch is mixed in.
type Bucket struct {
	Volume   measure.Volume   `json:"volume" exclusiveMinimum:"0" maximum:"1" doc:"m³ to the brim"`
	Headroom measure.Fraction `json:"headroom" minimum:"0" maximum:"0.9" doc:"Share kept free for the paddle"`
	Pail     *Pail            `json:"pail,omitempty" doc:"Inner dimensions of the pail, for marks by height"`
	Tare     measure.Mass     `json:"tare,omitempty" minimum:"0" maximum:"20" doc:"kg it weighs empty, where the scale is not tared with it"`
}

// Pail is the inside of a tapered bucket.
type Pail struct {
	Bottom measure.Length `json:"bottom" exclusiveMinimum:"0" maximum:"2" doc:"m across"`
	Top    measure.Length `json:"top" exclusiveMinimum:"0" maximum:"2" doc:"m across at the brim"`
	Height measure.Length `json:"height" exclusiveMinimum:"0" maximum:"2" doc:"m"`
}

// Holds returns what the pail holds to a height, m³: a frustum of a cone.
func (p Pail) Holds(height measure.Length) measure.Volume {
	share := height / p.Height
	a, b := float64(p.Bottom)/2, float64(p.Bottom+(p.Top-p.Bottom)*share)/2
	return measure.Volume(math.Pi * float64(height) / 3 * (a*a + a*b + b*b))
}

// HeightOf returns how high a volume stands in the pail, m; the brim where it runs
// over.
func (p Pail) HeightOf(v measure.Volume) measure.Length {
	low, high := measure.Length(0), p.Height
	if v >= p.Holds(high) {
		return high
	}
	for high-low > 1e-6 {
		if middle := (low + high) / 2; p.Holds(middle) < v {
			low = middle
		} else {
			high = middle
		}
	}
	return high
}

// Usable returns what may be mixed in the bucket.
func (b Bucket) Usable() measure.Volume {
	return b.Volume * measure.Volume(1-b.Headroom)
}

// LimitKind names what bounds a batch.
type LimitKind string

// The limits of a batch.
const (
	ByBucket  LimitKind = "bucket"
	ByPotLife LimitKind = "pot-life"
	ByPolicy  LimitKind = "kit-policy"
	BySheet   LimitKind = "sheet-mass"
	ByChoice  LimitKind = "choice"
	ByDrum    LimitKind = "drum"     // of the mixer that turns its stones
	ByEdge    LimitKind = "wet-edge" // as the train of batches runs
)

// Limit is one reason why a batch may not be larger.
type Limit struct {
	Kind   LimitKind      `json:"kind"`
	Volume measure.Volume `json:"volume" doc:"m³"`
	Text   string         `json:"text"`
}

// Batch holds what is mixed at once in one bucket.
type Batch struct {
	ID     string         `json:"id" doc:"Stays with the batch while its coat and its place in the order stay"`
	Number int            `json:"number" doc:"From 1, in the order of mixing"`
	Volume measure.Volume `json:"volume" doc:"m³"`
	Mass   measure.Mass   `json:"mass" doc:"kg"`
	Share  string         `json:"share" doc:"How much of a kit it is, in words"`
}

// Division is a coat cut into batches.
type Division struct {
	Batches []Batch        `json:"batches"`
	Limits  []Limit        `json:"limits" doc:"The tightest first"`
	Mixed   measure.Volume `json:"mixed" doc:"m³ mixed in all"`
	Excess  measure.Volume `json:"excess" doc:"m³ mixed above the need"`
	Reason  string         `json:"reason"`
	Relax   []string       `json:"relax,omitempty" doc:"What would allow larger batches, in sentences"`
}

// Equal is the number of batches where all are equal, else 0.
func (d Division) Equal() int {
	for _, b := range d.Batches {
		if b.Volume != d.Batches[0].Volume {
			return 0
		}
	}
	return len(d.Batches)
}

// AtHand is the kits bought for a product, taken down as coats are divided.
type AtHand struct {
	lines []handLine
	need  measure.Volume
	total measure.Volume
	later measure.Volume // needs of the coats not yet divided
	mixed measure.Volume // by those that are
}

type handLine struct {
	name   string
	volume measure.Volume
	left   float64 // kits
}

// NewAtHand returns what a purchase puts on the shelf.
func NewAtHand(p Purchase) *AtHand {
	s := &AtHand{need: p.Need, total: p.Bought, later: p.Need}
	for _, h := range p.Stock {
		s.lines = append(s.lines, handLine{"from stock", h.Volume, 1})
	}
	for _, l := range p.Lines {
		s.lines = append(s.lines, handLine{l.Kit, l.Volume, float64(l.Count)})
	}
	return s
}

// Copy returns the same kits at hand, to be taken down apart.
func (s *AtHand) Copy() *AtHand {
	other := *s
	other.lines = slices.Clone(s.lines)
	return &other
}

// Largest is the largest kit at hand.
func (s *AtHand) Largest() measure.Volume {
	largest := measure.Volume(0)
	for _, l := range s.lines {
		largest = max(largest, l.volume)
	}
	return largest
}

// allowance returns what one coat may mix of the purchase: its need and its part of
// the leftover.
func (s *AtHand) allowance(need measure.Volume) measure.Volume {
	return measure.Volume(float64(need) * float64(s.total) / float64(s.need))
}

// spare returns what one coat may mix in whole kits: all that the coats after it can do
// without.
func (s *AtHand) spare(need measure.Volume) measure.Volume {
	return s.total - s.mixed - (s.later - need)
}

// cleanParts are the fractions of a kit a crew can measure without a scale.
var cleanParts = [...]struct {
	share float64
	name  string
}{{3.0 / 4, "¾"}, {2.0 / 3, "⅔"}, {1.0 / 2, "½"}, {1.0 / 3, "⅓"}, {1.0 / 4, "¼"}, {1.0 / 5, "⅕"}, {1.0 / 6, "⅙"},
	{1.0 / 8, "⅛"}}

// MeasuredShare is the share of a kit that a batch is called by where it is no clean one.
const MeasuredShare = "measured"

// maxBatches is more than any crew mixes for one coat in one session.
const maxBatches = 400

// How much more than the need may be mixed to keep to whole kits or to clean
// fractions, and so end in a thicker film: common practice, no source.
const (
	wholeKitExcess = 0.15
	fractionExcess = 0.08
)

// Divide cuts a coat's need into batches none of which passes the largest
// allowed volume, out of what was bought. Equal whole kits are preferred, then
// equal clean fractions of a kit, then whole kits of the sizes bought, then
// equal measured batches. Where every batch is measured anyhow, all are equal and
// as large as allowed. It fails with a reason when no batch is possible.
func Divide(need measure.Volume, limits []Limit, supply *AtHand, measured bool) (Division, error) {
	d := Division{Limits: limits}
	largest := limits[0].Volume
	if !(largest > 0) || !(math.Ceil(float64(need/largest)) <= maxBatches) {
		return d, tooMany()
	}
	allowed := min(supply.allowance(need), supply.spare(need))
	fewest := int(math.Ceil(float64(need) / float64(largest) * (1 - slack)))
	choice, ok := chosen{}, false
	why := "You measure every batch, so all are equal, and as few as the limit allows."
	if !measured {
		why = "Neither whole kits nor a clean fraction of one comes close to the need within the limit, so the batches are " +
			"measured, all equal."
		if choice, ok = supply.equal(need, allowed, largest, fewest); !ok {
			choice, ok = supply.asBought(need, largest)
		}
	}
	if !ok {
		choice = chosen{volumes: same(need/measure.Volume(fewest), fewest), share: MeasuredShare, why: why}
	}
	supply.take(choice, need)
	for i, v := range choice.volumes {
		share := choice.share
		if choice.names != nil {
			share = "1 × " + choice.names[i]
		}
		d.Batches = append(d.Batches, Batch{Number: i + 1, Volume: v, Share: share})
		d.Mixed += v
	}
	d.Excess = max(0, d.Mixed-need)
	d.Reason = choice.why
	return d, nil
}

// Between divides a need into shares that leave a join at each of some places, ascending from
// 0 to 1: what lies between two of them in as few equal ones as a limit allows.
func Between(need, limit measure.Volume, pinned []float64) ([]float64, error) {
	if !(limit > 0) {
		return nil, tooMany()
	}
	var shares []float64
	before := 0.0
	for _, at := range append(slices.Clone(pinned), 1) {
		part := at - before
		n := math.Max(1, math.Ceil(part*float64(need/limit)*(1-slack)))
		if !(float64(len(shares))+n <= maxBatches) {
			return nil, tooMany()
		}
		for range int(n) {
			shares = append(shares, part/n)
		}
		before = at
	}
	return shares, nil
}

func tooMany() error {
	return fmt.Errorf("more than %d batches would be needed", maxBatches)
}

// DivideAs cuts a coat's need into measured batches in the proportion of shares. It says
// which of them pass the tightest limit, from 1.
func DivideAs(need measure.Volume, shares []float64, limits []Limit, supply *AtHand) (d Division, over []int) {
	d = Division{Limits: limits, Reason: "You placed the joints, so every batch is measured for its section."}
	whole := 0.0
	for _, s := range shares {
		whole += s
	}
	choice := chosen{volumes: make([]measure.Volume, len(shares))}
	for i, s := range shares {
		v := need * measure.Volume(s/whole)
		choice.volumes[i] = v
		d.Batches = append(d.Batches, Batch{Number: i + 1, Volume: v, Share: MeasuredShare})
		if v > limits[0].Volume*(1+slack) {
			over = append(over, i+1)
		}
	}
	d.Mixed = need
	supply.take(choice, need)
	return d, over
}

// chosen is a way to divide a need.
type chosen struct {
	volumes []measure.Volume
	names   []string // kit of each batch, where whole kits differ
	share   string
	why     string
	line    int     // supply line it is taken from
	kits    float64 // kits it takes from that line
}

// equal looks for equal batches of whole kits, then of clean fractions, the
// largest first. Fractions may not need many more than the fewest batches.
func (s *AtHand) equal(need, allowed, largest measure.Volume, fewest int) (chosen, bool) {
	best, found := chosen{}, false
	var bestVolume measure.Volume
	consider := func(line int, size, excess float64, most int) bool {
		z := s.lines[line]
		v := z.volume * measure.Volume(size)
		if v > largest*(1+slack) || v <= bestVolume {
			return false
		}
		n := math.Ceil(float64(need) / float64(v) * (1 - slack))
		mixed := measure.Volume(n) * v
		most, may := most, allowed
		if size >= 1 {
			may = max(allowed, s.spare(need))
		}
		over := mixed > may*(1+slack) || float64(mixed/need) > 1+excess
		if over || int(n) > most || n*size > z.left*(1+slack) {
			return false
		}
		best, found, bestVolume = chosen{volumes: same(v, int(n)), line: line, kits: n * size}, true, v
		return true
	}
	for i, z := range s.lines {
		for k := int(float64(largest) / float64(z.volume) * (1 + slack)); k >= 1; k-- {
			if consider(i, float64(k), wholeKitExcess, maxBatches) {
				best.share = fmt.Sprintf("%d × %s", k, z.name)
				best.why = "Whole kits in equal batches: nothing has to be measured."
			}
		}
	}
	if found {
		return best, true
	}
	for i, z := range s.lines {
		for _, part := range cleanParts {
			if consider(i, part.share, fractionExcess, fewest+max(1, fewest/2)) {
				best.share = part.name + " × " + z.name
				best.why = "Whole kits do not fit the limit or the need, so every batch is the same clean fraction of a kit."
			}
		}
	}
	return best, found
}

// asBought mixes every kit bought as one batch, where this coat is alone in
// using them.
func (s *AtHand) asBought(need, largest measure.Volume) (chosen, bool) {
	if math.Abs(float64(need-s.need)) > slack*float64(s.need) {
		return chosen{}, false
	}
	c := chosen{line: -1, why: "Whole kits as bought, one to a batch: nothing has to be measured."}
	if float64(s.total/need) > 1+wholeKitExcess {
		return chosen{}, false
	}
	falling := slices.SortedFunc(slices.Values(s.lines),
		func(a, b handLine) int { return cmp.Compare(b.volume, a.volume) })
	for _, z := range falling {
		if z.volume > largest*(1+slack) {
			return chosen{}, false
		}
		for range int(z.left) {
			c.volumes = append(c.volumes, z.volume)
			c.names = append(c.names, z.name)
		}
	}
	if len(c.volumes) == 0 || len(c.volumes) > maxBatches {
		return chosen{}, false
	}
	if c.volumes[0] > c.volumes[len(c.volumes)-1]*(1+slack) {
		c.why = "Whole kits as bought, one to a batch: the sizes differ, so the sections differ with them. The smallest " +
			"comes last."
	}
	return c, true
}

func (s *AtHand) take(c chosen, need measure.Volume) {
	s.later -= need
	for _, v := range c.volumes {
		s.mixed += v
	}
	if c.kits > 0 {
		s.lines[c.line].left -= c.kits
	}
}

func same(v measure.Volume, n int) []measure.Volume {
	volumes := make([]measure.Volume, n)
	for i := range volumes {
		volumes[i] = v
	}
	return volumes
}

// Values returns all values, in the order in which they are shown.
func (LimitKind) Values() []LimitKind {
	return []LimitKind{ByBucket, ByPotLife, ByPolicy, BySheet, ByChoice, ByDrum, ByEdge}
}
