package material

import (
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"nephelon/core/measure"
)

// Wanted holds what a search asks of a product beyond its words.
type Wanted struct {
	Films   []measure.Film // it can be laid this thick
	Waits   []measure.Span // the next coat may follow after this time
	Colours []string       // it looks like one of these
}

// Nothing reports whether words alone were asked for.
func (w Wanted) Nothing() bool { return len(w.Films)+len(w.Waits)+len(w.Colours) == 0 }

// figure finds a film or a time with its unit among the words of a search.
var figure = regexp.MustCompile(`(?i)\d+(?:[.,]\d+)?\s*(µm|μm|um|microns?|mils?|mm|min(?:utes?)?|hours?|h|days?|d)(?:\s|$)`)

// Search splits a search into words and what it asks as a figure or a colour: "clear 300 µm".
func Search(text string, units measure.System) (words string, w Wanted) {
	words = figure.ReplaceAllStringFunc(text, func(found string) string {
		found = strings.TrimSpace(found)
		unit := strings.ToLower(strings.TrimLeft(found, "0123456789., "))
		if strings.HasPrefix(unit, "h") || strings.HasPrefix(unit, "d") || strings.HasPrefix(unit, "min") {
			if span, err := units.Read(measure.KindSpan, found); err == nil {
				w.Waits = append(w.Waits, measure.Span(span))
				return " "
			}
		} else if film, err := units.Read(measure.KindFilm, found); err == nil {
			w.Films = append(w.Films, measure.Film(film))
			return " "
		}
		return found
	})
	var kept []string
	for _, word := range strings.Fields(words) {
		if name, is := colourNamed(strings.ToLower(word)); is {
			w.Colours = append(w.Colours, name)
			continue
		}
		kept = append(kept, word)
	}
	return strings.Join(kept, " "), w
}

// roomTemperature, °C, is that at which makers state their times: common practice, no source.
const roomTemperature = 20

// Fits reports whether a product is what was asked for. A colour in its name counts as its own.
func (w Wanted) Fits(p Product) bool {
	for _, f := range w.Films {
		if p.FilmMin != nil && f < p.FilmMin.Value || p.FilmMax != nil && f > p.FilmMax.Value ||
			p.FilmMin == nil && p.FilmMax == nil {
			return false
		}
	}
	for _, t := range w.Waits {
		from, opens := nearest(p.RecoatFrom)
		until, closes := nearest(p.RecoatUntil)
		if !opens && !closes || opens && t < from || closes && t > until {
			return false
		}
	}
	return len(w.Colours) == 0 || slices.ContainsFunc(w.Colours, func(name string) bool {
		return ColourName(p.Color) == name || strings.Contains(strings.ToLower(p.Name), name)
	})
}

// nearest returns the time that a sheet gives closest to room temperature.
func nearest(points []TimeAt) (measure.Span, bool) {
	if len(points) == 0 {
		return 0, false
	}
	return slices.MinFunc(points, func(a, b TimeAt) int {
		return int(100 * (math.Abs(float64(a.At-roomTemperature)) - math.Abs(float64(b.At-roomTemperature))))
	}).After, true
}

// colourNamed returns the plain name of a colour that somebody typed.
func colourNamed(word string) (string, bool) {
	switch word {
	case "white", "grey", "black", "red", "orange", "brown", "beige", "yellow", "green", "blue", "violet":
		return word, true
	case "gray":
		return "grey", true
	case "cream", "sand":
		return "beige", true
	case "purple":
		return "violet", true
	}
	return "", false
}

// ColourName returns the plain name of a colour such as #4a6b7c; empty where it is none. The
// limits are common practice, no source.
func ColourName(hex string) string {
	number, err := strconv.ParseUint(strings.TrimPrefix(hex, "#"), 16, 32)
	if err != nil || len(hex) != len("#rrggbb") {
		return ""
	}
	r, g, b := float64(number>>16)/255, float64(number>>8&0xff)/255, float64(number&0xff)/255
	high, low := max(r, g, b), min(r, g, b)
	light, spread := (high+low)/2, high-low
	switch grey := spread < 0.1 || spread < 0.13 && light > 0.6; {
	case light < 0.16:
		return "black"
	case light > 0.93:
		return "white"
	case grey && light > 0.86:
		return "white"
	case grey:
		return "grey"
	}
	return hueName(hueOf(r, g, b), light, spread)
}

// hueOf returns where a colour that is no grey lies on the circle of colours, degrees from red.
func hueOf(r, g, b float64) float64 {
	high, spread := max(r, g, b), max(r, g, b)-min(r, g, b)
	switch high {
	case r:
		return math.Mod((g-b)/spread*60+360, 360)
	case g:
		return (b-r)/spread*60 + 120
	}
	return (r-g)/spread*60 + 240
}

func hueName(hue, light, spread float64) string {
	switch {
	case hue >= 15 && hue < 70 && light > 0.58 && spread < 0.45:
		return "beige"
	case hue >= 15 && hue < 50 && (light < 0.4 || spread < 0.45):
		return "brown"
	case hue < 15 || hue >= 335:
		return "red"
	case hue < 36:
		return "orange"
	case hue < 68:
		return "yellow"
	case hue < 170:
		return "green"
	case hue < 260:
		return "blue"
	}
	return "violet"
}
