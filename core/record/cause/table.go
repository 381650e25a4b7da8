package cause

import (
	"slices"

	"nephelon/core/record"
)

// Source names the source of the weights.
const Source = "common practice, no source: the order in which causes are suspected, and how much each sign counts"

// Symptoms returns what may be seen on a floor, with what may have caused it: common practice,
// no source. A weight of 3 settles most cases by itself, 1 is a hint.
func Symptoms() []Symptom {
	return slices.Concat(mixSymptoms(), bondSymptoms(), filmSymptoms())
}

// The remedies that several causes have, with hours of one person's work for each square metre.

func abrade(text string) Remedy { return Remedy{text, 0.10, true} }

func remove() Remedy {
	return Remedy{"Remove what is soft, wipe, abrade, another coat there.", 0.45, true}
}

func seal() Remedy { return Remedy{"Sand, seal, another coat on a falling temperature.", 0.15, true} }

func carryOut() Remedy {
	return Remedy{"Carry it outside, leave it, never add water, never seal it; its section needs another batch.", 0, true}
}

func strip() Remedy { return Remedy{"Remove to what is sound, prepare again, coat again.", 0.60, true} }

func wash() Remedy { return Remedy{"Wash, abrade, another coat.", 0.12, true} }

// mixSymptoms lists what comes of mixing, pouring and joining.
func mixSymptoms() []Symptom {
	return []Symptom{
		{"soft", "Sticky or soft spots", []Cause{
			{"residue", "Unmixed residue tipped out of the pail", 1.2, false, nil,
				"Was a pail turned over or left to drain on the floor there?", remove()},
			{"ratio", "The batch was off its ratio", 1.1, false, []Shows{{Fact: record.OffRatio, Weight: 3}}, "", remove()},
			{"mixing", "It was mixed too short", 1.0, false, []Shows{{Fact: record.UnderMixed, Weight: 2.5}},
				"Did streaks show when it was poured?", remove()},
			{"pair", "A wrong pair: A with the B of another product", 0.6, false, nil,
				"Was a pail of another product open at the mixing place?", remove()},
			{"cold", "Too cold to cure", 0.7, false, []Shows{{Fact: record.ColdSlab, Weight: 2.5}}, "",
				Remedy{"Warm the room and wait; what is still soft after the sheet's full cure comes out.", 0.02, false}},
		}},
		{"bubbles", "Bubbles, craters, pinholes", []Cause{
			{"outgassing", "The slab warmed up and breathed out while it was poured", 1.2, false,
				[]Shows{{Fact: record.Warming, Weight: 3}}, "", seal()},
			{"porous", "Porous ground that no primer had closed", 1.0, false, []Shows{{Fact: record.OpenSurface, Weight: 1}},
				"Did the primer sink in and leave the ground dull?", seal()},
			{"air", "Air whipped in while mixing", 0.7, false, nil, "Did the paddle run fast or draw a vortex?", seal()},
			{"damp", "Damp under it", 0.6, false,
				[]Shows{{Fact: record.OpenSurface, Weight: 1.5}, {Fact: record.Damp, Weight: 1}}, "", seal()},
		}},
		{"hot", "Hot, smoking or set in the bucket", []Cause{
			{"stood", "It stood in the pail too long", 1.1, false,
				[]Shows{{Fact: record.Stood, Weight: 2.5}, {Fact: record.PouredLate, Weight: 1.5}}, "", carryOut()},
			{"large", "Too large a batch for its heat", 1.0, false, []Shows{{Fact: record.HotBucket, Weight: 0.5}},
				"Was more than one batch in the pail?", carryOut()},
			{"warm", "Warm parts", 0.8, false, nil, "Had the pails stood in the sun or a heated van?", carryOut()},
			{"hardener", "Too much hardener", 0.5, false, []Shows{{Fact: record.MuchHardener, Weight: 2.5}}, "", carryOut()},
		}},
		{"lap", "Lap lines, cold joints", []Cause{
			{"late", "The edge had set before it was joined", 1.3, false, []Shows{{Fact: record.JoinedLate, Weight: 3}}, "",
				abrade("Abrade the line, another coat over the whole visible area.")},
			{"slow", "The section took too long: too large, or too few people", 0.9, false,
				[]Shows{{Fact: record.SlowSection, Weight: 2}}, "",
				abrade("Abrade the line, another coat; smaller sections or one more person.")},
			{"aged", "The batch arrived old", 0.8, false,
				[]Shows{{Fact: record.PouredLate, Weight: 2.5}, {Fact: record.Stood, Weight: 1.5}}, "",
				abrade("Abrade the line, another coat.")},
		}},
		{"bands", "Bands of colour", []Cause{
			{"uneven", "Uneven film", 1.1, false,
				[]Shows{{Fact: record.UnevenFilm, Weight: 3}, {Fact: record.ThinFilm, Weight: 1}}, "",
				abrade("Another coat, at an even film.")},
			{"stirred", "A was not stirred: its pigment lay on the bottom", 0.8, false, nil,
				"Was A poured without being stirred first?", abrade("Another coat.")},
			{"dipped", "A thick coat was dipped and rolled", 0.7, false, nil, "Was it rolled out of a tray?",
				abrade("Another coat, poured and spread.")},
		}},
	}
}

