package buildup

import (
	"fmt"
	"slices"

	"nephelon/core/finding"
	"nephelon/core/material"
	"nephelon/core/measure"
)

// grainOverFilm is the greatest size of a grain ÷ its film: one that protrudes further by
// more is pulled out by feet. Common practice, no source.
const grainOverFilm = 1.5

// grainFor returns the grain that a class of slip asks for: common practice, no source.
func grainFor(slip string) measure.Film {
	return map[string]measure.Film{"R10": 60e-6, "R11": 150e-6, "R12": 300e-6, "R13": 600e-6}[slip]
}

// additions: thinner and pigment against what the sheet allows.
func (j *judge) additions(i int) {
	coat := j.layers[i]
	if t := coat.Thinner; t != nil && t.Value > 0 {
		share := t.OfParts(coat.Mix.Shares[0].Volume)
		without := &finding.Fix{Label: "Leave the thinner out",
			Patch: []finding.PatchStep{change("remove", coat.Path+"/thinner", nil)}}
		const caution = " Solvent vapour burns and numbs: no flame or spark near it, and the mask that its safety data " +
			"sheet names."
		switch most := coat.Sheet.ThinnerMax; {
		case most != nil && most.Value == 0, most == nil && coat.Sheet.Carrier == material.NoCarrier:
			j.warn(coat.Path+"/thinner", "Leave it out, or warm the parts to make them flow.", without, nil,
				"Coat %d: %s is thinned by %s (%s), but it is never thinned: the film shrinks, its sheet no longer holds, and it "+
					"may stay soft.%s",
				i+1, coat.Sheet.Name, j.units.Fraction(t.Value), t.Words(), caution)
		case most != nil && share > most.OfParts(coat.Mix.Shares[0].Volume)*(1+1e-9):
			j.warn(coat.Path+"/thinner", "Thin it no further than its sheet.",
				&finding.Fix{Label: "Thin by " + j.units.Fraction(most.Value) + " " + most.Words(),
					Patch: []finding.PatchStep{change("replace", coat.Path+"/thinner", *most)}}, nil,
				"Coat %d: %s is thinned by %s %s; its sheet allows %s %s.%s",
				i+1, coat.Sheet.Name, j.units.Fraction(t.Value), t.Words(), j.units.Fraction(most.Value), most.Words(), caution)
		}
	}
	if p := coat.Pigment; p != nil {
		j.tinted(i, p.Portion, coat.Path+"/pigment", "pigment", "Pigment")
	}
	if coat.Colours != nil {
		for n, c := range coat.Colours.Colours {
			if c.Portion != nil {
				j.tinted(i, *c.Portion, fmt.Sprintf("%s/colours/colours/%d", coat.Path, n), "pigment in "+c.Name, c.Name)
			}
		}
	}
	if coat.Scatter != nil {
		j.broadcast(i)
	}
}

// broadcast judges what is thrown into a coat.
func (j *judge) broadcast(i int) {
	coat := j.layers[i]
	s := coat.Scatter
	if m := j.bed.Media[s.Medium]; m != nil && s.Stays(m) <= 0 {
		j.warn(coat.Path+"/scatter", fmt.Sprintf("Enter what stays in coat %d, by mass per area, or the amount to "+
			"rejection on the shelf.", i+1), nil, nil,
			"Coat %d: nothing says how much %s goes onto it, so it is neither bought nor weighed.", i+1, m.Name)
	}
	if m := j.bed.Media[s.Medium]; m != nil && len(coat.Sheet.Broadcast) > 0 &&
		!slices.Contains(coat.Sheet.Broadcast, string(m.Kind)) {
		j.warn(coat.Path+"/scatter", "Scatter something else, or hold it with another product.",
			&finding.Fix{Label: "Scatter nothing into coat " + fmt.Sprint(i+1),
				Patch: []finding.PatchStep{change("remove", coat.Path+"/scatter", nil)}}, nil,
			"Coat %d: %s is broadcast into %s, whose sheet allows %s.", i+1, m.Name, coat.Sheet.Name,
			material.Listed(coat.Sheet.Broadcast))
	}
	if m := j.bed.Media[s.Medium]; s.Degree == "full" && i == len(j.layers)-1 && m != nil && m.Kind != "pebble" {
		j.warn(coat.Path+"/scatter", "Put a clear coat over it.",
			nil, &finding.Seek{Kinds: topcoats(), Fits: func(q material.Product) bool {
				return (q.Kind == "grout" || q.Kind == "clear" || q.Kind == "polyaspartic" || q.Kind == "urethane") &&
					q.Look == "clear" && takes(&q, coat.Sheet)
			}, Fix: j.put(i+1, "seal")},
			"Coat %d is broadcast to rejection and nothing seals it: the grains wear off and hold dirt.", i+1)
	}
}

