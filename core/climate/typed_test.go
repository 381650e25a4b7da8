package climate

import (
	"math"
	"strings"
	"testing"
	"time"

	"nephelon/core/measure"
)

// What the sun does, against published figures: declination at the solstices ±23.45° and 0 at the
// equinoxes, and the equation of time about −14 min in mid February and +16 min at the beginning of
// November (Spencer 1971; The Astronomical Almanac); days of 16 h 10 min and 7 h 50 min at 50° by
// the hour angle of sunset; 1037 W/m² below an overhead sun and a quarter under a closed sky.
func TestTheSunOfADay(t *testing.T) {
	for day, want := range map[int]float64{172: 23.45, 355: -23.45, 80: 0, 266: 0} {
		if got, _ := sunOf(day); math.Abs(got*180/math.Pi-want) > 0.5 {
			t.Errorf("day %d: declination %.2f°, want %.2f°", day, got*180/math.Pi, want)
		}
	}
	for day, want := range map[int]float64{43: -14.2, 307: 16.4, 105: 0} {
		if _, got := sunOf(day); math.Abs(got-want) > 0.6 {
			t.Errorf("day %d: %.1f min, want %.1f", day, got, want)
		}
	}
	for day, want := range map[int]float64{172: 16 + 10.0/60, 355: 7 + 50.0/60, 80: 12} {
		declined, _ := sunOf(day)
		if got := daylight(50, declined); math.Abs(got-want) > 0.15 {
			t.Errorf("day %d is %.2f h long, want %.2f", day, got, want)
		}
	}
	if got := shine(1, 0); math.Abs(got-1037) > 1 {
		t.Errorf("a clear sky gives %.0f W/m²", got)
	}
	if got := shine(0.6, 1) / shine(0.6, 0); math.Abs(got-0.25) > 1e-9 || shine(-0.1, 0) != 0 {
		t.Errorf("a closed sky lets %.3f through", got)
	}
}

// Two days of March at 50° by hand: the air is least about dawn and greatest not two hours after
// noon, nights end at the next day's least, the dew point stays, and rain is spread.
func TestTypedDaysBecomeHours(t *testing.T) {
	at := Site{Latitude: 50, Zone: time.UTC, Longitude: new(float64)}
	hours, _, wrong := Typed([]Day{
		{On: "2031-03-20", Low: 4, High: 14, Humidity: 0.6, Rain: 4.8, Cloud: 0.5, Wind: 3},
		{On: "2031-03-21", Low: 1, High: 11, Humidity: 0.7},
	}, at)
	if wrong != "" || len(hours) != 48 {
		t.Fatalf("%d hours: %s", len(hours), wrong)
	}
	least, greatest := 0, 0
	for n, h := range hours[:24] {
		if h.Air < hours[least].Air && n < 12 {
			least = n
		}
		if h.Air > hours[greatest].Air {
			greatest = n
		}
		if math.Abs(h.Rain-0.2) > 1e-12 || h.Wind != 3 || h.Cloud != 0.5 {
			t.Errorf("%v: %+v", h.At, h)
		}
		dew := DewPoint(h.Air, h.Humidity)
		// Half way, at 9 °C, 60 % has a dew point of 1.6 °C by the tables of WMO-No. 8.
		if math.Abs(float64(dew)-1.6) > 0.1 {
			t.Errorf("%v: dew point %.2f", h.At, dew)
		}
	}
	if least != 6 || greatest != 14 || math.Abs(float64(hours[14].Air)-14) > 0.1 ||
		math.Abs(float64(hours[6].Air)-4) > 0.3 {
		t.Errorf("least at %d with %.1f, greatest at %d with %.1f", least, hours[least].Air, greatest, hours[greatest].Air)
	}
	if math.Abs(float64(hours[30].Air)-1) > 0.3 || hours[29].Air > hours[28].Air || hours[20].Air <= hours[23].Air {
		t.Errorf("the night ends at %.2f", hours[30].Air)
	}
	if hours[3].Sun != 0 || hours[11].Sun < 500 || hours[11].Sun > 700 {
		t.Errorf("at noon %.0f W/m²", hours[11].Sun)
	}
	for n := 1; n < len(hours); n++ {
		if math.Abs(float64(hours[n].Air-hours[n-1].Air)) > 2.5 {
			t.Errorf("%v: the air jumps from %.1f to %.1f", hours[n].At, hours[n-1].Air, hours[n].Air)
		}
	}
	// Air that is nearly full halfway is full, and no more, at dawn.
	damp, _, _ := Typed([]Day{{On: "2031-03-20", Low: 4, High: 14, Humidity: 0.95}}, at)
	if damp[6].Humidity != 1 {
		t.Errorf("at dawn it is %.0f %%", float64(damp[6].Humidity)*100)
	}
	// At the edge: a day of one temperature stays; above the polar circle there is light or none.
	flat, _, _ := Typed([]Day{{On: "2031-12-21", Low: -8, High: -8, Humidity: 1}}, Site{Latitude: 70, Zone: time.UTC})
	for _, h := range flat {
		if math.Abs(float64(h.Air)+8) > 1e-9 || h.Sun != 0 || math.Abs(float64(h.Humidity)-1) > 1e-9 {
			t.Errorf("%v: %+v", h.At, h)
		}
	}
}

// A zone tells when its noon is, or a longitude does.
func TestNoonByLongitude(t *testing.T) {
	east := 15.0
	zone := time.FixedZone("", 2*3600) // an hour ahead of the sun there
	hottest := func(at Site) int {
		hours, _, _ := Typed([]Day{{On: "2031-06-21", Low: 10, High: 30, Humidity: 0.5}}, at)
		best := 0
		for n, h := range hours {
			if h.Sun > hours[best].Sun {
				best = n
			}
		}
		return best
	}
	if got := hottest(Site{Latitude: 45, Zone: zone, Longitude: &east}); got != 12 && got != 13 {
		t.Errorf("the sun is highest at %d", got)
	}
	if got := hottest(Site{Latitude: 45, Zone: zone}); got != 11 && got != 12 {
		t.Errorf("without a longitude it is highest at %d", got)
	}
}

func TestTypedDaysThatCannotBe(t *testing.T) {
	good := Day{On: "2031-03-20", Low: 4, High: 14, Humidity: 0.6}
	next := func(on string, low, high measure.Temperature) Day {
		return Day{On: on, Low: low, High: high, Humidity: 0.5}
	}
	for text, days := range map[string][]Day{
		"no date":         {good, next("21 March", 1, 2)},
		"below its low":   {good, next("2031-03-21", 5, 2)},
		"does not follow": {good, next("2031-03-22", 1, 2)},
	} {
		if hours, at, wrong := Typed(days, Site{Latitude: 50, Zone: time.UTC}); len(hours) > 0 || at != 1 ||
			!strings.Contains(wrong, text) {
			t.Errorf("%s: day %d, %q", text, at, wrong)
		}
	}
}
