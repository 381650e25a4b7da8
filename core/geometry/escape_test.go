package geometry

import "testing"

// Two rooms of 5 × 5 m on either side of a hall of 2 × 12 m, the exit at the hall's end.
// Section 1 is the hall's inner half, section 2 both rooms: by hand, nobody comes out of
// the room behind section 1, and 2 m of wet film lie on the way.
func TestEscapesOfEveryPartOfAPiece(t *testing.T) {
	floor := Polygon{Outline: Ring{
		{X: 0, Y: 0}, {X: 12, Y: 0}, {X: 12, Y: 2}, {X: 10, Y: 2}, {X: 10, Y: 7}, {X: 5, Y: 7}, {X: 5, Y: 2}, {X: 4.9, Y: 2},
		{X: 4.9, Y: 7}, {X: 0, Y: 7},
	}}
	if fault := floor.Check(); fault != nil {
		t.Fatal(fault)
	}
	left, right, hall := box(0, 2, 4.9, 5), box(5, 2, 5, 5), box(5, 0, 7, 2)
	pieces := []Piece{
		{Rings: []Ring{box(0, 0, 5, 2)}},
		{Rings: []Ring{left, right}},
		{Rings: []Ring{hall}},
	}
	exit := Point{X: 12, Y: 1}
	got := new(Ground).Escapes(floor, pieces, []Point{exit}, 0.6)
	if got[0].Blocked || !got[1].Blocked || got[2].Blocked {
		t.Fatalf("%+v", got)
	}
	// From the left room down into section 1, and over it to the hall: from (4.9, 2) about
	// 0.1 m of wet film where the walls allow a corner to be cut, told within two cells.
	if wet := got[1].Wet; wet <= 0 || wet > 0.5 {
		t.Errorf("%.2f m of wet film", wet)
	}
	// The other way round both rooms come out dry.
	pieces[0], pieces[1] = pieces[1], pieces[0]
	for k, e := range new(Ground).Escapes(floor, pieces, []Point{exit}, 0.6) {
		if e.Blocked {
			t.Errorf("piece %d is told as cut off", k+1)
		}
	}
}
