package climate

import (
	"encoding/csv"
	"math"
	"os"
	"strconv"
	"strings"
	"testing"
	"time"

	"nephelon/core/measure"
)

var start = time.Date(2031, 3, 4, 0, 0, 0, 0, time.UTC)

// testdata/dewpoint-psychrolib.csv was written by psychrolib 1.1.1 (the npm
// package), which follows ASHRAE Fundamentals 2017, chapter 1. Below 0 °C ASHRAE's
// is the frost point, over ice, which lies a little higher than the dew point.
func TestDewPointAgainstPsychrolib(t *testing.T) {
	if got := DewPoint(25, 0.5); math.Abs(float64(got)-13.9) > 0.05 { // a check value of the trade, by Magnus
		t.Errorf("25 °C and 50 %%: %v", got)
	}
	for _, dry := range []measure.Fraction{0, -0.1, 1e-300} { // towards the pole of the formula
		if got := float64(DewPoint(20, dry)); !(got >= -243.12 && got < -150) {
			t.Errorf("without water: %v", got)
		}
	}
	file, err := os.Open("testdata/dewpoint-psychrolib.csv")
	if err != nil {
		t.Fatal(err)
	}
	defer file.Close()
	rows, err := csv.NewReader(file).ReadAll()
	if err != nil || len(rows) < 300 {
		t.Fatal(len(rows), err)
	}
	for _, row := range rows[1:] {
		var v [3]float64
		for i, cell := range row {
			if v[i], err = strconv.ParseFloat(cell, 64); err != nil {
				t.Fatal(err)
			}
		}
		got := float64(DewPoint(measure.Temperature(v[0]), measure.Fraction(v[1])))
		if off := got - v[2]; v[2] >= 0 && math.Abs(off) > 0.1 || v[2] < 0 && (off > 0.1 || off < 0.13*v[2]-0.1) {
			t.Errorf("%v °C, %v: %v, psychrolib %v", v[0], v[1], got, v[2])
		}
	}
}

// A daily sine driven into a half-infinite body (Carslaw and Jaeger, Conduction
// of Heat in Solids, 2.6): at depth x it is damped by exp(−x/δ) and late by
// x/(δω), with δ = √(2α/ω). Through a surface film h the surface itself swings by
// 1/√(1 + 2η + 2η²), with η = k/(hδ).
func TestConductAgainstTheSinusoid(t *testing.T) {
	omega := 2 * math.Pi / 86400
	delta := math.Sqrt(2 * Diffusivity / omega)
	drive := make([]float64, 96)
	for i := range drive {
		drive[i] = 20 + 8*math.Sin(omega*3600*float64(i))
	}
	swing := func(got []float64) float64 {
		low, high := math.Inf(1), math.Inf(-1)
		for _, v := range got[48:] {
			low, high = math.Min(low, v), math.Max(high, v)
		}
		return (high - low) / 2
	}
	for _, depth := range []float64{0, 0.05, 0.1, 0.2} {
		got := Conduct(drive, 1e6, depth)
		for i := 48; i < len(got); i++ {
			want := 20 + 8*math.Exp(-depth/delta)*math.Sin(omega*3600*float64(i)-depth/delta)
			if math.Abs(got[i]-want) > 0.12 {
				t.Fatalf("depth %v, hour %d: %v, closed form %v", depth, i, got[i], want)
			}
		}
	}
	for _, film := range []float64{8, 17} {
		eta := conductivity / (film * delta)
		want := 8 / math.Sqrt(1+2*eta+2*eta*eta)
		if got := swing(Conduct(drive, film, 0)); math.Abs(got/want-1) > 0.02 {
			t.Errorf("film %v: swing of %v, closed form %v", film, got, want)
		}
	}
}

