package kit_test

import (
	"math"
	"strings"
	"testing"
	"time"

	"nephelon/core/climate"
	"nephelon/core/kit"
	"nephelon/core/material"
	"nephelon/core/measure"
)

// A closed room follows the mean of the last day; heating and cooling bound it. By hand: a day at 8 °C, then one at
// 2 °C: after six hours of it (18 × 8 + 6 × 2) / 24 = 6.5 °C, after twelve 5 °C, after the whole day 2 °C.
func TestTheStoreRoomFollowsTheDay(t *testing.T) {
	start := time.Date(2031, 1, 13, 0, 0, 0, 0, time.UTC)
	var hours []climate.Hour
	for n := range 48 {
		air := measure.Temperature(8)
		if n >= 24 {
			air = 2
		}
		hours = append(hours, climate.Hour{At: start.Add(time.Duration(n) * time.Hour), Air: air})
	}
	room := kit.Room{}
	warm := room.Temperatures(hours)
	for n, want := range map[int]float64{0: 8, 23: 8, 29: 6.5, 35: 5, 47: 2} {
		if math.Abs(float64(warm[n])-want) > 1e-9 {
			t.Errorf("hour %d: %g °C, want %g", n, float64(warm[n]), want)
		}
	}
	limit := func(v measure.Temperature) *measure.Sourced[measure.Temperature] {
		return &measure.Sourced[measure.Temperature]{Value: v, Source: measure.Sheet}
	}
	p := material.Product{ID: "a", Name: "Amberjack", StoreMin: limit(5), StoreMax: limit(30)}
	found := room.Against(p, hours, time.UTC, measure.Metric)
	if len(found) != 1 || !found[0].Cold || !found[0].From.Equal(start.Add(36*time.Hour)) ||
		!found[0].Until.Equal(start.Add(48*time.Hour)) || math.Abs(float64(found[0].Worst)-2) > 1e-9 ||
		!strings.Contains(found[0].Text, "too cold from Tue 14 Jan, 12:00 to Wed 15 Jan, 00:00, down to 2 °C; its "+
			"sheet asks for at least 5 °C") {
		t.Errorf("%+v", found)
	}
	heated := measure.Temperature(12)
	room.Heated = &heated
	if found := room.Against(p, hours, time.UTC, measure.Metric); len(found) != 0 {
		t.Errorf("heated: %+v", found)
	}
	p.StoreMax = limit(11)
	if found := room.Against(p, hours, time.UTC, measure.Metric); len(found) != 1 || found[0].Cold ||
		!strings.Contains(found[0].Text, "too warm") || !strings.Contains(found[0].Text, "up to 12 °C") {
		t.Errorf("heated too far: %+v", found)
	}
	cooled := measure.Temperature(10)
	room.Cooled = &cooled
	if found := room.Against(p, hours, time.UTC, measure.Metric); len(found) != 0 {
		t.Errorf("cooled: %+v", found)
	}
}
