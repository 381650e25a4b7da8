package school

import "slices"

// Questions lists every question with its answers, their reasons and their
// consequences: common practice, no source.
func Questions() []Question {
	return slices.Concat(mixingQuestions(), layingQuestions(), detailQuestions())
}

// mixingQuestions lists those about preparation and mixing.
func mixingQuestions() []Question {
	return []Question{
		ask(KeyOpening, "Mechanical preparation", func(m *Methods) *Opening { return &m.Opening },
			answer(Grind, "Grind", "Works on anything hard and leaves a profile that can be seen.",
				"Silica dust: shroud and HEPA vacuum. Edges take a hand grinder."),
			answer(ShotBlast, "Shot-blast", "Fast on large floors, with a deep, even profile.",
				"Leaves tracks that thin films show; edges are still ground."),
			answer(Screen, "Screen with 60–80 grit", "Gentle, for floors that are open already.",
				"Does not open a power-trowelled floor."),
			answer(Etch, "Etch with acid", "Needs no machine.",
				"Does not work through paint or sealer; must be neutralised, rinsed and dried overnight."),
		),
		ask("acid", "Where acid is used", func(m *Methods) *Acid { return &m.Acid },
			answer(Muriatic, "Muriatic", "Strong: open in one pass or two.",
				"Fumes; always acid into water, never near bleach; stains what it reaches."),
			answer(Citric, "Citric", "Milder on people and metal.", "Slower, more passes."),
		),
		ask(KeyFiller, "Filling cracks and holes", func(m *Methods) *Filler { return &m.Filler },
			answer(EpoxyFiller, "Thickened epoxy", "The strongest.", "Cures overnight."),
			answer(BodyFiller, "Polyester body filler", "Sandable in half an hour, so that work goes on the same day.",
				"May show through light colours: tint the primer."),
			answer(WetPutty, "Wet-on-wet over filler", "No waiting and nothing to sand.",
				"Only with a putty made for it; deep fills shrink and ripple."),
		),
		ask("kits", "Batch size", func(m *Methods) *Kits { return &m.Kits },
			answer(WholeKits, "Whole kits, several at once where they fit",
				"Nothing is measured, so the ratio is right; fewer joints.",
				"Several kits in one pail have a shorter pot life than one."),
			answer(OneKit, "One kit at a time", "Nothing is measured, and each pail has the pot life of its sheet.",
				"More batches, more joints."),
			answer(HalfKits, "Half kits", "Calmer on hot days and single-handed.", "Every batch is divided by hand."),
			answer(ThirdKits, "Third kits", "For the hottest days and small crews.", "Three chances a kit to miss the ratio."),
			answer(Measured, "Measured batches", "Equal sections, whatever the kit.",
				"A clean measure or a scale for every batch."),
		),
		ask("first", "Charging order", func(m *Methods) *First { return &m.First },
			answer(AFirst, "A first", "The resin, the larger part, is there already.",
				"The last of it clings under the hardener."),
			answer(BFirst, "B first", "The thin hardener wets the pail, so less resin sticks unmixed to its wall.",
				"Only where the pail holds both with headroom."),
		),
		ask("tinting", "Colour", func(m *Methods) *Tinting { return &m.Tinting },
			answer(TintAfter, "After mixing", "A ratio error cannot hide in the colour.", "Takes minutes of the pot life."),
			answer(TintBefore, "Into A beforehand", "Saves minutes when they count.", "Pigment adds to A: weigh A without it."),
		),
	}
}

