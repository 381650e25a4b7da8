package roster

// PartCost is one part of what a plan costs.
type PartCost struct {
	Part   string `json:"part" enum:"late,bought,overtime,moves,travel,finish"`
	Value  int64  `json:"value" doc:"Weighted slots late; missed gaps bought off; slots of overtime; weighted bookings moved; slots of travel; slot at which all is done"`
	Bound  int64  `json:"bound" doc:"No plan has less, where the parts before are as low as theirs"`
	Proven bool   `json:"proven" doc:"Least, with the parts before it"`
}

// Answer is a plan as it is told.
type Answer struct {
	Optimal   bool       `json:"optimal" doc:"Every part is proven least"`
	Objective []PartCost `json:"objective" doc:"Weightiest first; compared one after the other"`
	Bookings  []Booking  `json:"bookings" doc:"In the order of the problem's tasks"`
}

// Told is the plan with its parts by name.
func (p Plan) Told() Answer {
	a := Answer{Optimal: p.Optimal(), Objective: make([]PartCost, Parts), Bookings: p.Bookings}
	for i, name := range [Parts]string{Late: "late", Bought: "bought", Overtime: "overtime", Moving: "travel",
		Finish: "finish", Moves: "moves"} {
		a.Objective[i] = PartCost{Part: name, Value: p.Cost[i], Bound: p.Bound[i], Proven: i < p.Proven}
	}
	return a
}
