package survey

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"nephelon/core/measure"
)

// Every threshold on its very value, and a step to either side: at most is still fit,
// at least is, too. Thresholds are the house's usual; where a standard names one it
// stands in rule.go, from memory.
func TestThresholdsAtTheirEdge(t *testing.T) {
	pound := measure.Pound / (1000 * measure.SqFoot) / 86400
	body := Coats{First: "Body", Film: 5e-4}
	barrier := Coats{First: "Shield", Barrier: true, Seals: true, Film: 5e-4}
	reading := func(kind ReadingKind, v float64) Survey {
		return Survey{Substrate: Concrete, Readings: []Reading{read(kind, v)}}
	}
	laid := func(days int) Survey {
		return Survey{Substrate: Concrete, Laid: now().AddDate(0, 0, -days).Format(time.DateOnly)}
	}
	profile := func(csp int) Survey { return Survey{Substrate: Concrete, Profile: csp} }
	thin, thick, mortar := Coats{First: "Body", Film: 10 * measure.Mil}, Coats{First: "Body", Film: 10.01 * measure.Mil},
		Coats{First: "Body", Film: 40.01 * measure.Mil}
	flux := func(pounds float64) *measure.Sourced[measure.Emission] {
		return &measure.Sourced[measure.Emission]{Value: measure.Emission(pounds * pound), Source: measure.Sheet}
	}
	rated, tolerant := barrier, body // by their sheets
	rated.EmissionMax, tolerant.EmissionMax = flux(25), flux(5)
	tolerant.CarbideMax = &measure.Sourced[measure.Fraction]{Value: 0.03, Source: measure.Sheet}
	broadcast := Coats{First: "Body", Film: 1e-4, Broadcast: true}
	for i, c := range []struct {
		s    Survey
		c    Coats
		id   string
		want Fit
	}{
		{laid(28), body, "age", FitNow}, {laid(27), body, "age", FitAfter}, {laid(-2), body, "age", Unknown},
		{laid(0), body, "age", FitAfter},
		{Survey{Substrate: Concrete, Laid: "2031-02-30"}, body, "age", Unknown},
		{Survey{Substrate: Concrete}, body, "age", Unknown}, {Survey{Substrate: Metal}, body, "age", ""},
		{reading(SlabHumidity, 0.75), body, "slab-humidity", FitNow},
		{reading(SlabHumidity, 0.7501), body, "slab-humidity", FitAfter},
		{reading(SlabHumidity, 0.95), barrier, "slab-humidity", FitNow},
		{reading(SlabHumidity, 0.9501), barrier, "slab-humidity", Unfit},
		{reading(Emission, 3*pound), body, "emission", FitNow}, {reading(Emission, 3.001*pound), body, "emission", FitAfter},
		{reading(Emission, 9*pound), barrier, "emission", FitNow},
		{reading(Emission, 9*pound), rated, "emission", FitNow}, {reading(Emission, 25.1*pound), rated, "emission", Unfit},
		{reading(Emission, 5*pound), tolerant, "emission", FitNow},
		{reading(Emission, 5.1*pound), tolerant, "emission", FitAfter},
		{reading(Carbide, 0.04), body, "carbide", FitNow}, {reading(Carbide, 0.041), body, "carbide", FitAfter},
		{reading(Carbide, 0.03), tolerant, "carbide", FitNow}, {reading(Carbide, 0.031), tolerant, "carbide", FitAfter},
		{reading(Carbide, 0.2), barrier, "carbide", FitNow},
		{reading(Sheet, 0), body, "plastic-sheet", FitNow}, {reading(Sheet, 0.5), body, "plastic-sheet", FitNow},
		{reading(Sheet, 1), barrier, "plastic-sheet", FitAfter},
		{reading(PullOff, 1.5e6), body, "pull-off", FitNow}, {reading(PullOff, 1.49e6), body, "pull-off", Unfit},
		{reading(Acidity, 6), body, "ph", FitNow}, {reading(Acidity, 9), body, "ph", FitNow},
		{reading(Acidity, 5.99), body, "ph", FitAfter}, {reading(Acidity, 9.01), body, "ph", FitAfter},
		{reading(MaterialTemperature, 10), body, "material-temperature", FitNow},
		{reading(MaterialTemperature, 9.9), body, "material-temperature", FitAfter},
		{reading(MaterialTemperature, 32), body, "material-temperature", FitNow},
		{reading(MaterialTemperature, 32.1), body, "material-temperature", FitAfter},
		{profile(1), thin, "profile", FitNow}, {profile(3), thin, "profile", FitNow}, {profile(4), thin, "profile", FitAfter},
		{profile(2), thick, "profile", FitAfter}, {profile(3), thick, "profile", FitNow},
		{profile(5), thick, "profile", FitNow}, {profile(6), thick, "profile", FitAfter},
		{profile(3), mortar, "profile", FitAfter}, {profile(4), mortar, "profile", FitNow},
		{profile(6), mortar, "profile", FitNow}, {profile(7), mortar, "profile", FitAfter},
		{profile(3), broadcast, "profile", FitAfter}, {profile(5), broadcast, "profile", FitNow},
		{profile(0), body, "profile", Unknown}, {Survey{Substrate: Trowelled}, body, "profile", FitAfter},
		{Survey{Substrate: Concrete, Profile: 4, Wanted: 4}, thin, "profile", FitNow},
		{Survey{Substrate: Concrete, Profile: 5, Wanted: 4}, thin, "profile", FitAfter},
		{Survey{Substrate: Concrete, Profile: 3}, Coats{}, "profile", ""},
		{Survey{Soundness: "scratches"}, body, "soundness", FitAfter},
		{Survey{Soundness: "sound"}, body, "soundness", FitNow}, {Survey{Soundness: "crumbles"}, body, "soundness", Unfit},
		{Survey{Substrate: Plaster, Soundness: "crumbles"}, body, "soundness", Unfit},
		{Survey{Behind: "damp"}, body, "behind", Unfit}, {Survey{Behind: "dry"}, body, "behind", ""},
		{Survey{Substrate: Concrete}, body, "moisture", Unknown}, {Survey{Substrate: Metal}, body, "moisture", ""},
		{reading(Sheet, 0), body, "moisture", ""},
		{Survey{}, body, "substrate", Unknown}, {Survey{Substrate: Concrete, WaterDrop: "soaks"}, barrier, "pores", ""},
	} {
		v := find(Judge(c.s, c.c, nil, Scene{Now: now(), Units: measure.Metric}), c.id)
		if v.Fit != c.want {
			t.Errorf("case %d, %s of %+v: %q, want %q (%s)", i+1, c.id, c.s, v.Fit, c.want, v.Text)
		}
	}
}

