package takeoff

import (
	"fmt"
	"math"
	"strings"

	"nephelon/core/geometry"
	"nephelon/core/measure"
)

// Leg is one wall of a tape walk.
type Leg struct {
	Length  measure.Length `json:"length" doc:"m"`
	Heading measure.Angle  `json:"heading" doc:"Degrees counter-clockwise from the x axis of the plan"`
	Echo    string         `json:"echo" doc:"How it was read"`
}

// WalkError says where a typed walk could not be followed.
type WalkError struct {
	Text   string
	Remedy string
}

func (e *WalkError) Error() string { return e.Text + " " + e.Remedy }

const walkRemedy = "Write it like 7.4 m, left, 5.2 m, right 30, 2 m; a rectangle like 8 m × 5 m; or pin an odd " +
	"corner with a diagonal: 3.1 m diagonal 6.2 m left."

// maxLegs bounds one typed walk.
const maxLegs = 500

// ReadWalk follows a walk as people write it: lengths and turns, one after
// another, separated by commas, semicolons or new lines. The first wall runs in
// the given heading. A turn is "left" or "right", by 90° unless degrees follow.
// A wall may be pinned by a diagonal instead of an angle: "3.1 m diagonal 6.2 m
// left" runs 3.1 m to a place 6.2 m from where the wall before began, turning
// left. Two lengths with × between them are a rectangle: its first three walls,
// turning left; the fourth closes it. It returns the walls and the heading in
// which the next one runs.
func ReadWalk(text string, heading measure.Angle, before *Leg, units measure.System) ([]Leg, measure.Angle, error) {
	if sides := Rectangle(text); sides != nil {
		return readRectangle(sides, text, heading, before, units)
	}
	var legs []Leg
	for _, part := range readings(text) {
		words := strings.ToLower(strings.TrimSpace(part))
		if words == "" {
			continue
		}
		if turn, degrees := readTurn(words); turn != 0 {
			by, err := turnBy(degrees, part, units)
			if err != nil {
				return nil, heading, err
			}
			heading = normal(heading + measure.Angle(turn)*by)
			continue
		}
		if len(legs) > 0 {
			before = &legs[len(legs)-1]
		}
		leg, err := readLeg(words, part, heading, before, units)
		if err != nil {
			return nil, heading, err
		}
		if legs = append(legs, leg); len(legs) > maxLegs {
			return nil, heading, &WalkError{fmt.Sprintf("A walk of more than %d walls cannot be typed at once.", maxLegs),
				"Type it in parts."}
		}
		heading = leg.Heading
	}
	if len(legs) == 0 && strings.TrimSpace(text) == "" {
		return nil, heading, &WalkError{"Nothing is typed.", walkRemedy}
	}
	return legs, heading, nil
}

// Rectangle returns the two lengths of a typed rectangle, such as "8 m × 5 m", "8 x 5" or
// "8 by 5"; nil where the text is none.
func Rectangle(text string) []string {
	sides := strings.Split(strings.NewReplacer("×", "x", " by ", "x").Replace(strings.ToLower(text)), "x")
	if len(sides) != 2 || strings.TrimSpace(sides[0]) == "" || strings.TrimSpace(sides[1]) == "" {
		return nil
	}
	return sides
}

func readRectangle(sides []string, text string, heading measure.Angle, before *Leg,
	units measure.System) ([]Leg, measure.Angle, error) {
	if before != nil {
		return nil, heading, &WalkError{fmt.Sprintf("“%s”: a rectangle begins an outline.", strings.TrimSpace(text)),
			"Type its walls one by one."}
	}
	along, err := readLength(sides[0], text, units)
	if err != nil {
		return nil, heading, err
	}
	across, err := readLength(sides[1], text, units)
	if err != nil {
		return nil, heading, err
	}
	legs := make([]Leg, 0, 3)
	for i, length := range []measure.Length{along, across, along} {
		legs = append(legs, Leg{Length: length, Heading: normal(heading + measure.Angle(90*i)), Echo: units.Length(length)})
	}
	return legs, normal(heading + 270), nil
}

