package cause

import (
	"slices"

	"nephelon/core/record/fact"
)

// Source names the source of the weights.
const Source = "common practice, no source: the order in which causes are suspected, and how much each sign counts"

// Symptoms returns what may be seen on a floor, with what may have caused it: common practice,
// no source. A weight of 3 settles most cases by itself, 1 is a hint.
func Symptoms() []Symptom {
	return slices.Concat(mixSymptoms(), bondSymptoms(), filmSymptoms(), groundSymptoms(), faceSymptoms(),
		edgeSymptoms())
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
			{"ratio", "The batch was off its ratio", 1.1, false, []Shows{{Fact: fact.OffRatio, Weight: 3}},
				"", remove()},
			{"mixing", "It was mixed too short", 1.0, false, []Shows{{Fact: fact.UnderMixed, Weight: 2.5}},
				"Did streaks show when it was poured?", remove()},
			{"pair", "A wrong pair: A with the B of another product", 0.6, false, nil,
				"Was a pail of another product open at the mixing place?", remove()},
			{"cold", "Too cold to cure", 0.7, false, []Shows{{Fact: fact.ColdSlab, Weight: 2.5}}, "",
				Remedy{"Warm the room and wait; what is still soft after the sheet's full cure comes out.", 0.02,
					false}},
			{"old", "The lot had expired or was stored badly", 0.3, false, []Shows{{Fact: fact.ExpiredLot,
				Weight: 2.5}},
				"Was the hardener cloudy, thick or crystallised when it was opened?", remove()},
		}},
		{"bubbles", "Bubbles, craters, pinholes", []Cause{
			{"outgassing", "The slab warmed up and breathed out while it was poured", 1.2, false,
				[]Shows{{Fact: fact.Warming, Weight: 3}}, "", seal()},
			{"porous", "Porous ground that no primer had closed", 1.0, false,
				[]Shows{{Fact: fact.OpenPores, Weight: 2}, {Fact: fact.OpenSurface, Weight: 1}},
				"Did the primer sink in and leave the ground dull?", seal()},
			{"air", "Air whipped in while mixing", 0.7, false, []Shows{{Fact: fact.OverMixed, Weight: 1.5}},
				"Did the paddle run fast or draw a vortex?", seal()},
			{"damp", "Damp under it", 0.6, false,
				[]Shows{{Fact: fact.DampSlab, Weight: 2.5}, {Fact: fact.YoungSlab, Weight: 1},
					{Fact: fact.OpenSurface, Weight: 1}}, "Does water bead under a bubble that is cut open?",
				seal()},
		}},
		{"hot", "Hot, smoking or set in the bucket", []Cause{
			{"stood", "It stood in the pail too long", 1.1, false,
				[]Shows{{Fact: fact.Stood, Weight: 2.5}, {Fact: fact.PouredLate, Weight: 1.5}}, "", carryOut()},
			{"large", "Too large a batch for its heat", 1.0, false, []Shows{{Fact: fact.HotBucket, Weight: 0.5}},
				"Was more than one batch in the pail?", carryOut()},
			{"warm", "Warm parts", 0.8, false, nil, "Had the pails stood in the sun or a heated van?", carryOut()},
			{"hardener", "Too much hardener", 0.5, false, []Shows{{Fact: fact.MuchHardener, Weight: 2.5}}, "",
				carryOut()},
		}},
		{"lap", "Lap lines, cold joints", []Cause{
			{"late", "The edge had set before it was joined", 1.3, false, []Shows{{Fact: fact.JoinedLate,
				Weight: 3}}, "",
				abrade("Abrade the line, another coat over the whole visible area.")},
			{"slow", "The section took too long: too large, or too few people", 0.9, false,
				[]Shows{{Fact: fact.SlowSection, Weight: 2}}, "",
				abrade("Abrade the line, another coat; smaller sections or one more person.")},
			{"aged", "The batch arrived old", 0.8, false,
				[]Shows{{Fact: fact.PouredLate, Weight: 2.5}, {Fact: fact.Stood, Weight: 1.5}}, "",
				abrade("Abrade the line, another coat.")},
		}},
		{"bands", "Bands of colour", []Cause{
			{"uneven", "Uneven film", 1.1, false,
				[]Shows{{Fact: fact.UnevenFilm, Weight: 3}, {Fact: fact.ThinFilm, Weight: 1}}, "",
				abrade("Another coat, at an even film.")},
			{"lots", "Lots of another shade side by side", 0.4, false, []Shows{{Fact: fact.OtherLots,
				Weight: 2}}, "",
				abrade("Another coat of one lot over all of it.")},
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
				[]Shows{{Fact: fact.MissedWindow, Weight: 3}}, "", strip()},
			{"surface", "A weak, dusty or oily surface", 1.0, false,
				[]Shows{{Fact: fact.OpenSurface, Weight: 2}, {Fact: fact.Contaminated, Weight: 2},
					{Fact: fact.WeakSlab, Weight: 2}, {Fact: fact.NoProfile, Weight: 2}, {Fact: fact.OpenDust,
						Weight: 1}},
				"Does concrete, dust or oil cling to the underside?", strip()},
			{"damp", "Damp from below", 0.8, false,
				[]Shows{{Fact: fact.DampSlab, Weight: 3}, {Fact: fact.YoungSlab, Weight: 1}},
				"Is the underside of the sheet damp?", strip()},
			{"acid", "Acid that was not neutralised", 0.4, false, []Shows{{Fact: fact.OffPH, Weight: 2.5}},
				"Was the ground etched?", strip()},
			{"early", "The coat below was not ready", 0.4, false, []Shows{{Fact: fact.TooEarly, Weight: 2}},
				"", strip()},
		}},
		{"haze", "White haze, water spots", []Cause{
			{"dew", "The film fell under the dew point", 1.3, false, []Shows{{Fact: fact.NearDew, Weight: 3}},
				"", wash()},
			{"water", "Rain, drips or a sprinkler within a day", 0.9, false,
				[]Shows{{Fact: fact.OpenWater, Weight: 2}, {Fact: fact.OpenForecast, Weight: 1.5}},
				"Did water stand on it within a day?", wash()},
			{"humid", "Damp air", 0.8, false, []Shows{{Fact: fact.Damp, Weight: 2.5}}, "", wash()},
		}},
		{"fisheyes", "Fisheyes", []Cause{
			{"oil", "Silicone, oil or wax on the ground", 1.2, false,
				[]Shows{{Fact: fact.Contaminated, Weight: 2.5}, {Fact: fact.OpenSurface, Weight: 1.5}},
				"Was polish, hand cream or a lubricant used near it?",
				abrade("Clean with what the sheet allows, abrade, another coat.")},
			{"thinner", "A wrong thinner", 0.7, false, nil, "Was it thinned?",
				abrade("Clean, abrade, another coat without it.")},
			{"stood", "A pail that had stood and begun to set", 0.3, false,
				[]Shows{{Fact: fact.Stood, Weight: 2}, {Fact: fact.PouredLate, Weight: 2}}, "",
				abrade("Abrade, another coat.")},
		}},
		{"runs", "Runs on walls", []Cause{
			{"thick", "Too thick in one coat", 1.2, false, []Shows{{Fact: fact.ThickFilm, Weight: 3}}, "",
				abrade("Sand flat, thinner coats.")},
			{"thinned", "It was thinned", 0.7, false, nil, "Was it thinned?",
				abrade("Sand flat, another coat as it comes.")},
			{"cold", "A cold wall", 0.7, false, []Shows{{Fact: fact.ColdSlab, Weight: 2.5}}, "",
				abrade("Sand flat, another coat on a warmer wall.")},
		}},
		{"specks", "Cured specks, lint, hairs", []Cause{
			{"dust", "Dust on the ground or from walls and pipes", 1.0, false, []Shows{{Fact: fact.OpenDust,
				Weight: 3}}, "",
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
			{"thin", "Too thin a film", 1.1, false, []Shows{{Fact: fact.ThinFilm, Weight: 3}}, "",
				abrade("Another coat.")},
			{"edge", "An edge that was not wetted first", 0.9, false, nil, "Are they along edges and faces only?",
				abrade("Brush the edges, another coat.")},
		}},
		{"amber", "Amber or yellow", []Cause{
			{"sun", "No light-stable coat on top", 1.3, false, []Shows{{Fact: fact.Ambers, Weight: 3}}, "",
				abrade("A light-stable topcoat.")},
			{"heat", "It was poured hot", 0.7, false,
				[]Shows{{Fact: fact.PouredLate, Weight: 2}, {Fact: fact.HotBucket, Weight: 1.5}}, "",
				abrade("A topcoat that hides it.")},
		}},
		{"bond", "Will not bond over a filled place or between coats", []Cause{
			{"gloss", "Gloss left in places", 1.1, false,
				[]Shows{{Fact: fact.OpenSurface, Weight: 2}, {Fact: fact.MissedWindow, Weight: 2}},
				"Did places still shine before it was coated?", strip()},
			{"dust", "Dust left from abrading", 0.9, false, []Shows{{Fact: fact.OpenDust, Weight: 2.5}}, "",
				strip()},
		}},
		{"through", "Filler or ground shows through", []Cause{
			{"thin", "A thin colour coat", 1.0, false,
				[]Shows{{Fact: fact.ThinFilm, Weight: 3}, {Fact: fact.UnevenFilm, Weight: 1}}, "",
				abrade("Another coat.")},
			{"primer", "An untinted primer", 0.9, false, nil, "Was the primer clear?",
				abrade("Tint it, another coat.")},
		}},
		{"undried", "Never quite dry on a decorative pour", []Cause{
			{"ratio", "Unequal parts", 1.2, false, []Shows{{Fact: fact.OffRatio, Weight: 3}}, "", remove()},
			{"pigment", "Too much pigment", 0.9, false, nil, "Was colour added until it looked right?", remove()},
			{"cold", "A cold room", 0.8, false, []Shows{{Fact: fact.ColdSlab, Weight: 2.5}}, "",
				Remedy{"Warm the room and wait.", 0.02, false}},
			{"old", "The lot had expired or was stored badly", 0.3, false, []Shows{{Fact: fact.ExpiredLot,
				Weight: 2.5}}, "",
				remove()},
		}},
		{"bumps", "Bumps underfoot, too slippery, too rough", []Cause{
			{"uneven", "Uneven broadcast", 1.1, false, nil, "Was it thrown from one side only?",
				abrade("Sand, another topcoat.")},
			{"thick", "Too much or too little topcoat over the grain", 0.8, false,
				[]Shows{{Fact: fact.ThickFilm, Weight: 2}, {Fact: fact.ThinFilm, Weight: 2}}, "",
				abrade("Sand, another topcoat.")},
		}},
	}
}

