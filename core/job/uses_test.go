package job

import (
	"reflect"
	"testing"

	"nephelon/core/buildup"
	"nephelon/core/material"
	"nephelon/core/survey"

	"nephelon/core/geometry"
	"nephelon/core/takeoff"
)

// Every way in which a coat can name a medium.
func named() buildup.Coat {
	return buildup.Coat{
		ID: "c", Product: "p",
		Scatter: &buildup.Scatter{Medium: "quartz", Degree: "full"}, Grit: &buildup.Grit{Medium: "grit"},
		Pigment: &buildup.Tint{Medium: "tint"},
		Colours: &buildup.Colouring{Colours: []buildup.Colour{{Name: "clear"}, {Name: "green", Medium: "green"}}},
	}
}

func file(surfaces ...Surface) File {
	f := File{Job: Job{Surfaces: surfaces}}
	for _, id := range []string{"p", "idle"} {
		f.Products = append(f.Products, material.Product{ID: id})
	}
	f.Media = []material.Medium{{ID: "quartz"}, {ID: "grit"}, {ID: "tint"}, {ID: "green"}, {ID: "unused"},
		{ID: "rake", Kind: "tool"}, {ID: "tape", Kind: "supply"}}
	return f
}

func ids(f File) (all []string) {
	for _, p := range f.Products {
		all = append(all, p.ID)
	}
	for _, m := range f.Media {
		all = append(all, m.ID)
	}
	return all
}

// A file is pruned of what no coat names, in whatever way coats name things; a
// system lists the same media, and a copied surface brings them.
func TestMediaAreNamedInOnePlace(t *testing.T) {
	from := file(Surface{ID: "s", Coats: []buildup.Coat{named()}})
	if got, want := ids(from.Pruned()), []string{"p", "quartz", "grit", "tint", "green",
		"rake", "tape"}; !reflect.DeepEqual(got, want) {
		t.Errorf("pruned to %v, want %v", got, want)
	}
	if len(from.Media) != 7 {
		t.Error("pruning changed the file it was asked about")
	}
	_, media := buildup.System{Coats: []buildup.Coat{named()}}.Names()
	if want := []string{"quartz", "grit", "green", "tint"}; !reflect.DeepEqual(media, want) {
		t.Errorf("a system names %v, want %v", media, want)
	}
	to := File{}
	if err := CopySurface(from, "s", &to, func() string { return "new" }); err != nil {
		t.Fatal(err)
	}
	if got, want := ids(to), []string{"p", "quartz", "grit", "tint", "green"}; !reflect.DeepEqual(got, want) {
		t.Errorf("the copy brings %v, want %v", got, want)
	}
}

