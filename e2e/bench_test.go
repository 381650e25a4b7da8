package e2e

import (
	"net/http"
	"strings"
	"testing"
)

// On the bench: a pail grown and warmed lives shorter, the hardener that leaves
// time enough is named, and a batch weighed wrong is saved while it can be.
func TestASpoiltRatioIsSaved(t *testing.T) {
	p := newPage(t, theStage.address)
	p.signIn("oskar@brakkwater.example")
	p.units("metric")
	p.open("/shelf/p/shoalbody-f")
	p.button("On the bench")
	p.sees("[data-test=bench-life]", "12 kg can be used for 21 min")
	p.fill("Time the crew needs", "30 min")
	p.sees("[data-test=hardeners]", "too short")
	p.choose("Hardener", "slow")
	p.sees("[data-test=bench-life]", "12 kg can be used for 44 min")
	p.fill("A comes at", "28 °C")
	p.until(`!document.querySelector('[data-test=bench-life]').innerText.includes('44 min')`)
	p.sees("[data-test=bench-life]", "Mixed at 26")
	p.sees("[data-test=bench-life]", "Left standing it reaches")
	// 3 : 1 by volume at 1.39 and 1.0 kg/L is 4.17 : 1 by mass: 8.34 kg of A want 2 kg.
	p.fill("A on the scale", "8.34 kg")
	p.fill("B on the scale", "1.7 kg")
	p.sees("[data-test=ratio]", "Do not use as it is")
	p.sees("[data-test=ratio]", "too much resin")
	p.sees("[data-test=ratio]", "+ 300 g B")
	p.fill("B on the scale", "2 kg")
	p.sees("[data-test=ratio]", "Good")
	// The scale at the mixing place gives it as well.
	request, err := http.NewRequestWithContext(t.Context(), http.MethodPut, theStage.site+"/scale/load", strings.NewReader(`{"mass":1.7}`))
	if err != nil {
		t.Fatal(err)
	}
	answer, err := http.DefaultClient.Do(request)
	if err != nil {
		t.Fatal(err)
	}
	defer answer.Body.Close()
	p.click("[data-test=weigh-B]")
	p.sees("[data-test=on-scale]", "Took 1.7 kg from the scale")
	p.sees("[data-test=ratio]", "+ 300 g B")
	p.fill("Since A met B", "40 min")
	p.sees("[data-test=ratio]", "too late to mix more in. Do not use it.")
	p.fill("Since A met B", "1 min")
	p.fill("Bucket, to the brim", "7 L")
	p.sees("[data-test=ratio]", "more than the bucket of 7 L holds")
}
