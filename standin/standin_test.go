package standin

import (
	"encoding/json"
	"math"
	"net/http"
	"net/http/httptest"
	"reflect"
	"strings"
	"testing"
	"time"

	"nephelon/core/survey"
)

func call(t *testing.T, h http.Handler, method, path, body string, into any) int {
	t.Helper()
	w := httptest.NewRecorder()
	h.ServeHTTP(w, httptest.NewRequestWithContext(t.Context(), method, path, strings.NewReader(body)))
	if into != nil {
		if err := json.Unmarshal(w.Body.Bytes(), into); err != nil {
			t.Fatalf("%s: %v: %s", path, err, w.Body)
		}
	}
	return w.Code
}

func TestInstrumentsReadAndFail(t *testing.T) {
	at := time.Date(2031, 5, 6, 12, 0, 0, 0, time.UTC)
	h := New(7, func() time.Time { return at }).Handler()
	var list []Instrument
	if call(t, h, "GET", "/instruments", "", &list); len(list) != 4 {
		t.Fatalf("%+v", list)
	}
	values := make(map[survey.ReadingKind]float64)
	for _, i := range list {
		var taken Taken
		if status := call(t, h, "GET", "/instruments/"+i.ID+"/reading", "", &taken); status != http.StatusOK ||
			!taken.At.Equal(at) {
			t.Fatalf("%d %+v", status, taken)
		}
		for _, v := range taken.Values {
			values[v.Kind] = v.Value
			if fault := (survey.Reading{Kind: v.Kind, Value: v.Value, At: taken.At}).Check(at, "metric"); fault != nil {
				t.Error(fault)
			}
		}
	}
	if len(values) != 5 {
		t.Errorf("read %v", values)
	}
	// Noise: readings in a row differ, but not by much.
	spread := 0.0
	for range 30 {
		var taken Taken
		call(t, h, "GET", "/instruments/ir-gun/reading", "", &taken)
		spread = math.Max(spread, math.Abs(taken.Values[0].Value-values[survey.SlabTemperature]))
	}
	if spread == 0 || spread > 4 {
		t.Errorf("noise of %v K", spread)
	}
	for fault, status := range map[string]int{"battery": http.StatusServiceUnavailable,
		"contact": http.StatusGatewayTimeout, "": http.StatusOK} {
		if got := call(t, h, "PUT", "/instruments/ir-gun/fault", `{"fault":"`+fault+`"}`, nil); got != http.StatusOK {
			t.Fatal(got)
		}
		if got := call(t, h, "GET", "/instruments/ir-gun/reading", "", nil); got != status {
			t.Errorf("fault %q gives %d", fault, got)
		}
	}
	for _, path := range []string{"/instruments/spoon/reading", "/weather?climate=moon"} {
		if got := call(t, h, "GET", path, "", nil); got != http.StatusNotFound {
			t.Errorf("%s gives %d", path, got)
		}
	}
}

func TestForecastIsPlausibleAndTheSameEachTime(t *testing.T) {
	from := time.Date(2031, 5, 6, 0, 0, 0, 0, time.UTC)
	for name := range climates() {
		one := Forecast(name, from, 24*60)
		if !reflect.DeepEqual(one[24:], Forecast(name, from.Add(24*time.Hour), 24*59)) {
			t.Errorf("%s: the same hours differ", name)
		}
		wet := 0
		for _, h := range one {
			if h.Humidity <= 0 || h.Humidity > 1 || h.Cloud < 0 || h.Cloud > 1 || h.Air < -30 || h.Air > 50 ||
				h.Wind < 0 || h.Sun < 0 {
				t.Fatalf("%s: %+v", name, h)
			}
			if h.Rain > 0 {
				wet++
			}
			if night := h.At.Hour() < 5; night && h.Sun > 0 {
				t.Errorf("%s: sun at %v", name, h.At)
			}
		}
		if wet == 0 || wet > len(one)/2 {
			t.Errorf("%s: rain in %d of %d hours", name, wet, len(one))
		}
	}
}

// What is poured rises to an end, is tared away, and can be settled.
func TestTheScalePours(t *testing.T) {
	at := time.Date(2031, 5, 6, 12, 0, 0, 0, time.UTC)
	h := New(7, func() time.Time { return at }).Handler()
	weigh := func() Weight {
		var w Weight
		call(t, h, "GET", "/scale", "", &w)
		return w
	}
	if w := weigh(); w.Mass != 0 || !w.Stable {
		t.Errorf("empty it shows %+v", w)
	}
	call(t, h, "PUT", "/scale/tare", "", nil)
	at = at.Add(5 * time.Second)
	if w := weigh(); w.Stable || math.Abs(w.Mass-2) > 0.01 {
		t.Errorf("after 5 s of pouring %+v", w)
	}
	at = at.Add(time.Minute)
	first := weigh()
	if !first.Stable || first.Mass < 6 || first.Mass > 9 {
		t.Errorf("A is poured: %+v", first)
	}
	call(t, h, "PUT", "/scale/tare", "", nil)
	at = at.Add(time.Minute)
	if w := weigh(); !w.Stable || w.Mass < 2 || w.Mass > 3.5 {
		t.Errorf("B is poured: %+v", w)
	}
	call(t, h, "PUT", "/scale/load", `{"mass":2.715}`, nil)
	if w := weigh(); w.Mass != 2.715 || !w.Stable {
		t.Errorf("settled: %+v", w)
	}
	if status := call(t, h, "PUT", "/scale/load", `{"mass":-1}`, nil); status != http.StatusBadRequest {
		t.Errorf("a load below nothing: %d", status)
	}
}