// What lies on a plan moves with it, and four quarter turns lead back.
func TestAPlanTurnsWithAllThatLiesOnIt(t *testing.T) {
	at, exit := geometry.Point{X: 1, Y: 2}, geometry.Point{X: 0, Y: 1}
	s := Surface{
		Shape: takeoff.Shape{Floor: takeoff.Floor{
			Outline:  geometry.Ring{{X: 0, Y: 0}, {X: 5, Y: 0}, {X: 5, Y: 3}, {X: 0, Y: 3}},
			Holes:    []takeoff.Hole{{ID: "h", Outline: geometry.Ring{{X: 1, Y: 1}, {X: 2, Y: 1}, {X: 2, Y: 2}}}},
			Zones:    []takeoff.Hole{{ID: "z", Outline: geometry.Ring{{X: 0, Y: 0}, {X: 1, Y: 0}, {X: 1, Y: 1}}}},
			Lines:    []takeoff.Line{{ID: "l", Path: geometry.Ring{{X: 0, Y: 1}, {X: 4, Y: 1}}}},
			Fittings: []takeoff.Fitting{{ID: "d", At: geometry.Point{X: 5, Y: 1}}},
		}},
		Survey: &survey.Survey{Readings: []survey.Reading{{ID: "r", Place: &at}, {ID: "n"}}},
	}
	mixing := geometry.Point{X: 3, Y: 1}
	s.Layout.Exit, s.Layout.Mixing = &exit, &mixing
	turned := s
	for i := range 4 {
		var err error
		if turned, err = turned.Reshaped(Reshape{Op: Turn}); err != nil {
			t.Fatal(err)
		}
		if i == 0 {
			p := *turned.Survey.Readings[0].Place
			if turned.Floor.Outline[1] != (geometry.Point{X: 0, Y: 5}) ||
				turned.Floor.Fittings[0].At != (geometry.Point{X: -1, Y: 5}) || p != (geometry.Point{X: -2, Y: 1}) ||
				*turned.Layout.Exit != (geometry.Point{X: -1, Y: 0}) || *turned.Layout.Mixing != (geometry.Point{X: -1, Y: 3}) ||
				turned.Floor.Lines[0].Path[1] != (geometry.Point{X: -1, Y: 4}) ||
				turned.Floor.Zones[0].Outline[2] != (geometry.Point{X: -1, Y: 1}) {
				t.Errorf("turned once: %+v, reading at %v", turned.Floor, p)
			}
		}
	}
	if !reflect.DeepEqual(turned, s) {
		t.Errorf("turned four times: %+v", turned)
	}
	mirrored, err := s.Reshaped(Reshape{Op: Mirror})
	if err != nil || mirrored.Floor.Holes[0].Outline[1] != (geometry.Point{X: -2, Y: 1}) ||
		s.Floor.Holes[0].Outline[1] != (geometry.Point{X: 2, Y: 1}) {
		t.Errorf("mirrored: %+v, %v", mirrored.Floor, err)
	}
}

// A wall of 5 m pushed to 6 m takes the far wall with it: 6 × 3 = 18 m². The walk
// says from then on that corners were moved.
func TestAPushedWall(t *testing.T) {
	s := Surface{Shape: takeoff.Shape{Floor: takeoff.Floor{
		Outline: geometry.Ring{{X: 0, Y: 0}, {X: 5, Y: 0}, {X: 5, Y: 3}, {X: 0, Y: 3}},
		Walk:    &takeoff.Walk{Readings: []takeoff.Taping{{Typed: "5 m, left, 3 m"}}},
	}}}
	pushed, err := s.Reshaped(Reshape{Op: Push, Wall: 1, Length: 6})
	if err != nil || pushed.Floor.Outline.SignedArea() != 18 || !pushed.Floor.Walk.Changed || s.Floor.Walk.Changed {
		t.Errorf("%+v, %v", pushed.Floor, err)
	}
	for _, bad := range []Reshape{{Op: Push, Wall: 5, Length: 2}, {Op: Push, Wall: 1}, {Op: Bay, Wall: 1},
		{Op: Bay, Wall: 0, Rise: 1}} {
		if _, err := s.Reshaped(bad); err == nil {
			t.Errorf("%+v is done", bad)
		}
	}
	// A bay of 0.5 m on 5 m: by the sagitta r = 25/4 + 0.25 = 6.5 m, and the segment
	// of half angle 2·atan(0.2) adds r²/2·(θ − sin θ), θ = 4·atan(0.2).
	bay, err := s.Reshaped(Reshape{Op: Bay, Wall: 1, Rise: 0.5})
	if area := bay.Floor.Outline.SignedArea(); err != nil || area < 16.67 || area > 16.69 {
		t.Errorf("with a bay %v m², %v", area, err)
	}
	if in, _ := s.Reshaped(Reshape{Op: Bay, Wall: 1, Rise: 0.5, Inward: true}); in.Floor.Outline.SignedArea() > 13.34 ||
		in.Floor.Outline.SignedArea() < 13.31 {
		t.Errorf("with a bay inward %v m²", in.Floor.Outline.SignedArea())
	}
}