// groundSymptoms lists what the ground does to a film, at once or after months.
func groundSymptoms() []Symptom {
	return []Symptom{
		{"cracks", "Cracks", []Cause{
			{"moved", "A joint or crack of the ground moved", 1.3, false, nil,
				"Do they follow a joint or crack of the ground?",
				Remedy{"Cut the joint through the coating and fill it with what stays soft; repair what ran through.", 0.40, true}},
			{"weak", "The ground itself tore", 0.7, false, []Shows{{Fact: fact.WeakSlab, Weight: 2.5}}, "",
				strip()},
			{"thick", "Too thick at once, or too hot", 0.7, false,
				[]Shows{{Fact: fact.ThickFilm, Weight: 2}, {Fact: fact.HotBucket, Weight: 1.5},
					{Fact: fact.PouredLate, Weight: 1}}, "",
				abrade("Open and fill the cracks, abrade, another coat.")},
			{"below", "The coat below was still soft", 0.6, false, []Shows{{Fact: fact.TooEarly, Weight: 3}},
				"", strip()},
			{"hardener", "Too much hardener made it brittle", 0.4, false, []Shows{{Fact: fact.MuchHardener,
				Weight: 2.5}}, "",
				strip()},
		}},
		{"osmosis", "Blisters with liquid in them, after months", []Cause{
			{"damp", "Damp from below", 1.3, false,
				[]Shows{{Fact: fact.DampSlab, Weight: 3}, {Fact: fact.YoungSlab, Weight: 1}},
				"Is the ground below wet, or without a vapour barrier?",
				Remedy{"Remove to the ground, let it dry, a moisture barrier, coat again.", 0.80, true}},
			{"salts", "Salts or acid left in the ground", 0.8, false, []Shows{{Fact: fact.OffPH, Weight: 2.5}},
				"Was the ground etched, or salted in winter?", strip()},
			{"ratio", "Uncured parts that draw water", 0.7, false,
				[]Shows{{Fact: fact.OffRatio, Weight: 2.5}, {Fact: fact.UnderMixed, Weight: 2}},
				"Is the liquid sticky or does it smell of hardener?", remove()},
			{"solvent", "Solvent shut in by the next coat", 0.4, false,
				[]Shows{{Fact: fact.TooEarly, Weight: 2}, {Fact: fact.ThickFilm, Weight: 1}}, "", strip()},
		}},
		{"ghosting", "Joints or fillings show through", []Cause{
			{"shrank", "The filler shrank or was not flush", 1.1, false, nil, "Is there a step or a dip to be felt?",
				abrade("Fill again, sand flush, another coat.")},
			{"thin", "A thin coat over them", 0.9, false,
				[]Shows{{Fact: fact.ThinFilm, Weight: 2.5}, {Fact: fact.UnevenFilm, Weight: 1}}, "",
				abrade("Another coat.")},
			{"moved", "The joint moves", 0.7, false, nil, "Is it wider in the cold?",
				Remedy{"Cut it through and fill it with what stays soft.", 0.15, false}},
			{"gloss", "The filler takes the coat in otherwise", 0.6, false, []Shows{{Fact: fact.OpenPores,
				Weight: 1}},
				"Is only the gloss another, and nothing to be felt?", abrade("Prime it, another coat.")},
		}},
		{"tyres", "Lifts under hot tyres", []Cause{
			{"bond", "It never bonded: smooth, dirty or weak ground", 1.2, false,
				[]Shows{{Fact: fact.NoProfile, Weight: 2}, {Fact: fact.Contaminated, Weight: 2},
					{Fact: fact.WeakSlab, Weight: 2}, {Fact: fact.OpenSurface, Weight: 1.5}},
				"Does it come off to bare ground?", strip()},
			{"soft", "Driven on before it had cured", 0.9, false, []Shows{{Fact: fact.ColdSlab, Weight: 1.5}},
				"Was it driven on before the time that was given?", abrade("Abrade, another coat.")},
			{"product", "A coat that hot tyres soften", 0.7, false, nil,
				"Is it a one-part or a thin decorative coat?", strip()},
			{"ratio", "It was off its ratio and stayed soft", 0.5, false, []Shows{{Fact: fact.OffRatio,
				Weight: 2.5}}, "",
				remove()},
		}},
	}
}

