// Package lexicon holds the words of data sheets for the fields of the shelf, by language.
package lexicon

import (
	"maps"
	"strings"
)

// Labels returns the words that stand at the beginning of a label, by field, as regular expressions: English, then
// German, then Spanish. Another language is more lines.
func Labels() Lexicon {
	x := Lexicon{
		"ratio": {`mix(ing)? (ratio|proportions?)`, `mix(ed)?( by (weight|volume|mass))?$`, `ratio`, `proporción`, `by (weight|volume|` +
			`mass)$`, `(resin|base|part a|a)\s?[:/+]\s?(hardener|activator|part b|b)$`, `mischungsverhältnis`, `relación de mezcla`},
		"density": {`densit(y|ies)`, `specific (gravity|weight)`, `spezifisches gewicht`, `peso específico`, `dichte`, `densidad`, `weight, (mixed|part|resin|base|hardener)`},
		"density of a part": {
			`(density|specific gravity|weight per (gallon|litre|liter)|dichte|densidad)\b.*\b((part|side|component|` +
				`komponente|komp\.?|comp\.?)\s*[ABC]|[AB])\b`,
			`weight, (part|resin|base|hardener)`, `(resin|base|hardener|activator) density`,
			`(density|dichte|densidad)( of)?( the)?[ ,]*(resin|base|hardener|activator|härter)\b`},
		"density of the mix": {`mixed (density|weight)`, `weight per (gallon|litre|liter)`, `gallon weight`, `rohdichte|frischmörtel`,
			`(density|dichte)\b.*(mix|gemischt|misch|a ?\+ ?b)`, `densidad de la mezcla`},
		"solids": {`(mixed |volume |vol(ume|\.)? |weight |total )*solids?( content)?\b`, `fest(körper|stoff)`,
			`(contenido (de|en) )?sólidos`},
		"voc":       {`v\.?o\.?c\.?s?(\b|$)`, `volatile organic`, `flüchtige`, `cov\b`},
		"viscosity": {`(mixed )?viscosity`, `viskosität`, `viscosidad`},
		"potLife": {`(mixed )?pot[- ]?life`, `gel time`, `usable (life|time)`, `topfzeit`, `gebrauchsdauer`, `verarbeitungszeit`, `gelierzeit`,
			`tiempo de (gel|vida)`, `vida (útil )?de la mezcla`},
		"working":   {`working (time|life)`, `(application|open) time`, `time to work`, `offenzeit`, `offene zeit`, `tiempo (abierto|de trabajo)`},
		"mixing":    {`mix(ing)? time`, `mischzeit`, `tiempo de mezcla`},
		"induction": {`induction`, `sweat[- ]in`, `(stand(ing)?|rest(ing)?) time`, `reifezeit`, `tiempo de inducción`},
		"tackFree": {`tack[- ]?free`, `touch[- ]dry`, `((dry|set) )?to (the )?touch`, `surface dry`, `klebfrei`, `staubtrocken`,
			`sec(o|ado) al tacto`},
		"next coat": {`(re|over)coat(ing|able|ed)?( times?| windows?|` +
			` intervals?)?`, `waiting time`, `time between coats`,
			`inter-?coat( time| interval)?`, `(next|second|subsequent|further) (coat|layer)`, `(to )?(re|over)-?coat`, `top ?coat(ed|ing)? (within|after|between)`, `überarbeit(bar(keit)?|ung)\b`, `wartezeit`, `tiempo entre capas`, `(intervalo de )?repintado`},
		"next coat until": {`(until|within|before|no later|not later|(at the |at )?latest|max|longest)`, `bis\b`, `spätestens`, `máx`},
		"next coat from":  {`(from|after|min|earliest|not before)`, `nach\b`, `ab\b`, `frühestens`, `mín`},
		"recoatUntil":     {`(max(imum|\.)?|latest|longest) (re|over)coat`},
		"recoatFrom":      {`(min(imum|\.)?|earliest|shortest) (re|over)coat`, `(ready|dry) to (re|over)coat`},
		"foot": {`light traffic`, `(ready for |open to )?(light )?((foot|pedestrian) )?traffic, (foot|light)`,
			`(ready for |open to )?(light )?(foot|pedestrian)( traffic|s)?\b`, `walk(able|ing|[- ]?on|` +
				`ed on)?\b`, `begehbar`,
			`tránsito peatonal`, `transitable`, `pisable`, `tráfico peatonal`},
		"vehicle": {`(ready for |open to )?(light )?(vehic|driv(en|e|ing)[- ]on|wheel(ed)? traffic|heavy traffic|fork ?lift)`,
			`(traffic, )?(heavy|vehicles)\b`, `befahrbar`, `mechanisch belastbar`, `(tránsito|tráfico) (de vehículos|rodado|pesado)`},
		"furniture": {`furniture`},
		"water": {`water (exposure|immersion|contact)`, `immersion`, `fill(ing|ed)? (the pool )?with water`,
			`fill(ing)? (the )?pool`, `wasserbelast`, `wasserfest`},
		"full": {`full(y)? cur`, `to cure\b`, `full (chemical|mechanical)`, `complete(ly)? cur`, `full(y)? hard`, `full (strength|service|load)`, `final cure`, `chemical(ly)? (resist|service)`, `chemische beständig`, `resistant to chemicals`,
			`((voll|ganz) )?ausgehärtet`,
			`durchgehärtet`, `vol(l|lständig) belastbar`, `vollständige aushärtung`, `chemisch belastbar`, `curado (total|completo)`,
			`total(mente)? curado`},
		"depth": {`(max(imum|\.)? )?(pour(ing)?|casting) (depth|thickness)`, `max(imum|\.)? pour\b`, `max(imum|\.)? thickness`, `gießhöhe`},
		"film": {`(recommended |apply |application )*(wet )?film( thickness)?`, `wft\b`, `layer thickness`,
			`thickness( per (coat|layer))?\b`, `applied at`, `wet\b`,
			`schichtdicke`, `espesor`},
		"printed": {`(theoretical |practical |approx(imate|\.) |typical |recommended )?(coverage|spread(ing)? (rate|capacity)|consumption|usage|` +
			`application rate)`,
			`verbrauch`,
			`ergiebigkeit`, `consumo`, `rendimiento`},
		"moisture of the slab": {
			`(slab|substrate|concrete|floor|residual|max(imum|\.)? (residual|slab|substrate|concrete|internal))` +
				`[a-z ()]*(moisture|humidity|\bR\.?H|mver)`,
			`(max(imum|\.)? )?moisture`, `(max(imum|\.)? )?mver`, `(max(imum|\.)? )?r\.?h\.? (of|in) (the )?(slab|concrete|substrate)`, `(slab|concrete|substrate) must (pass|test|be)`, `(rest|untergrund|boden)feuchte`,
			`humedad (del (soporte|hormigón)|residual)`},
		"material": {`(material|product|resin|component)s? temp`, `materialtemp`},
		"air and slab": {`(objekt|untergrund|boden)-? und (luft|umgebungs)temp`, `(luft|umgebungs)-? und (objekt|untergrund|boden)temp`,
			`temperatures? (of|for)\b`, `(mindest|höchst)temp`, `(max|min)(imum|\.)? temp`, `(air|ambient)[ ,]+(surface|substrate|floor|slab)[ ,]+(and )?material`,
			`((air|ambient) and (the )?(surface|substrate|floor|slab|concrete)) temp`,
			`(application|use|working|installation) temp[a-z]*[^a-z]*(air|ambient) (and|&|/) (surface|substrate|floor|slab)`,
			`((surface|substrate|floor|slab|concrete) and (the )?(air|ambient)) temp`},
		"slab": {`(substrate|floor|surface|slab|concrete) temp`, `(untergrund|boden|objekt)temp`,
			`temperatura d(el soporte|e la superficie)`},
		"air": {`(air|ambient|room) temp`, `(best |ideal |recommended )?(room\b|air temp|ambient temp)`, `(luft|umgebungs|raum)temp`, `temperatura ambiente`,
			`temperatura del aire`},
		"use": {`((max|min)(imum|\.)? )?(application|use|working|processing|installation|recommended) temp`, `verarbeitung\b`, `verarbeitungstemp`, `temperatura de aplicación`},
		"dew": {`dew ?point`, `taupunkt`, `punto de rocío`},
		"humidity": {`(max(imum|\.)? )?(relative |air |ambient )*(air )?humidity`, `(max(imum|\.)? )?r\.?h\.?\b`,
			`(max(imal|\.)?e? )?(rel(ative|\.) )?luftfeucht`, `(rel\.|relative) feuchte`, `humedad`},
	}
	maps.Copy(x, packLabels())
	return x
}

