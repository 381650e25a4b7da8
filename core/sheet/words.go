package sheet

import (
	"regexp"
	"strings"
)

// wordField is a value that stands in words anywhere.
type wordField struct {
	path       string
	found, not *regexp.Regexp
	value      func(m []string) any
}

func wordFields() []wordField {
	constant := func(v any) func([]string) any { return func([]string) any { return v } }
	return []wordField{
		{"thinnerMax", words(`do not thin\b|must not be thinned|never thin\b|nicht verdünnen|no diluir`),
			words(`unless|except`),
			constant(map[string]any{"value": 0.0, "of": "a"})},
		{"abrade", words(`\b(?:abrade|sand)\b[^.]*?\b([0-9]{2,3})[ -]?grit`), nil,
			func(m []string) any { return value(m[1]) }},
		{"sun", words(`\b(?:not (?:uv|light)[- ]?(?:stable|resistant)|(?:may|will) (?:yellow|amber)|yellows|ambers)\b`), nil,
			constant("ambers")},
		{"sun", words(`\b(?:uv|light)[- ]?(?:stable|resistant|fast)\b|non[- ]yellowing\b`), words(`\bnot (uv|light)`),
			constant("stable")},
	}
}

// ground are the names that the shelf has for what a product goes over.
func ground() map[string]string {
	return map[string]string{"concrete": "concrete", "screed": "screed", "screeds": "screed", "plaster": "plaster",
		"wood": "wood", "timber": "wood", "metal": "metal", "steel": "metal", "tile": "tile", "tiles": "tile",
		"stone":    "stone",
		"laminate": "laminate"}
}

var forGround = words(`\bfor ((?:[a-z]+(?:, | and | or )?)+)`)

// head reads what stands in words in the first lines: the name, what it is, and its edition.
func (r *reader) head() {
	const first = 8
	edition := words(`\b(edition [0-9][0-9/.]*|rev(?:ision|\.)? ?[0-9][0-9./]*|versi[oó]n [0-9][0-9.]*|` +
		`issue [0-9][0-9./]*|[01]?[0-9]/20[0-9]{2})`)
	named, described := false, false
	for n := 0; n < len(r.lines) && n < first; n++ {
		text := r.lines[n].Text
		if text == "" {
			continue
		}
		if !named && len(text) <= 60 && !strings.Contains(text, ":") &&
			!words(`data ?sheet|datenblatt`).MatchString(text) {
			named = true
			r.add(n, Value{Path: "name", Value: text, As: text})
			continue
		}
		if m := edition.FindString(text); m != "" {
			r.add(n, Value{Path: "edition", Value: m, As: m})
			continue
		}
		if described || strings.Contains(text, ":") {
			continue
		}
		described = r.describe(n, text)
	}
}

// describe reads chemistry, kind, carrier and ground from a sentence that says what it is.
func (r *reader) describe(n int, text string) bool {
	find := func(path string, choices [][2]string) bool {
		for _, c := range choices {
			if m := words(`\b(?:` + c[0] + `)\b`).FindString(text); m != "" {
				r.add(n, Value{Path: path, Value: c[1], As: m})
				return true
			}
		}
		return false
	}
	if !find("chemistry", [][2]string{{"polyaspartic", "polyaspartic"}, {"novolac", "novolac"},
		{"epox(?:y|id|i)", "epoxy"}, {"polyurethane|urethane|pu", "polyurethane"}, {"acrylic", "acrylic"},
		{"polyester", "polyester"}, {"alkyd", "alkyd"}}) {
		return false
	}
	find("kind", [][2]string{{"moisture barrier|vapou?r barrier", "moisture-barrier"},
		{"primer|grundierung|imprimación", "primer"},
		{"metallic", "metallic"}, {"flood coat|table ?top|bar ?top", "flood"}, {"deep[- ]pour|casting", "deep-pour"},
		{"grout", "grout"}, {"pool (paint|coating)", "pool-paint"}, {"polyaspartic", "polyaspartic"},
		{"binder", "binder"}, {"clear.*|sealer", "clear"},
		{"self[- ]levell?ing|body coat|floor coating|autonivelante|verlaufs?beschichtung", "body"},
		{"paint", "paint"}, {"polyurethane|urethane", "urethane"}})
	find("carrier", [][2]string{{"water[- ]based|waterborne|water[- ]borne|wässrig", "water"},
		{"solvent[- ]free|100 ?% solids|lösemittelfreie?", "none"}, {"solvent[- ]based|solvent[- ]?borne", "solvent"}})
	if m := forGround.FindStringSubmatch(text); m != nil {
		var over []string
		for _, word := range regexp.MustCompile(`[a-z]+`).FindAllString(strings.ToLower(m[1]), -1) {
			if g := ground()[word]; g != "" {
				over = append(over, g)
			}
		}
		if len(over) > 0 {
			r.add(n, Value{Path: "over", Value: over, As: m[0]})
		}
	}
	return true
}