// readings parts a walk at commas, semicolons and new lines. A comma between two
// figures belongs to a number, such as 7,4 m.
func readings(text string) []string {
	var parts []string
	digit := func(i int) bool { return i >= 0 && i < len(text) && text[i] >= '0' && text[i] <= '9' }
	from := 0
	for i := range len(text) {
		switch text[i] {
		case ',':
			if digit(i-1) && digit(i+1) {
				continue
			}
		case ';', '\n':
		default:
			continue
		}
		parts = append(parts, text[from:i])
		from = i + 1
	}
	return append(parts, text[from:])
}

// readTurn recognises a turn at the head of some words: 1 for left, −1 for
// right, 0 for none, with the degrees that follow it.
func readTurn(words string) (turn int, degrees string) {
	head, tail, _ := strings.Cut(words, " ")
	switch head {
	case "left", "l":
		return 1, strings.TrimSpace(tail)
	case "right", "r":
		return -1, strings.TrimSpace(tail)
	}
	return 0, ""
}

func turnBy(degrees, part string, units measure.System) (measure.Angle, error) {
	const square = 90
	if degrees == "" {
		return square, nil
	}
	by, err := units.Read(measure.KindAngle, degrees)
	if err != nil || by <= 0 || by >= 180 {
		return 0, &WalkError{fmt.Sprintf("“%s”: a turn must be between 0° and 180°.", strings.TrimSpace(part)), walkRemedy}
	}
	return measure.Angle(by), nil
}

// readLeg reads a length, or a length with the diagonal that pins it.
func readLeg(words, part string, heading measure.Angle, before *Leg, units measure.System) (Leg, error) {
	length, pin, pinned := strings.Cut(words, "diag")
	leg := Leg{Heading: heading}
	metres, err := readLength(length, part, units)
	if err != nil {
		return leg, err
	}
	leg.Length, leg.Echo = metres, units.Length(metres)
	if !pinned {
		return leg, nil
	}
	pin = strings.TrimPrefix(strings.TrimPrefix(pin, "onal"), ".")
	turn, side := 1, "left"
	switch fields := strings.Fields(pin); {
	case len(fields) > 1 && (fields[len(fields)-1] == "right" || fields[len(fields)-1] == "r"):
		turn, side = -1, "right"
		pin = strings.Join(fields[:len(fields)-1], " ")
	case len(fields) > 1 && (fields[len(fields)-1] == "left" || fields[len(fields)-1] == "l"):
		pin = strings.Join(fields[:len(fields)-1], " ")
	}
	diagonal, err := readLength(pin, part, units)
	if err != nil {
		return leg, err
	}
	if before == nil {
		return leg, &WalkError{fmt.Sprintf("“%s”: a diagonal is measured to the start of the wall before, and there is none.",
			strings.TrimSpace(part)), "Begin with a wall without one."}
	}
	by, ok := pinnedTurn(before.Length, metres, diagonal)
	if !ok {
		return leg, &WalkError{
			fmt.Sprintf("“%s”: walls of %s and %s cannot have a diagonal of %s.", strings.TrimSpace(part),
				units.Length(before.Length), units.Length(metres), units.Length(diagonal)),
			fmt.Sprintf("It must be between %s and %s; measure it again.",
				units.Length(measure.Length(math.Abs(float64(before.Length-metres)))), units.Length(before.Length+metres)),
		}
	}
	leg.Heading = normal(before.Heading + measure.Angle(turn)*by)
	leg.Echo = fmt.Sprintf("%s, %s %.1f°", leg.Echo, side, float64(by))
	return leg, nil
}

func readLength(text, part string, units measure.System) (measure.Length, error) {
	metres, err := units.Read(measure.KindLength, text)
	if err != nil {
		return 0, &WalkError{err.Error(), ""}
	}
	if metres <= 0 {
		return 0, &WalkError{fmt.Sprintf("“%s”: a wall must be longer than 0.", strings.TrimSpace(part)), walkRemedy}
	}
	return measure.Length(metres), nil
}

// pinnedTurn is the turn between two walls whose far ends lie a diagonal apart,
// by the law of cosines. It fails where the three make no triangle.
func pinnedTurn(a, b, diagonal measure.Length) (measure.Angle, bool) {
	cosine := float64((a*a + b*b - diagonal*diagonal) / (2 * a * b)) // of the inner angle
	if cosine < -1 || cosine > 1 {
		return 0, false
	}
	return measure.Angle(180 - math.Acos(cosine)*180/math.Pi), true
}

