package cure

import (
	"math"
	"testing"

	"nephelon/core/measure"
)

// The front of a pour on a plane: the constant of Huppert (1982), eq. 2.23, follows from the volume under his profile.
func TestBeadsJoinAsAViscousCurrent(t *testing.T) {
	front := math.Pow(math.Pow(3.0/10, 1.0/3)*math.Sqrt(math.Pi)*math.Gamma(1.0/3)/(5*math.Gamma(5.0/6)), -3.0/5)
	f := Flow{Viscosity: 0.8, Density: 1100}
	const film, apart = 2.5e-3, 0.2
	half, thin := film*apart/2, 0.8/1100
	want := math.Pow(apart/2/(front*math.Pow(9.81*half*half*half/(3*thin), 0.2)), 5)
	if got, done := f.Joins(film, apart); !done || math.Abs(float64(got)/want-1) > 0.003 {
		t.Errorf("beads join after %v s, by Huppert %v", got, want)
	}
	// Twice as far apart takes four times as long at the same film, half the film eight times.
	near, _ := f.Joins(film, apart)
	far, _ := f.Joins(film, 2*apart)
	thinner, _ := f.Joins(film/2, apart)
	if math.Abs(float64(far/near)-4) > 1e-9 || math.Abs(float64(thinner/near)-8) > 1e-9 {
		t.Errorf("%v, %v and %v s", near, far, thinner)
	}
}

// A wave on a film, followed through the lubrication equation by finite differences, decays as Orchard says.
func TestAWaveLevelsAsTheThinFilmEquation(t *testing.T) {
	const viscosity, density, film, wave, cells = 1.2, 1100.0, 0.4e-3, 12e-3, 48
	f := Flow{Viscosity: viscosity, Density: density}
	want, _ := f.Levels(film, wave)
	dx := wave / cells
	h := make([]float64, cells)
	for i := range h {
		h[i] = film * (1 + 0.01*math.Cos(2*math.Pi*(float64(i)+0.5)/cells))
	}
	at := func(i int) float64 { return h[(i+cells)%cells] }
	const step = 1e-4
	passed, flux := 0.0, make([]float64, cells)
	for height := 1.0; height > 0.05; passed += step {
		for i := range flux { // between i and i+1
			mean := (at(i) + at(i+1)) / 2
			bent := (at(i+2) - 3*at(i+1) + 3*at(i) - at(i-1)) / (dx * dx * dx)
			flux[i] = mean * mean * mean / (3 * viscosity) * (surfaceTension*bent - density*9.81*(at(i+1)-at(i))/dx)
		}
		most, least := 0.0, math.Inf(1)
		for i := range h {
			h[i] -= step * (flux[i] - flux[(i-1+cells)%cells]) / dx
			most, least = max(most, h[i]), min(least, h[i])
		}
		height = (most - least) / (2 * 0.01 * film)
	}
	if off := passed/float64(want) - 1; math.Abs(off) > 0.03 {
		t.Errorf("level after %v s, the equation says %v", want, passed)
	}
}

// A mix thickens while it flows: what takes a seventh of its working time in a fresh mix takes a little longer, and
// what takes three quarters never ends. A cold film flows worse.
func TestFlowEndsWithTheWorkingTime(t *testing.T) {
	f := Flow{Viscosity: 2, Density: 1100}
	fresh, _ := f.Joins(2e-3, 0.3)
	f.Working = 7 * fresh
	if later, done := f.Joins(2e-3, 0.3); !done || later <= fresh || later > fresh*1.1 {
		t.Errorf("%v s, %v s in a fresh mix", later, fresh)
	}
	f.Working = fresh * 4 / 3
	if later, done := f.Joins(2e-3, 0.3); done {
		t.Errorf("beads join after %v s of %v", later, f.Working)
	}
	if v := ViscosityAt(0.8, 24, 16); v != 1.6 {
		t.Errorf("8 K colder it flows with %v Pa·s", v)
	}
	if rests := f.Rests(); rests < 1e-3 || rests > measure.Film(2e-3) {
		t.Errorf("a pour comes to rest at %v m", rests)
	}
}