// A slab on the limits of its sheet, or of the house, and three kelvin above the dew
// point, is fit; a hair beyond it is not. At 20 °C and 60 % the dew point is 12.0 °C
// (Magnus, WMO-No. 8).
func TestSlabAndDewAtTheirEdge(t *testing.T) {
	temperatures := func(slab float64, hoursAgo float64) Survey {
		at := now().Add(-time.Duration(hoursAgo * float64(time.Hour)))
		return Survey{Substrate: Concrete, Readings: []Reading{
			{Kind: SlabTemperature, Value: slab, At: at}, {Kind: AirTemperature, Value: 20, At: at},
			{Kind: AirHumidity, Value: 0.6, At: at},
		}}
	}
	limit := func(v measure.Temperature) *measure.Sourced[measure.Temperature] {
		return &measure.Sourced[measure.Temperature]{Value: v, Source: measure.Sheet}
	}
	house, sheet := Coats{First: "Body"}, Coats{First: "Body", SlabMin: limit(16), SlabMax: limit(25)}
	for _, c := range []struct {
		s    Survey
		c    Coats
		id   string
		want Fit
		from string
	}{
		{temperatures(15.1, 1), house, "dew-point", FitNow, "ISO 8502-4"},
		{temperatures(14.9, 1), house, "dew-point", FitAfter, "ISO 8502-4"},
		{temperatures(20, 24), house, "dew-point", FitNow, ""}, {temperatures(20, 24.1), house, "dew-point", Unknown, ""},
		{temperatures(32, 1), house, "slab-temperature", FitNow, "sheet rules"},
		{temperatures(32.1, 1), house, "slab-temperature", FitAfter, ""},
		{temperatures(10, 1), house, "slab-temperature", FitNow, ""},
		{temperatures(9.9, 1), house, "slab-temperature", FitAfter, ""},
		{temperatures(16, 1), sheet, "slab-temperature", FitNow, "sheet of Body"},
		{temperatures(15.9, 1), sheet, "slab-temperature", FitAfter, ""},
		{temperatures(25, 1), sheet, "slab-temperature", FitNow, ""},
		{temperatures(25.1, 1), sheet, "slab-temperature", FitAfter, ""},
	} {
		v := find(Judge(c.s, c.c, nil, Scene{Now: now(), Units: measure.Metric}), c.id)
		if v.Fit != c.want || !strings.Contains(v.From, c.from) {
			t.Errorf("%s of %v: %q from %q, want %q (%s)", c.id, c.s.Readings[0], v.Fit, v.From, c.want, v.Text)
		}
	}
}