func normal(a measure.Angle) measure.Angle {
	n := math.Mod(float64(a), 360)
	if n < 0 {
		n += 360
	}
	return measure.Angle(n)
}

// Mend is one way to make a walk close.
type Mend struct {
	Text   string        `json:"text"`
	Likely bool          `json:"likely" doc:"The slip is one that tapes and pencils make"`
	Points geometry.Ring `json:"points" doc:"The walk as it would then run, its end left off"`
}

// Closure holds how well a walk that came back to its start closes.
type Closure struct {
	Closes bool           `json:"closes"`
	Gap    measure.Length `json:"gap" doc:"From the end to the start, m"`
	Right  measure.Length `json:"right" doc:"How far to the right the end lies from the start, m; negative to the left"`
	Up     measure.Length `json:"up" doc:"How far up, m; negative down"`
	Text   string         `json:"text"`
	Mends  []Mend         `json:"mends" doc:"The likeliest first"`
}

// closeEnough is the gap that a steel tape and a steady hand leave: 5 mm, or one
// in a thousand of the walk. Common practice, no source.
func closeEnough(walked float64) float64 { return math.Max(0.005, walked/1000) }

// spreadMost is the share of the walk up to which a gap may be spread over all
// walls instead of being sought in one: common practice, no source.
const spreadMost = 0.01

// CheckWalk looks at a walk that is back at its start: the corners in order,
// the last of them where the tape ended. Where it does not close, it names each
// single reading that would explain the gap, and what it should have been.
func CheckWalk(corners geometry.Ring, units measure.System) Closure {
	start, end := corners[0], corners[len(corners)-1]
	miss := end.Minus(start)
	walked := 0.0
	for i := 1; i < len(corners); i++ {
		walked += corners[i-1].Distance(corners[i])
	}
	c := Closure{Gap: measure.Length(start.Distance(end)), Right: measure.Length(miss.X), Up: measure.Length(miss.Y),
		Mends: []Mend{}}
	if float64(c.Gap) <= closeEnough(walked) {
		c.Closes = true
		c.Text = fmt.Sprintf("The walk closes to within %s.", units.Length(c.Gap))
		c.Mends = append(c.Mends, spread(corners, walked, units))
		return c
	}
	c.Text = fmt.Sprintf("The walk ends %s from its start: %s.", units.Length(c.Gap), where(miss, units))
	var rest []Mend
	for i := 1; i < len(corners); i++ {
		if mend, ok := relength(corners, i, miss, walked, units); ok {
			if mend.Likely {
				c.Mends = append(c.Mends, mend)
			} else {
				rest = append(rest, mend)
			}
		}
	}
	c.Mends = append(c.Mends, turns(corners, walked)...)
	c.Mends = append(c.Mends, rest...)
	if float64(c.Gap) <= spreadMost*walked {
		c.Mends = append(c.Mends, spread(corners, walked, units))
	}
	return c
}

func where(miss geometry.Point, units measure.System) string {
	var parts []string
	add := func(by float64, positive, negative string) {
		if math.Abs(by) >= geometry.Tolerance {
			word := positive
			if by < 0 {
				word = negative
			}
			parts = append(parts, units.Length(measure.Length(math.Abs(by)))+" "+word)
		}
	}
	add(miss.X, "too far right", "too far left")
	add(miss.Y, "too far up", "too far down")
	return strings.Join(parts, " and ")
}

// relength asks whether another length of wall i alone would close the walk.
func relength(corners geometry.Ring, i int, miss geometry.Point, walked float64, units measure.System) (Mend, bool) {
	a, b := corners[i-1], corners[i]
	length := a.Distance(b)
	ux, uy := (b.X-a.X)/length, (b.Y-a.Y)/length
	along := miss.X*ux + miss.Y*uy
	aside := math.Abs(miss.Y*ux - miss.X*uy)
	right := length - along
	if aside > closeEnough(walked) || right <= geometry.Tolerance {
		return Mend{}, false
	}
	moved := make(geometry.Ring, 0, len(corners)-1)
	for k, p := range corners[:len(corners)-1] {
		if k >= i {
			p = geometry.Point{X: p.X - along*ux, Y: p.Y - along*uy}
		}
		moved = append(moved, p)
	}
	slip := slipOf(length, right, units)
	text := fmt.Sprintf("Wall %d would be %s instead of %s", i, units.Length(measure.Length(right)),
		units.Length(measure.Length(length)))
	if slip != "" {
		text += ": " + slip
	}
	return Mend{Text: text + ".", Likely: slip != "", Points: moved}, true
}

