package sheet

import (
	"regexp"
	"strings"
)

// labels holds the words that stand at the beginning of a label, by field, as regular expressions: English, then
// German, then Spanish. Another language is more lines.
func labels() map[string][]string {
	return map[string][]string{
		"ratio": {`mix(ing)? ratio`, `ratio`, `by (weight|volume|` +
			`mass)$`, `mischungsverhältnis`, `relación de mezcla`},
		"density": {`density`, `specific gravity`, `dichte`, `densidad`},
		"density of a part": {
			`(density|specific gravity|dichte|densidad)\b.*\b((part|component|komponente|komp\.?|` +
				`comp\.?)\s*[ABC]|[AB])\b`,
			`(resin|base|hardener) density`,
			`(density|dichte|densidad)( of)?( the)?[ ,]*(resin|base|hardener|härter)\b`},
		"density of the mix": {`mixed (density|weight)`, `weight per (gallon|litre|liter)`,
			`(density|dichte)\b.*(mix|gemischt|misch|a ?\+ ?b)`, `densidad de la mezcla`},
		"solids": {`(volume |vol(ume|\.)? |weight |total )?solids?( content)?\b`, `festkörper`,
			`(contenido (de|en) )?sólidos`},
		"voc":       {`vocs?\b`, `volatile organic`, `flüchtige`},
		"viscosity": {`(mixed )?viscosity`, `viskosität`, `viscosidad`},
		"potLife":   {`(mixed )?pot ?life`, `topfzeit`, `verarbeitungszeit`, `vida (útil )?de la mezcla`},
		"working":   {`working (time|life)`, `open time`, `offenzeit`, `offene zeit`, `tiempo abierto`},
		"mixing":    {`mix(ing)? time`, `mischzeit`, `tiempo de mezcla`},
		"induction": {`induction`, `sweat[- ]in`, `stand(ing)? time`, `reifezeit`},
		"tackFree": {`tack[- ]?free`, `touch[- ]dry`, `dry to (the )?touch`, `klebfrei`, `staubtrocken`,
			`seco al tacto`},
		"next coat": {`(re|over)coat(ing|able|ed)?( times?| windows?|` +
			` intervals?)?`, `waiting time`, `time between coats`,
			`inter-?coat( time| interval)?`, `überarbeitbar(keit)?`, `wartezeit`, `tiempo entre capas`, `repintado`},
		"next coat until": {`(until|within|before|no later|(at the |at )?latest|max|longest)`, `bis\b`, `spätestens`},
		"next coat from":  {`(from|after|min|earliest)`, `nach\b`, `ab\b`, `frühestens`},
		"recoatUntil":     {`(max(imum|\.)?|latest|longest) (re|over)coat`},
		"recoatFrom":      {`(min(imum|\.)?|earliest|shortest) (re|over)coat`, `(ready|dry) to (re|over)coat`},
		"foot": {`(ready for |open to )?(light )?(foot|pedestrian) traffic`, `walk(able|[- ]?on|` +
			`ed on)?\b`, `begehbar`,
			`tránsito peatonal`, `transitable`},
		"vehicle": {`(ready for |open to )?(vehic|driv(e|ing)[- ]on|wheel(ed)? traffic|heavy traffic|fork ?lift)`,
			`befahrbar`},
		"furniture": {`furniture`},
		"water": {`water (exposure|immersion|contact)`, `immersion`, `fill(ing|ed)? (the pool )?with water`,
			`fill(ing)? the pool`, `wasserbelast`, `wasserfest`},
		"full": {`full(y)? cur`, `full (chemical|mechanical)`, `complete(ly)? cur`, `(voll|ganz) ausgehärtet`,
			`durchgehärtet`, `curado total`},
		"depth": {`(max(imum|\.)? )?(pour|casting) (depth|thickness)`, `max(imum|\.)? thickness`},
		"film": {`(recommended )?(wet )?film( thickness)?`, `wft\b`, `layer thickness`, `thickness per (coat|layer)`,
			`schichtdicke`, `espesor`},
		"printed": {`(theoretical |practical |approx(imate|\.) )?(coverage|spread(ing)? rate|consumption|usage)`,
			`verbrauch`,
			`ergiebigkeit`, `consumo`, `rendimiento`},
		"moisture of the slab": {
			`(slab|substrate|concrete|floor|residual|max(imum|\.)?( residual| slab| substrate| concrete)?)` +
				`[a-z ()]*(moisture|humidity|\bR\.?H|mver)`,
			`moisture`, `mver`, `r\.?h\.? of (the )?(slab|concrete)`, `restfeuchte`, `untergrundfeuchte`,
			`humedad (del soporte|residual)`},
		"material": {`(material|product|resin|component) temp`},
		"air and slab": {
			`((air|ambient) and (the )?(surface|substrate|floor|slab|concrete)) temp`,
			`((surface|substrate|floor|slab|concrete) and (the )?(air|ambient)) temp`},
		"slab": {`(substrate|floor|surface|slab|concrete) temp`, `untergrundtemp`, `temperatura del soporte`},
		"air":  {`(air|ambient|room) temp`, `lufttemp`, `temperatura ambiente`},
		"use":  {`(application|use|working|processing) temp`, `verarbeitungstemp`, `temperatura de aplicación`},
		"dew":  {`dew ?point`, `taupunkt`, `punto de rocío`},
		"humidity": {`(max(imum|\.)? )?(relative |air |ambient )*(air )?humidity`, `r\.?h\.?\b`,
			`(relative )?luftfeuchte`, `humedad`},
		"kits": {`kits?\b`, `pack(age|aging|s)?\b`, `(unit|pack|kit) sizes?`, `sizes?\b`, `available (in|as)`,
			`suppl(y|ied)\b`, `delivery form`, `lieferform`, `gebinde`, `packung`, `presentación`, `envases`},
		"storage": {`shelf ?life`, `storage`, `store\b`, `keep(s|ing)?\b`, `use (by|` +
			`within)\b`, `best before`, `lager`,
			`haltbar`, `almacen`, `caducidad`},
		"thinner": {`thinn(ing|er)`, `verdünn`, `dilu`},
	}
}

// words returns an expression that ignores case.
func words(text string) *regexp.Regexp { return regexp.MustCompile(`(?i)` + text) }

// begins returns an expression that a label begins with.
func begins(text string) *regexp.Regexp { return words(`^(?:` + text + `)`) }

// vocabulary returns functions that make expressions of the words of fields.
func vocabulary() (is func(names ...string) *regexp.Regexp, any func(name string) string) {
	all := labels()
	any = func(name string) string { return `(?:` + strings.Join(all[name], `|`) + `)` }
	return func(names ...string) *regexp.Regexp {
		some := make([]string, len(names))
		for n, name := range names {
			some[n] = any(name)
		}
		return begins(strings.Join(some, `|`))
	}, any
}