// tinted: more pigment than the sheet takes.
func (j *judge) tinted(i int, p material.Portion, path, what, name string) {
	coat := j.layers[i]
	most, a := coat.Sheet.PigmentMax, coat.Mix.MassShare()
	if most == nil || p.OfParts(a) <= most.OfParts(a)*(1+1e-9) {
		return
	}
	j.warn(path, "Use less pigment, or a stronger one.",
		&finding.Fix{Label: name + " at " + j.units.Fraction(most.Value) + " " + most.Words(),
			Patch: []finding.PatchStep{change("replace", path+"/portion", *most)}}, nil,
		"Coat %d: %s of %s (%s) is more than %s allows, %s (%s); it may stay soft.",
		i+1, j.units.Fraction(p.Value), what, p.Words(), coat.Sheet.Name, j.units.Fraction(most.Value), most.Words())
}

// grains: one that is too big for the film that holds it.
func (j *judge) grains(i int) {
	coat := j.layers[i]
	if coat.Grit == nil || coat.Build == nil {
		return
	}
	m := j.bed.Media[coat.Grit.Medium]
	if m == nil || m.Grain == nil || m.Grain.Value <= coat.Build.Dry*grainOverFilm {
		return
	}
	dry := m.Grain.Value / grainOverFilm
	by := float64(dry / coat.Build.Dry)
	wet := coat.Build.Wet * measure.Film(by)
	var fix *finding.Fix
	if coat.Sheet.FilmMax == nil || wet <= coat.Sheet.FilmMax.Value {
		fix = &finding.Fix{Label: "Lay " + j.units.Film(wet) + " wet",
			Patch: []finding.PatchStep{change("replace", coat.Path+"/amount", coat.Amount.Scaled(by*(1+1e-9)))}}
	} else {
		var finer *material.Medium
		for _, o := range j.bed.Media {
			fits := (o.Kind == "grit" || o.Kind == "bead") && o.Grain != nil && o.Grain.Value <= coat.Build.Dry*grainOverFilm
			if fits && (finer == nil || o.Grain.Value > finer.Grain.Value || o.Grain.Value == finer.Grain.Value &&
				o.ID < finer.ID) {
				finer = o
			}
		}
		fix = &finding.Fix{Label: "Leave the grit out", Patch: []finding.PatchStep{change("remove", coat.Path+"/grit", nil)}}
		if finer != nil {
			fix = &finding.Fix{Label: "Take " + finer.Name,
				Patch: []finding.PatchStep{change("replace", coat.Path+"/grit/medium", finer.ID)}}
		}
	}
	j.warn(coat.Path+"/grit", fmt.Sprintf("Lay at least %s dry, or take a finer grit.", j.units.Film(dry)), fix, nil,
		"Coat %d: grains of %s of %s are in a dry film of %s, which holds grains up to %s; traffic pulls larger ones out.",
		i+1, m.Name, j.units.Film(m.Grain.Value), j.units.Film(coat.Build.Dry), j.units.Film(coat.Build.Dry*grainOverFilm))
}

