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
	p.button("Open on the bench")
	p.sees("[data-test=bench-life]", "12 kg can be used for 21 min")
	p.fill("Working time needed", "30 min")
	p.part("film")
	p.sees("[data-test=hardeners]", "too short")
	p.choose("Hardener", "slow")
	p.sees("[data-test=bench-life]", "12 kg can be used for 44 min")
	p.fill("Part A temperature", "28 °C")
	p.until(`!document.querySelector('[data-test=bench-life]').innerText.includes('44 min')`)
	p.sees("[data-test=bench-life]", "Mixed at 26")
	p.sees("[data-test=bench-life]", "Left standing it gels after")
	p.part("parts")
	// 3 : 1 by volume at 1.39 and 1.0 kg/L is 4.17 : 1 by mass: 8.34 kg of A want 2 kg.
	p.fill("A on the scale", "8.34 kg")
	p.fill("B on the scale", "1.7 kg")
	p.sees("[data-test=ratio]", "Do not use as it is")
	p.sees("[data-test=ratio]", "too much resin")
	p.sees("[data-test=ratio]", "+ 300 g B")
	p.fill("B on the scale", "2 kg")
	p.sees("[data-test=ratio]", "Good")
	// The scale at the mixing place gives it as well.
	request, err := http.NewRequestWithContext(t.Context(), http.MethodPut, theStage.site+"/scale/load",
		strings.NewReader(`{"mass":1.7}`))
	if err != nil {
		t.Fatal(err)
	}
	answer, err := http.DefaultClient.Do(request)
	if err != nil {
		t.Fatal(err)
	}
	defer answer.Body.Close()
	p.click("[data-test=weigh-B]")
	p.sees("[data-test=on-scale]", "Read 1.7 kg from the scale")
	p.sees("[data-test=ratio]", "+ 300 g B")
	p.fill("Time since mixing", "40 min")
	p.sees("[data-test=ratio]", "too late to mix more in. Do not use it.")
	p.fill("Time since mixing", "1 min")
	p.fill("Bucket, to the brim", "7 L")
	p.sees("[data-test=ratio]", "more than the bucket of 7 L holds")
}

// The calculators of the bench: a spread rate in every other form, the notch that
// leaves it, strokes of pumps; each opens its working and goes to a job.
func TestTheBenchSendsToAJob(t *testing.T) {
	p := begin(t, "Chandlery")
	p.at("measure")
	p.rectangle("6 m", "4 m")
	p.saved()
	p.open("/bench/hardtack-clear")
	p.part("spread")
	p.choose("Stated as", "spread rate")
	p.fill("Amount on the bench", "4 m²/L")
	p.sees("[data-test=spread-tool]", "250 µm")
	p.sees("[data-test=notch]", "500 µm")
	p.fill("Area on the bench", "24 m²")
	p.sees("[data-test=spread-need]", "6 L") // 24 ÷ 4: a practical spread holds the loss
	p.choose("Figure on the bench", "theoretical")
	p.fill("Loss on the bench", "4 %")
	p.sees("[data-test=spread-need]", "6.25 L") // 24 ÷ 4 ÷ 0.96
	p.click("[data-test=spread-tool] [data-test=working] [aria-expanded]")
	p.sees("[data-test=spread-tool] [data-test=working]", "wet film × depth over film")
	p.click("[data-test=send-coat] [aria-expanded]")
	p.choose("Job that gets the coat", "Chandlery")
	p.button("Put the coat on top of Floor 1")
	p.sees("[data-test=send-coat]", "Sent to Chandlery.")

	p.choose("Pumps", "metered")
	p.sees("[data-test=pump-tool]", "Not with these pumps: one stroke of each gives 1 : 1")
	p.fill("A stroke of A gives", "60 mL")
	p.fill("Batch to be pumped", "1.8 L")
	p.sees("[data-test=bench-strokes]", "20 of A, 20 of B")
	p.look("bench")
	p.click("[data-test=send-pumps] [aria-expanded]")
	p.choose("Job that gets the pumps", "Chandlery")
	p.button("Send the pumps")
	p.sees("[data-test=send-pumps]", "Sent to Chandlery.")

	p.click("[data-test=send-pail] [aria-expanded]")
	p.choose("Job that gets the pail", "Chandlery")
	p.fill("Part A temperature", "16 °C")
	p.until(`!document.querySelector('[data-test=bench-life]').innerText.includes('20 °C')`)
	p.button("Send the pail")
	p.sees("[data-test=send-pail]", "Sent to Chandlery.")

	p.openJob("Chandlery")
	p.at("build-up")
	p.sees("[data-test=coat-1]", "Coat 1")
	p.setting()
	p.sees("[data-test=pail] [aria-expanded]", "metered pumps")
	p.until(`[...document.querySelectorAll('[data-test=mixing] input')].some(e => e.value === '16 °C')`)
	p.at("pour")
	p.click("[data-test=to-cards]")
	p.sees("[data-test=strokes]", "as many strokes of each")
}

// A contractor who knows how a mix reacts enters it; what cannot be is told.
func TestKineticsAreEntered(t *testing.T) {
	p := newPage(t, theStage.address)
	p.signIn("oskar@brakkwater.example")
	p.units("metric")
	p.open("/shelf/p/drumlin-seal/edit")
	p.part("times")
	p.click("[data-test=kinetics] [aria-expanded]")
	p.sees("[data-test=kinetics] [aria-expanded]", "typical of its chemistry, from memory")
	p.click("[data-test=own-kinetics]")
	p.fill("degree of cure at gel", "1.4")
	p.sees("[data-test=judged]", "the degree of cure at gel must be between 0 and 1")
	p.fill("degree of cure at gel", "0.55")
	p.until(`!document.querySelector('[data-test=judged]').innerText.includes('must be between 0 and 1')`)
	p.choose("Source of the kinetics", "own test")
	p.click("[data-test=save-sheet]")
	p.sees("main", "edition 2")
}