// A reading that no instrument gives is refused with what to do; one on the edge of
// what there is passes.
func TestReadingsAtTheirEdge(t *testing.T) {
	for i, c := range []struct {
		kind  ReadingKind
		value float64
		ahead time.Duration
		says  string
	}{
		{SlabTemperature, -30, 0, ""}, {SlabTemperature, -30.1, 0, "°C or °F"}, {AirTemperature, 70, 0, ""},
		{AirTemperature, 70.1, 0, "°C or °F"},
		{AirHumidity, 0, 0, ""}, {AirHumidity, 1, 0, ""}, {AirHumidity, 1.01, 0, "between 0 and 100 %"},
		{SlabHumidity, -0.01, 0, "between 0 and 100 %"},
		{Acidity, 0, 0, ""}, {Acidity, 14, 0, ""}, {Acidity, 14.1, 0, "between 0 and 14"},
		{Acidity, -0.1, 0, "between 0 and 14"},
		{PullOff, 0, 0, ""}, {PullOff, -1, 0, "Read it again"}, {Emission, -1e-9, 0, "Read it again"},
		{Meter, -1, 0, "Read it again"},
		{Sheet, 1, 59 * time.Minute, ""}, {Sheet, 1, 61 * time.Minute, "still to come"},
	} {
		got := Reading{Kind: c.kind, Value: c.value, At: now().Add(c.ahead)}.Check(now(), measure.Metric)
		if (got == nil) != (c.says == "") || got != nil && !strings.Contains(got.Text+" "+got.WayOut, c.says) {
			t.Errorf("case %d, %s of %v: %v, want %q", i+1, c.kind, c.value, got, c.says)
		}
	}
}

// An override closes a gate that is shut, never one that is open or only unknown, and
// the heaviest answer that is left decides.
func TestWhatAnOverrideCloses(t *testing.T) {
	for _, c := range []struct {
		all  []Fit
		over int
		want Fit
	}{
		{[]Fit{FitNow, FitNow}, -1, FitNow}, {[]Fit{FitNow, Unknown}, -1, Unknown}, {[]Fit{FitAfter, Unknown}, -1, FitAfter},
		{[]Fit{FitAfter, Unfit, Unknown}, -1, Unfit},
		{[]Fit{FitAfter, Unfit, Unknown}, 1, FitAfter}, {[]Fit{Unfit}, 0, FitNow},
	} {
		var verdicts []Verdict
		for i, f := range c.all {
			v := Verdict{ID: fmt.Sprint(i), Fit: f}
			if i == c.over {
				v.Override = &Override{}
			}
			verdicts = append(verdicts, v)
		}
		if got := Overall(verdicts); got != c.want {
			t.Errorf("%v with %d overridden: %q, want %q", c.all, c.over, got, c.want)
		}
	}
	s := Survey{Substrate: Concrete, Overrides: []Override{{ID: "moisture", By: "Runa", Reason: "seen", At: now()}}}
	if v := find(Judge(s, Coats{}, nil, Scene{Now: now()}), "moisture"); v.Override != nil {
		t.Error("what is only unknown was overridden")
	}
}