// hiding: fillings show through a light or thin coat over an untinted one.
func (j *judge) hiding(i int) {
	coat := j.layers[i]
	if !j.bed.Fills || coat.Build == nil || i == 0 && len(j.layers) > 1 {
		return
	}
	tinted := func(l Layer) bool { return l.Sheet.Look == "dark" || l.Pigment != nil && l.Pigment.Dark }
	for _, l := range j.layers[:i+1] {
		if tinted(l) || l.Scatter != nil && l.Scatter.Degree == "full" {
			return
		}
	}
	decorative := coat.Sheet.Kind == "metallic" || coat.Sheet.Look == "light"
	if !decorative || coat.Sheet.Hides != nil && coat.Build.Wet >= coat.Sheet.Hides.Value {
		return
	}
	tint := Tint{Dark: true, Portion: material.Portion{Value: 0.03, Of: material.OfAB, Source: measure.RuleOfThumb}}
	if most := j.layers[0].Sheet.PigmentMax; most != nil {
		tint.Portion.Value = min(tint.Portion.Value, measure.Fraction(most.OfParts(j.layers[0].Mix.MassShare())))
	}
	for _, m := range j.bed.Media {
		if m.Kind == "pigment" && dark(m.Color) && (tint.Medium == "" || m.ID < tint.Medium) {
			tint.Medium = m.ID
		}
	}
	reason := "its sheet does not say from which film it hides"
	if coat.Sheet.Hides != nil {
		reason = "it hides from " + j.units.Film(coat.Sheet.Hides.Value)
	}
	j.warn(coat.Path+"/product", "Tint the first coat dark, or lay it thicker.",
		&finding.Fix{Label: "Tint coat 1 dark", Patch: []finding.PatchStep{change("add", j.layers[0].Path+"/pigment", tint)}},
		nil,
		"Coat %d: fillings in the floor show through %s of %s; %s, and there is no dark coat below.", i+1,
		j.units.Film(coat.Build.Wet), coat.Sheet.Name, reason)
}

// dark reports whether a drawing colour is one that hides.
func dark(color string) bool {
	var r, g, b int
	if n, err := fmt.Sscanf(color, "#%02x%02x%02x", &r, &g, &b); err != nil || n != 3 {
		return false
	}
	return 0.2126*float64(r)+0.7152*float64(g)+0.0722*float64(b) < 80
}

// volatile compounds against the contractor's limit, thinner included.
func (j *judge) volatile(i int) {
	coat := j.layers[i]
	if j.bed.VOCMax <= 0 || coat.Sheet.VOC == nil {
		return
	}
	own := float64(coat.Sheet.VOC.Value)
	mixed := own
	if coat.Thinner != nil {
		mixed = float64(coat.Sheet.Thinned(coat.Thinner.OfParts(coat.Mix.Shares[0].Volume)))
	}
	if mixed <= float64(j.bed.VOCMax) {
		return
	}
	content := func(v float64) string { return j.units.Format(measure.KindContent, v) }
	if own <= float64(j.bed.VOCMax) {
		j.warn(coat.Path+"/thinner", "Leave the thinner out.",
			&finding.Fix{Label: "Leave the thinner out",
				Patch: []finding.PatchStep{change("remove", coat.Path+"/thinner", nil)}}, nil,
			"Coat %d: thinned, %s holds %s of volatile compounds; your limit is %s, and unthinned it holds %s.", i+1,
			coat.Sheet.Name, content(mixed), content(float64(j.bed.VOCMax)), content(own))
		return
	}
	j.warn(coat.Path+"/product", "Choose a product with less.",
		nil, &finding.Seek{Kinds: []material.Kind{coat.Sheet.Kind}, Fits: func(q material.Product) bool {
			return q.Kind == coat.Sheet.Kind && q.VOC != nil && q.VOC.Value <= j.bed.VOCMax && j.fits(i, &q)
		}, Fix: j.swap(i)},
		"Coat %d: %s holds %s of volatile compounds; your limit is %s.", i+1, coat.Sheet.Name, content(mixed),
		content(float64(j.bed.VOCMax)))
}

// fits reports whether a product may stand in place of coat i.
func (j *judge) fits(i int, q *material.Product) bool {
	below := i == 0 && bears(q, j.bed.Substrate) || i > 0 && takes(q, j.layers[i-1].Sheet)
	return below && (i == len(j.layers)-1 || takes(j.layers[i+1].Sheet, q))
}

