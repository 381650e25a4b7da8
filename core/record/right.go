package record

// ForLeads tells whether an event is one that only who leads a day may log: overriding a
// gate, closing the day, signing the hand-over, saying what a fault turned out to be, and
// striking what somebody else logged.
func ForLeads(e *Event, struck *Event) bool {
	switch e.Kind {
	case Gated:
		return e.Body.Reason != ""
	case Closed, Signed, Found:
		return true
	case Struck:
		return struck != nil && struck.Person != e.Person
	}
	return false
}