func day(change func(i int, h *Hour)) []Hour {
	hours := make([]Hour, 48)
	for i := range hours {
		hours[i] = Hour{At: start.Add(time.Duration(i) * time.Hour),
			Air: 18 + measure.Temperature(6*math.Sin(float64(i-9)*math.Pi/12)), Humidity: 0.6}
		if change != nil {
			change(i, &hours[i])
		}
	}
	return hours
}

func TestSlabFollowsItsPlaceAndItsReadings(t *testing.T) {
	hours := day(func(i int, h *Hour) { h.Sun = 700 * math.Max(0, math.Sin(float64(i%24-6)*math.Pi/12)) })
	swing := func(slab []measure.Temperature) float64 {
		low, high := slab[0], slab[0]
		for _, v := range slab {
			low, high = min(low, v), max(high, v)
		}
		return float64(high - low)
	}
	in, out, heated := Slab(hours, Place{}), Slab(hours, Place{Outdoors: true}), Slab(hours, Place{Heated: true})
	if !(swing(heated) < 0.01 && swing(heated) < swing(in) && swing(in) < 6 && swing(out) > swing(in)+5) {
		t.Errorf("swings: heated %v, indoors %v, outdoors %v", swing(heated), swing(in), swing(out))
	}
	read := Correct(in, hours, []Reading{{start.Add(5*time.Hour + 20*time.Minute), in[5] - 4},
		{start.Add(2 * time.Hour), 40}})
	for hour, gap := range map[int]float64{5: 20, 6: 40, 29: 23*60 + 40} {
		if want := in[hour] - measure.Temperature(4*math.Exp(-gap/1440)); math.Abs(float64(read[hour]-want)) > 1e-9 {
			t.Errorf("hour %d after a reading: %v, want %v", hour, read[hour], want)
		}
	}
}

func TestJudgeByTheHour(t *testing.T) {
	limits := Limits{DewMargin: 3, HumidityMax: 0.85, SlabMin: 10, SlabMax: 30, WindMax: 8, DryAfter: 6}
	hours := day(func(i int, h *Hour) {
		if i == 20 {
			h.Rain = 2
		}
		if i == 40 {
			h.Humidity = 0.99
		}
	})
	slab := make([]measure.Temperature, len(hours))
	for i := range slab {
		slab[i] = hours[i].Air
	}
	slab[2] = 5
	states := func(l Limits) (all string) {
		for _, j := range Judge(hours, slab, l, measure.Metric) {
			all += string(j.State)[:1]
			if j.Reason == "" {
				t.Error("an hour without a reason")
			}
		}
		return all
	}
	indoors := states(limits)
	if indoors[40] != 's' || indoors[20] != 'g' || indoors[2] == 'g' {
		t.Errorf("indoors %s", indoors)
	}
	limits.Open = true
	if outdoors := states(limits); outdoors[20] != 's' || outdoors[15] != 's' || outdoors[21] != 'g' ||
		outdoors[14] != 'g' {
		t.Errorf("outdoors %s", outdoors)
	}
	limits.Open, limits.Falling = false, true
	if falling := states(limits); falling[10] != 'w' || falling[17] != 'g' {
		t.Errorf("over open pores %s", falling)
	}
}

func BenchmarkSlabThreeDays(b *testing.B) {
	hours := day(nil)
	hours = append(hours, hours[:24]...)
	for b.Loop() {
		Slab(hours, Place{Outdoors: true})
	}
}