// layingQuestions lists those about laying a coat and what lies between coats.
func layingQuestions() []Question {
	return []Question{
		ask("residue", "Pail residue", func(m *Methods) *Residue { return &m.Residue },
			answer(SecondBucket, "Pour into a second bucket and mix again", "What clung unmixed stays behind.",
				"Another bucket for each batch."),
			answer(SecondLong, "Pour into a second bucket and mix as long again", "As some makers of tops ask for it.",
				"Another bucket, and minutes of the pot life."),
			answer(Scrape, "One bucket, scraped", "Fewer buckets.", "Rests on whoever scrapes."),
			answer(Remix, "Scrape out and remix on the surface", "Nothing is lost.",
				"A soft spot if it was not mixed after all."),
			answer(Drain, "Hole in the pail, drained", "The last comes out.", "What drains last was mixed least."),
		),
		ask("laying", "Laying a coat", func(m *Methods) *Laying { return &m.Laying },
			answer(PourAndSpread, "Pour and spread", "Levels, and empties the pail at once, so it cannot heat.",
				"A thin fast paint puddles."),
			answer(DipAndRoll, "Dip and roll", "Even with thin paints.",
				"A thick coat from a tray comes out in bands, and the tray heats."),
		),
		ask(KeyBetween, "Between coats", func(m *Methods) *Between { return &m.Between },
			answer(ByWindow, "By the window of the sheet", "Only what has closed is abraded.",
				"The window must be kept or noticed."),
			answer(SandEvery, "Sand every coat", "Bonds whatever the hour, and takes nibs off.",
				"Dust, hours and discs for every coat."),
			answer(WhileTacky, "Recoat while tacky", "Coats grow together, nothing to sand.", "The whole system in one run."),
		),
		ask(KeyOldPaint, "Sound old paint", func(m *Methods) *OldPaint { return &m.OldPaint },
			answer(RemovePaint, "Always remove", "The coating holds no better than what is below it.", "Hours of grinding."),
			answer(CoatOver, "Coat over it when sound", "Saves the grinding.",
				"A spot that was not sound takes the floor with it."),
		),
	}
}

// detailQuestions lists those about details of a floor and of its materials.
func detailQuestions() []Question {
	return []Question{
		ask("warmth", "Temperature of the parts", func(m *Methods) *Warmth { return &m.Warmth },
			answer(KeepCool, "Keep cool", "Longer pot life.", "Stiff to mix and to spread."),
			answer(WarmUp, "Warm to make it flow", "Bubbles leave, it levels.", "About 10 K halve the pot life."),
		),
		ask("bubbles", "Bubbles", func(m *Methods) *Bubbles { return &m.Bubbles },
			answer(LeaveBubbles, "Leave alone", "Most leave by themselves.", "Not in a fast or cold coat."),
			answer(Torch, "Torch", "Quick over large tops.",
				"Never near alcohol or solvent; scorches and ambers if held still."),
			answer(Alcohol, "Mist of alcohol", "No flame.", "Never with a torch; too much makes veins muddy."),
		),
		ask("thin", "First coat", func(m *Methods) *Thinning { return &m.Thin },
			answer(NeverThin, "Never thin", "The sheet holds.", "A cold coat wets badly."),
			answer(ThinFirst, "Thin the first coat", "Soaks into open surfaces.",
				"Only solvent-borne products, within their sheet; shrinks and burns."),
		),
		ask("resting", "After mixing", func(m *Methods) *Resting { return &m.Resting },
			answer(RestBySheet, "As the sheet says", "The maker knows.", "None."),
			answer(Rest, "Let it stand", "Solvent-borne two-packs blush less.", "Takes from the pot life."),
			answer(UseAtOnce, "Use at once", "A 100 % solids mix only ages in the pail.",
				"Wrong for a product that needs to stand."),
		),
		ask("texture", "Texture", func(m *Methods) *Texture { return &m.Texture },
			answer(StirredIn, "Grit in the topcoat", "Even, one pass.", "Sinks in the pail: keep stirring."),
			answer(Scattered, "Grit scattered", "Stands higher.", "As even as the hand that throws it."),
		),
		ask("doors", "At doors", func(m *Methods) *Doors { return &m.Doors },
			answer(UnderDoor, "Stop under the closed door", "The line cannot be seen.",
				"Needs the door's place to be measured."),
			answer(BeyondDoor, "Run beyond it", "Wears better at the threshold.", "The edge shows from outside."),
		),
		ask("shelf", "Past its date", func(m *Methods) *Shelf { return &m.Shelf },
			answer(ByDate, "The date counts", "The maker answers for it until then.", "Good pails are thrown away."),
			answer(IfSealed, "Still good if sealed", "A sealed pail changes little.",
				"Yours alone to answer for: try a cup first."),
		),
		ask("session", "A large floor", func(m *Methods) *Session { return &m.Session },
			answer(WholeFloor, "In one session", "No joints.", "Enough people for the whole of it."),
			answer(TapeLines, "Sections with tape lines", "A small crew can.", "Breaks only at joints, doorways and saw cuts."),
		),
	}
}
