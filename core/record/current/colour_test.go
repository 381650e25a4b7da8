package current

import (
	"testing"

	"nephelon/core/kit"
	"nephelon/core/record"
)

// A clear cup of 2 kg is made copper at 20 g to the kg: 40 g; one that is coloured or poured stays as it is.
func TestACupOfAnotherColour(t *testing.T) {
	plan := hall()
	plan.Coats[0].Batches[0].Card.Cups = []kit.Cup{{Name: "Copper", Medium: "c", Mass: 1, Pigment: 0.02},
		{Name: "Black", Medium: "b", Mass: 1, Pigment: 0.03}, {Name: "Clear", Mass: 2}}
	cup := func(n int) *int { return &n }
	copper := logged(5, record.Tinted, batch(1), record.Body{Cup: cup(3), Text: "Copper", Reason: "Ada: more veins"})
	mixed := logged(3, record.Mixed, batch(1), record.Body{})
	got := Changed(plan, []record.Event{mixed, copper}).Coats[0].Batches[0].Card.Cups
	if p := float64(got[2].Pigment); got[2].Name != "Copper" || p < 0.03999 || p > 0.04001 {
		t.Errorf("%+v", got[2])
	}
	if plan.Coats[0].Batches[0].Card.Cups[2].Name != "Clear" {
		t.Error("the issued plan is changed")
	}
	for name, events := range map[string][]record.Event{
		"poured": {mixed, logged(4, record.Cup, batch(1), record.Body{Cup: cup(3)}), copper},
		"spread": {mixed, logged(4, record.Spread, batch(1), record.Body{}), copper},
		"coloured": {mixed, logged(5, record.Tinted, batch(1),
			record.Body{Cup: cup(2), Text: "Copper", Reason: "Ada: more veins"})},
		"unknown":  {logged(5, record.Tinted, batch(1), record.Body{Cup: cup(3), Text: "Green", Reason: "Ada"})},
		"no cup":   {logged(5, record.Tinted, batch(1), record.Body{Cup: cup(9), Text: "Copper", Reason: "Ada"})},
		"no batch": {logged(5, record.Tinted, batch(9), record.Body{Cup: cup(3), Text: "Copper", Reason: "Ada"})},
	} {
		if got := Changed(plan, events).Coats[0].Batches[0].Card.Cups; got[1].Name != "Black" || got[2].Name != "Clear" {
			t.Errorf("%s: %+v", name, got)
		}
	}
	// Before it is mixed, a cup can be any colour of the card.
	early := Changed(plan, []record.Event{logged(5, record.Tinted, batch(1),
		record.Body{Cup: cup(2), Text: "Copper", Reason: "Ada: more veins"})}).Coats[0].Batches[0].Card.Cups
	if early[1].Name != "Copper" {
		t.Errorf("early: %+v", early)
	}
}