// slipOf names the slip that turns the right reading into the wrong one, where
// it is one that tapes and pencils make.
func slipOf(wrong, right float64, units measure.System) string {
	const close = 0.004
	near := func(a, b float64) bool { return math.Abs(a-b) < close }
	by := math.Abs(wrong - right)
	switch {
	case swapped(wrong, right, 1000) || swapped(wrong, right, 100):
		return "two figures changed places"
	case units.Units() == measure.US && swappedFeet(wrong, right):
		return "feet and inches changed places"
	case near(by, measure.Foot):
		return "a foot miscounted"
	case near(by, 1):
		return "a metre miscounted"
	case near(by, 0.1):
		return "ten centimetres misread"
	case near(wrong, 2*right) || near(right, 2*wrong):
		return "counted twice or half"
	}
	return ""
}

// swapped reports whether two neighbouring figures of the one reading, in parts
// of a metre, changed places in the other.
func swapped(a, b, parts float64) bool {
	x, y := int(math.Round(a*parts)), int(math.Round(b*parts))
	if math.Abs(a*parts-float64(x)) > 0.05 || math.Abs(b*parts-float64(y)) > 0.5 {
		return false
	}
	first, second := fmt.Sprint(x), fmt.Sprint(y)
	if len(first) != len(second) || first == second {
		return false
	}
	for i := 0; i+1 < len(first); i++ {
		if first[:i]+string(first[i+1])+string(first[i])+first[i+2:] == second {
			return true
		}
	}
	return false
}

// swappedFeet reports whether 6' 8" was read for 8' 6".
func swappedFeet(a, b float64) bool {
	inches := func(m float64) (feet, rest int) {
		all := int(math.Round(m / measure.Inch))
		return all / 12, all % 12
	}
	af, ai := inches(a)
	bf, bi := inches(b)
	return af == bi && ai == bf && af != ai
}

// turns asks whether one turn walked the other way would close the walk: left
// for right or right for left.
func turns(corners geometry.Ring, walked float64) []Mend {
	var mends []Mend
	for i := 1; i < len(corners)-1; i++ {
		into, out := corners[i].Minus(corners[i-1]), corners[i+1].Minus(corners[i])
		by := math.Atan2(into.X*out.Y-into.Y*out.X, into.X*out.X+into.Y*out.Y)
		if math.Abs(math.Sin(by)) < 1e-6 {
			continue
		}
		sin, cos := math.Sincos(-2 * by)
		turned := make(geometry.Ring, len(corners))
		copy(turned, corners)
		for k := i + 1; k < len(corners); k++ {
			d := corners[k].Minus(corners[i])
			turned[k] = geometry.Point{X: corners[i].X + cos*d.X - sin*d.Y, Y: corners[i].Y + sin*d.X + cos*d.Y}
		}
		last := turned[len(turned)-1]
		if last.Distance(corners[0]) > closeEnough(walked) {
			continue
		}
		was, is := "left", "right"
		if by < 0 {
			was, is = is, was
		}
		mends = append(mends, Mend{
			Text:   fmt.Sprintf("After wall %d the walk would turn %s, not %s.", i, is, was),
			Likely: true, Points: turned[:len(turned)-1],
		})
	}
	return mends
}

// spread shares the gap over all walls in proportion to how far along the walk
// they lie: the compass rule of surveying (N. Bowditch, 1808; from memory).
func spread(corners geometry.Ring, walked float64, units measure.System) Mend {
	miss := corners[len(corners)-1].Minus(corners[0])
	moved := make(geometry.Ring, 0, len(corners)-1)
	so := 0.0
	for k, p := range corners[:len(corners)-1] {
		if k > 0 {
			so += corners[k-1].Distance(p)
		}
		moved = append(moved, geometry.Point{X: p.X - miss.X*so/walked, Y: p.Y - miss.Y*so/walked})
	}
	return Mend{Text: fmt.Sprintf("Spread the %s over all walls.",
		units.Length(measure.Length(math.Hypot(miss.X, miss.Y)))), Points: moved}
}