// packLabels holds those of how a product is sold, kept, coloured and thinned.
func packLabels() Lexicon {
	return Lexicon{
		"kits": {`(kits?|sets?)\b`, `pack(age|aging|s)?\b`, `(units?|pack|kit)( sizes?)?\b`, `sizes?\b`, `available (in|as)`,
			`(complete|full|whole|total) (pack|kit|set|unit)`, `container`,
			`[0-9][0-9.,/-]*[ -]?(kg|g|lb|l|litre|liter|gal|gallon|quart|qt|ml)s? (complete |full )?(kit|pack|set|unit|bucket|pail|gebinde)s?\b`,
			`suppl(y|ied)\b`, `delivery form`, `lieferform`, `(liefer|kombi)?gebinde`, `(ver)?packung`, `presentación`, `envases`},
		"storage": {`shelf ?life`, `storage`, `store\b`, `keep(s|ing)?\b`, `use (by|` +
			`within)\b`, `best before`, `lager`,
			`haltbar`, `almacen`, `caducidad`, `vida útil`},
		"pigment": {`(max(imum|\.)? )?(pigment|colou?r|tint)(ing)? ?(paste|addition|load(ing)?|concentrate)?\b`,
			`(max(imal|\.)?e? )?(farb|pigment)(paste|zugabe)`, `adición de (pigmento|color)`},
		"filler": {`(max(imum|\.)? )?(fill(er|ing)|extender|aggregate|sand)( addition| load(ing)?| content)?\b`, `füll(stoff|grad|ung)`,
			`(adición de )?(carga|árido)s?\b`},
		"thinner": {`thinn(ing|er)`, `reduc(er|tion)`, `verdünn`, `dilu`, `wasserzugabe`, `water addition`, `adición de agua`},
	}
}

// Lexicon holds words by what they name.
type Lexicon map[string][]string

// Any returns an expression of one of the words of a name.
func (x Lexicon) Any(name string) string { return `(?:` + strings.Join(x[name], `|`) + `)` }