// bondSymptoms lists what comes of the ground, of weather and of what lies on it.
func bondSymptoms() []Symptom {
	return []Symptom{
		{"peeling", "Peels in sheets", []Cause{
			{"window", "The window was missed without abrading", 1.2, false,
				[]Shows{{Fact: record.MissedWindow, Weight: 3}}, "", strip()},
			{"surface", "A weak, dusty or oily surface", 1.0, false,
				[]Shows{{Fact: record.OpenSurface, Weight: 2.5}, {Fact: record.OpenDust, Weight: 1}}, "", strip()},
			{"damp", "Damp from below", 0.8, false, []Shows{{Fact: record.NearDew, Weight: 1.5}},
				"Is the underside of the sheet damp?", strip()},
			{"acid", "Acid that was not neutralised", 0.4, false, nil, "Was the ground etched?", strip()},
			{"early", "The coat below was not ready", 0.4, false, []Shows{{Fact: record.TooEarly, Weight: 2}}, "", strip()},
		}},
		{"haze", "White haze, water spots", []Cause{
			{"dew", "The film fell under the dew point", 1.3, false, []Shows{{Fact: record.NearDew, Weight: 3}}, "", wash()},
			{"water", "Rain, drips or a sprinkler within a day", 0.9, false,
				[]Shows{{Fact: record.OpenWater, Weight: 2}, {Fact: record.OpenForecast, Weight: 1.5}},
				"Did water stand on it within a day?", wash()},
			{"humid", "Damp air", 0.8, false, []Shows{{Fact: record.Damp, Weight: 2.5}}, "", wash()},
		}},
		{"fisheyes", "Fisheyes", []Cause{
			{"oil", "Silicone, oil or wax on the ground", 1.2, false, []Shows{{Fact: record.OpenSurface, Weight: 2}},
				"Was polish, hand cream or a lubricant used near it?",
				abrade("Clean with what the sheet allows, abrade, another coat.")},
			{"thinner", "A wrong thinner", 0.7, false, nil, "Was it thinned?",
				abrade("Clean, abrade, another coat without it.")},
		}},
		{"runs", "Runs on walls", []Cause{
			{"thick", "Too thick in one coat", 1.2, false, []Shows{{Fact: record.ThickFilm, Weight: 3}}, "",
				abrade("Sand flat, thinner coats.")},
			{"thinned", "It was thinned", 0.7, false, nil, "Was it thinned?", abrade("Sand flat, another coat as it comes.")},
			{"cold", "A cold wall", 0.7, false, []Shows{{Fact: record.ColdSlab, Weight: 2.5}}, "",
				abrade("Sand flat, another coat on a warmer wall.")},
		}},
		{"specks", "Cured specks, lint, hairs", []Cause{
			{"dust", "Dust on the ground or from walls and pipes", 1.0, false, []Shows{{Fact: record.OpenDust, Weight: 3}}, "",
				abrade("Sand, strain, another coat.")},
			{"roller", "A cheap roller", 0.9, false, nil, "Do the hairs match the roller?",
				abrade("Sand, another coat with a shed-free sleeve.")},
			{"vessel", "A pail that was used before", 0.8, false, nil, "Was a pail used again?",
				abrade("Sand, strain, another coat.")},
			{"draught", "A draught", 0.6, false, nil, "Was a door or window open?",
				abrade("Sand, another coat with the room closed.")},
		}},
	}
}

// filmSymptoms lists what comes of the film, its colour and its sheet.
func filmSymptoms() []Symptom {
	return []Symptom{
		{"bare", "Bare or thin patches", []Cause{
			{"thin", "Too thin a film", 1.1, false, []Shows{{Fact: record.ThinFilm, Weight: 3}}, "", abrade("Another coat.")},
			{"edge", "An edge that was not wetted first", 0.9, false, nil, "Are they along edges and faces only?",
				abrade("Brush the edges, another coat.")},
		}},
		{"amber", "Amber or yellow", []Cause{
			{"sun", "No light-stable coat on top", 1.3, false, []Shows{{Fact: record.Ambers, Weight: 3}}, "",
				abrade("A light-stable topcoat.")},
			{"heat", "It was poured hot", 0.7, false,
				[]Shows{{Fact: record.PouredLate, Weight: 2}, {Fact: record.HotBucket, Weight: 1.5}}, "",
				abrade("A topcoat that hides it.")},
		}},
		{"bond", "Will not bond over a filled place or between coats", []Cause{
			{"gloss", "Gloss left in places", 1.1, false,
				[]Shows{{Fact: record.OpenSurface, Weight: 2}, {Fact: record.MissedWindow, Weight: 2}},
				"Did places still shine before it was coated?", strip()},
			{"dust", "Dust left from abrading", 0.9, false, []Shows{{Fact: record.OpenDust, Weight: 2.5}}, "", strip()},
		}},
		{"through", "Filler or ground shows through", []Cause{
			{"thin", "A thin colour coat", 1.0, false,
				[]Shows{{Fact: record.ThinFilm, Weight: 3}, {Fact: record.UnevenFilm, Weight: 1}}, "", abrade("Another coat.")},
			{"primer", "An untinted primer", 0.9, false, nil, "Was the primer clear?", abrade("Tint it, another coat.")},
		}},
		{"undried", "Never quite dry on a decorative pour", []Cause{
			{"ratio", "Unequal parts", 1.2, false, []Shows{{Fact: record.OffRatio, Weight: 3}}, "", remove()},
			{"pigment", "Too much pigment", 0.9, false, nil, "Was colour added until it looked right?", remove()},
			{"cold", "A cold room", 0.8, false, []Shows{{Fact: record.ColdSlab, Weight: 2.5}}, "",
				Remedy{"Warm the room and wait.", 0.02, false}},
		}},
		{"bumps", "Bumps underfoot, too slippery, too rough", []Cause{
			{"uneven", "Uneven broadcast", 1.1, false, nil, "Was it thrown from one side only?",
				abrade("Sand, another topcoat.")},
			{"thick", "Too much or too little topcoat over the grain", 0.8, false,
				[]Shows{{Fact: record.ThickFilm, Weight: 2}, {Fact: record.ThinFilm, Weight: 2}}, "",
				abrade("Sand, another topcoat.")},
		}},
	}
}