// Every reason not to coat, at its limit and just beyond it. By hand: at 20 °C and 50 %
// the dew point is 9.27 °C (Magnus, WMO-No. 8), so that a slab at 15 °C stands 5.73 K
// above it.
func TestEveryReasonNotToCoat(t *testing.T) {
	type at struct {
		hour  Hour
		slab  measure.Temperature
		next  measure.Temperature
		limit Limits
	}
	fair := at{Hour{Air: 20, Humidity: 0.5}, 15, 15, Limits{DewMargin: 3, HumidityMax: 0.85, SlabMin: 10, SlabMax: 30,
		WindMax: 8, DryAfter: 2}}
	with := func(by func(*at)) at { a := fair; by(&a); return a }
	for name, c := range map[string]struct {
		at     at
		state  State
		reason string
	}{
		"fair":                  {fair, Go, "5.7 K above the dew point."},
		"at the dew margin":     {with(func(a *at) { a.limit.DewMargin = 5.7 }), Go, "above the dew point"},
		"within the dew margin": {with(func(a *at) { a.limit.DewMargin = 5.8 }), Stop, "5.8 K are required"},
		"rain on an open floor": {with(func(a *at) { a.limit.Open, a.hour.Rain = true, 0.1 }), Stop, "Rain, 0.1 mm."},
		"rain on a roof":        {with(func(a *at) { a.hour.Rain = 4 }), Go, "above the dew point"},
		"a trace on an open floor": {with(func(a *at) { a.limit.Open, a.hour.Rain = true, 0.09 }), Go,
			"above the dew point"},
		"as cold as allowed":      {with(func(a *at) { a.limit.SlabMin = 15 }), Go, "above the dew point"},
		"colder than allowed":     {with(func(a *at) { a.limit.SlabMin = 15.1 }), Wait, "at least 15.1 °C is required"},
		"as hot as allowed":       {with(func(a *at) { a.limit.SlabMax = 15 }), Go, "above the dew point"},
		"hotter than allowed":     {with(func(a *at) { a.limit.SlabMax = 14.9 }), Wait, "at most 14.9 °C is allowed"},
		"as humid as allowed":     {with(func(a *at) { a.limit.HumidityMax = 0.5 }), Go, "above the dew point"},
		"more humid than allowed": {with(func(a *at) { a.limit.HumidityMax = 0.49 }), Wait, "at most 49%"},
		"as windy as allowed":     {with(func(a *at) { a.limit.Open, a.hour.Wind = true, 8 }), Go, "above the dew point"},
		"windier than allowed":    {with(func(a *at) { a.limit.Open, a.hour.Wind = true, 9 }), Wait, "Wind of 9 m/s"},
		"wind behind walls":       {with(func(a *at) { a.hour.Wind = 20 }), Go, "above the dew point"},
		"warming over open pores": {with(func(a *at) { a.limit.Falling, a.next = true, 15.1 }), Wait,
			"The slab is warming"},
		"steady over open pores": {with(func(a *at) { a.limit.Falling, a.next = true, 15.04 }), Go,
			"above the dew point"},
		"warming over closed pores":  {with(func(a *at) { a.next = 18 }), Go, "above the dew point"},
		"no air so dry that it ends": {with(func(a *at) { a.hour.Humidity = 0 }), Go, "above the dew point"},
	} {
		judged := Judge([]Hour{c.at.hour, {Air: 20, Humidity: 0.5}}, []measure.Temperature{c.at.slab, c.at.next}, c.at.limit,
			measure.Metric)
		if got := judged[0]; got.State != c.state || !strings.Contains(got.Reason, c.reason) {
			t.Errorf("%s: %s, %q, want %s, %q", name, got.State, got.Reason, c.state, c.reason)
		}
	}
	// Rain that falls on a fresh coat within two hours stops it; an hour later it does not.
	open := fair.limit
	open.Open = true
	for after, want := range map[int]State{1: Stop, 2: Go} {
		hours := []Hour{fair.hour, fair.hour, fair.hour}
		hours[after].Rain = 0.4
		judged := Judge(hours, []measure.Temperature{15, 15, 15}, open, measure.Metric)
		if judged[0].State != want {
			t.Errorf("rain %d h later: %s, %s", after, judged[0].State, judged[0].Reason)
		}
	}
	if told := Difference(5, measure.US) + ", " + Difference(5, measure.Metric); told != "9 °F, 5.0 K" {
		t.Errorf("five kelvin are %s", told)
	}
}