// service: daylight, slip and contact, which the last coat answers for.
func (j *judge) service() {
	last := len(j.layers) - 1
	top := j.layers[last]
	if j.bed.Sun && top.Sheet.Sun != "stable" {
		what := "its sheet does not say that it is stable in daylight"
		if top.Sheet.Sun == "ambers" {
			what = "it ambers in daylight"
		}
		j.warn(top.Path+"/product", "Put a topcoat over it that is stable in daylight.",
			nil, &finding.Seek{Kinds: topcoats(), Fits: func(q material.Product) bool {
				return q.Sun == "stable" && (q.Look == "clear" || top.Sheet.Look != "clear") && len(q.Over) > 0 &&
					takes(&q, top.Sheet)
			}, Fix: j.put(last+1, "sun")},
			"Coat %d of %s is the last one, and %s.", last+1, top.Sheet.Name, what)
	}
	j.slip(last)
	if c := j.bed.Contact; c != "" && !slices.Contains(top.Sheet.Certified, c) {
		words := map[material.Contact]string{"food": "food", "potable": "drinking water"}[c]
		j.warn(top.Path+"/product", "Use only a product certified for it, by its own certificate.",
			nil, &finding.Seek{Kinds: []material.Kind{top.Sheet.Kind}, Fits: func(q material.Product) bool {
				return slices.Contains(q.Certified, c) && q.Kind == top.Sheet.Kind && j.fits(last, &q)
			}, Fix: j.swap(last)},
			"Coat %d of %s touches %s, and its sheet names no certificate for that.", last+1, top.Sheet.Name, words)
	}
}

// topcoats returns what seals and protects.
func topcoats() []material.Kind {
	return []material.Kind{"grout", "clear", "polyaspartic", "urethane"}
}

// slip: the grains near the surface against the class wanted.
func (j *judge) slip(last int) {
	want := grainFor(j.bed.Slip)
	if want == 0 {
		return
	}
	top := j.layers[last]
	grain, dry := measure.Film(0), measure.Film(0)
	for i := last; i >= 0; i-- {
		l := j.layers[i]
		if l.Grit != nil {
			if m := j.bed.Media[l.Grit.Medium]; m != nil && m.Grain != nil {
				grain = max(grain, m.Grain.Value-dry)
			}
		}
		if l.Scatter != nil && l.Scatter.Degree != "light" {
			if m := j.bed.Media[l.Scatter.Medium]; m != nil && m.Grain != nil && m.Kind != "flake" {
				grain = max(grain, m.Grain.Value-dry)
			}
		}
		if l.Build != nil {
			dry += l.Build.Dry
		}
	}
	if grain >= want {
		return
	}
	seek := &finding.Seek{
		FitsMedium: func(m material.Medium) bool {
			return (m.Kind == "grit" || m.Kind == "bead") && m.Grain != nil && m.Grain.Value >= want && m.Grain.Value < 3*want
		},
		FixMedium: func(m material.Medium) *finding.Fix {
			return &finding.Fix{Label: "Stir " + m.Name + " into coat " + fmt.Sprint(last+1), Patch: []finding.PatchStep{
				change("add", top.Path+"/grit", Grit{Medium: m.ID, Dose: measure.Sourced[measure.Content]{Value: usualDose,
					Source: measure.RuleOfThumb}}),
			}}
		},
	}
	has := "nothing stands out of it"
	if grain > 0 {
		has = "its grains stand out by " + j.units.Film(grain)
	}
	j.warn(top.Path+"/grit", fmt.Sprintf("Stir a grit of at least %s into it, and test the floor wet.",
		j.units.Film(want)), nil, seek,
		"%s needs grains of about %s (common practice; measure it by ANSI A326.3 or DIN 51130), but %s.", j.bed.Slip,
		j.units.Film(want), has)
}

// usualDose of grit in a topcoat, kg/m³: common practice, no source.
const usualDose measure.Content = 60