// faceSymptoms lists what is seen on the face of a film and in what is thrown into it.
func faceSymptoms() []Symptom {
	return []Symptom{
		{"crazing", "Fine crazing", []Cause{
			{"cleaner", "A cleaner or solvent attacked it", 1.0, false, nil,
				"Was it cleaned with more than a neutral cleaner?",
				abrade("Abrade, another topcoat.")},
			{"hardener", "Too much hardener made it brittle", 0.8, false, []Shows{{Fact: fact.MuchHardener,
				Weight: 3}}, "",
				abrade("Abrade, another topcoat.")},
			{"light", "Light made it brittle", 0.7, false, []Shows{{Fact: fact.Ambers, Weight: 2}},
				"Has it yellowed, too?",
				abrade("A light-stable topcoat.")},
			{"thick", "A hard coat too thick over a soft one", 0.6, false,
				[]Shows{{Fact: fact.ThickFilm, Weight: 2}, {Fact: fact.TooEarly, Weight: 1.5}}, "",
				abrade("Abrade, a thin topcoat.")},
		}},
		{"peel", "Orange peel", []Cause{
			{"cold", "Cold and thick: it did not flow", 1.0, false, []Shows{{Fact: fact.ColdSlab, Weight: 2.5}},
				"Were the pails cold?", abrade("Sand flat, another coat.")},
			{"late", "It was rolled when it had begun to set", 0.9, false,
				[]Shows{{Fact: fact.SlowSection, Weight: 2}, {Fact: fact.JoinedLate, Weight: 2},
					{Fact: fact.Stood, Weight: 1.5}},
				"", abrade("Sand flat, another coat; smaller sections.")},
			{"thin", "Too little material to flow", 0.8, false, []Shows{{Fact: fact.ThinFilm, Weight: 2.5}}, "",
				abrade("Another coat at its film.")},
			{"nap", "A nap too long for the film", 0.8, false, nil, "Was it rolled with more than a 10 mm nap?",
				abrade("Sand flat, another coat with a short nap.")},
		}},
		{"short", "Flakes or sand short of rejection", []Cause{
			{"little", "Too little was thrown", 1.1, false, nil, "Was the broadcast used up before the end?",
				abrade("Scrape, another coat, broadcast again.")},
			{"skin", "The film had skinned before it was thrown", 0.9, false,
				[]Shows{{Fact: fact.SlowSection, Weight: 2}, {Fact: fact.Stood, Weight: 1.5},
					{Fact: fact.PouredLate, Weight: 2}},
				"", abrade("Scrape, another coat, broadcast again.")},
			{"thin", "Too thin a film to hold it", 0.9, false, []Shows{{Fact: fact.ThinFilm, Weight: 3}}, "",
				abrade("Scrape, another coat at its film, broadcast again.")},
			{"wind", "Wind or a fan carried it", 0.4, false, nil, "Did a door, fan or wind blow across?",
				abrade("Scrape, another coat, broadcast again.")},
		}},
		{"shade", "Another colour from one section to the next", []Cause{
			{"lots", "Lots of another shade", 1.1, false, []Shows{{Fact: fact.OtherLots, Weight: 3}}, "",
				abrade("Another coat of one lot over all of it.")},
			{"stirred", "Pigment or colour not stirred alike", 1.0, false, []Shows{{Fact: fact.UnderMixed,
				Weight: 1.5}},
				"Was colour added pail by pail, by eye?", abrade("Another coat, coloured in one vessel.")},
			{"uneven", "Another film from one section to the next", 0.8, false,
				[]Shows{{Fact: fact.UnevenFilm, Weight: 2.5}, {Fact: fact.ThinFilm, Weight: 1}}, "",
				abrade("Another coat.")},
		}},
	}
}

