package current

import (
	"slices"
	"testing"

	"nephelon/core/measure"
	"nephelon/core/record"
)

// Worked by hand: sections of 20, 20 and 40 m² side by side, the last one takes 24 min to lay. Once the first is
// begun, the third is laid as the next one: it is section 2 now, meets no edge, and is mixed at minute 10 as section 2
// was; what was section 2 is mixed 27 min later and meets both; all is laid at minute 54 as before.
func TestAnotherOrder(t *testing.T) {
	plan := hall()
	joined := measure.Span(700)
	b := plan.Coats[0].Batches
	b[1].Beside, b[1].Passage.Joined = []int{1}, &joined
	b[2].Beside, b[2].Passage.Joined = []int{2}, &joined
	b[2].Card.Area, b[2].Passage.Laid, b[2].Passage.Done = 40, 1800+1440, 1800+1620
	because := record.Body{Reason: "Ada: the sun reaches it"}
	begun, third := logged(0, record.Meets, batch(1), record.Body{}), logged(5, record.Ordered, batch(3), because)
	got := Changed(plan, []record.Event{begun, third}).Coats[0].Batches
	if got[1].Card.Area != 40 || got[2].Card.Area != 20 || got[1].Card.Section != 2 || got[1].ID != string(batch(2)) ||
		got[2].Number != 3 {
		t.Errorf("%+v\n%+v", got[1], got[2])
	}
	if len(got[1].Beside) != 0 || got[1].Passage.Joined != nil || !slices.Equal(got[2].Beside, []int{1, 2}) ||
		got[2].Passage.Joined == nil {
		t.Errorf("edges: %v and %v", got[1].Beside, got[2].Beside)
	}
	if got[1].Passage.Meets != 600 || got[2].Passage.Meets != 600+1620 || got[2].Passage.Laid != 54*60 {
		t.Errorf("mixed at %v and %v, all laid at %v", got[1].Passage.Meets, got[2].Passage.Meets, got[2].Passage.Laid)
	}
	if was := plan.Coats[0].Batches; was[1].Card.Area != 20 || !slices.Equal(was[2].Beside, []int{2}) {
		t.Error("the issued plan is changed")
	}
	same := func(name string, events ...record.Event) {
		t.Helper()
		got := Changed(plan, events).Coats[0].Batches
		if got[1].Card.Area != 20 || got[2].Card.Area != 40 || !slices.Equal(got[2].Beside, []int{2}) {
			t.Errorf("%s changes the order: %+v", name, got)
		}
	}
	same("one that is begun", begun, logged(3, record.Poured, batch(3), record.Body{}), third)
	same("one after which nothing is free", begun, logged(3, record.LeftOut, batch(2), because), third)
	same("the next one", begun, logged(5, record.Ordered, batch(2), because))
	same("one that is not there", begun, logged(5, record.Ordered, batch(9), because))
	same("a voided one", begun, third, logged(6, record.Struck, "", record.Body{Struck: third.ID}))
	// Twice: what was second comes back before the third.
	twice := Changed(plan, []record.Event{begun, third, logged(6, record.Ordered, batch(3), because)}).Coats[0].Batches
	if twice[1].Card.Area != 20 || twice[2].Card.Area != 40 || !slices.Equal(twice[2].Beside, []int{2}) ||
		twice[2].Passage.Laid != 54*60 {
		t.Errorf("twice: %+v", twice)
	}
}