// edgeSymptoms lists what comes of what is shut in, of whipped air, and of edges.
func edgeSymptoms() []Symptom {
	return []Symptom{
		{"solvent", "Soft for long, smells of solvent", []Cause{
			{"early", "Coated over before the solvent was out", 1.2, false, []Shows{{Fact: fact.TooEarly,
				Weight: 3}}, "",
				Remedy{"Warm and air it for days; what stays soft comes out.", 0.05, false}},
			{"thick", "Too thick in one coat", 1.0, false, []Shows{{Fact: fact.ThickFilm, Weight: 3}}, "",
				Remedy{"Warm and air it for days; what stays soft comes out.", 0.05, false}},
			{"air", "Cold or closed room", 0.8, false, []Shows{{Fact: fact.ColdSlab, Weight: 2}},
				"Was the room closed without a fan?", Remedy{"Warm and air it for days.", 0.02, false}},
			{"thinned", "Too much thinner", 0.7, false, nil, "Was it thinned by more than the sheet allows?",
				remove()},
		}},
		{"craters", "Single craters", []Cause{
			{"outgassing", "The slab warmed up and breathed out", 1.1, false, []Shows{{Fact: fact.Warming,
				Weight: 3}}, "", seal()},
			{"pores", "Open pores that no primer had closed", 1.0, false, []Shows{{Fact: fact.OpenPores,
				Weight: 2.5}},
				"Do they lie over holes of the ground?", seal()},
			{"drops", "Drops of oil, silicone or water", 0.8, false,
				[]Shows{{Fact: fact.Contaminated, Weight: 2}, {Fact: fact.OpenWater, Weight: 1.5}}, "", seal()},
			{"air", "Air whipped in while mixing", 0.6, false, []Shows{{Fact: fact.OverMixed, Weight: 2}}, "",
				seal()},
		}},
		{"cloudy", "A cloudy flood coat", []Cause{
			{"damp", "Damp air or a cold surface", 1.1, false,
				[]Shows{{Fact: fact.NearDew, Weight: 3}, {Fact: fact.Damp, Weight: 2.5}}, "", wash()},
			{"cold", "Cold resin: fine bubbles stayed, or it was grainy", 1.0, false,
				[]Shows{{Fact: fact.ColdSlab, Weight: 2}},
				"Was the resin cold, thick or grainy when it was mixed?", wash()},
			{"whipped", "Air whipped in while mixing", 0.7, false, []Shows{{Fact: fact.OverMixed,
				Weight: 2.5}}, "", wash()},
			{"mist", "Too much alcohol or heat on it", 0.6, false, nil,
				"Was it misted or torched again and again?", wash()},
		}},
		{"ring", "A soft ring along an edge or where a pail stood", []Cause{
			{"residue", "Residue of a drained pail", 1.2, false, nil, "Was a pail left to drain there?", remove()},
			{"walls", "Scrapings of the pail's wall, unmixed", 1.0, false, []Shows{{Fact: fact.UnderMixed,
				Weight: 2.5}},
				"Was the edge cut in from the bottom of the pail?", remove()},
			{"cold", "The edge is colder than the floor", 0.5, false, []Shows{{Fact: fact.ColdSlab, Weight: 1.5}},
				"Is it along an outer wall or a door?", Remedy{"Warm it and wait.", 0.02, false}},
		}},
		{"tape", "Soft or wet under the tape", []Cause{
			{"shut", "The tape shut it in", 1.1, false, nil, "Was the tape left on until the film was hard?",
				Remedy{"Pull it, warm and air it; cut what stays soft.", 0.02, false}},
			{"wet", "The ground was wet or had solvent in it under the tape", 0.8, false,
				[]Shows{{Fact: fact.DampSlab, Weight: 2}}, "Was it wiped just before it was taped?", remove()},
			{"mixing", "It was mixed too short", 0.7, false, []Shows{{Fact: fact.UnderMixed, Weight: 2.5}},
				"", remove()},
		}},
	}
}
